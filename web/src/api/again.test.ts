// A request from before a change whose answer comes after it is made once more.
import { QueryClient, QueryObserver, defaultScheduler, notifyManager } from "@tanstack/react-query";
import { fetchAgain } from "./again";

/** A server that keeps each answer back until it is let go: `asked` holds one entry a request. */
function slow(client: QueryClient, key: string) {
  const asked: { answer: (rows: string[]) => void; refuse: () => void }[] = [];
  const queryFn = () =>
    new Promise<string[]>((answer, no) => void asked.push({ answer, refuse: () => no(new Error("cut off")) }));
  const observer = new QueryObserver(client, { queryKey: [key], queryFn, retry: false, networkMode: "always" });
  const stop = observer.subscribe(() => undefined);
  return { asked, shown: () => client.getQueryData([key]), stop };
}
// Answers are handed on at once, not by a timer, so that one turn of the event loop is enough.
beforeAll(() => notifyManager.setScheduler(queueMicrotask));
afterAll(() => notifyManager.setScheduler(defaultScheduler));
const passed = () => new Promise<void>((done) => setImmediate(done));

describe("fetching again after a change", () => {
  let client: QueryClient;
  beforeEach(() => (client = new QueryClient()));
  afterEach(() => client.clear());

  it("does not stay with a first answer that was asked for before the change", async () => {
    const links = slow(client, "links");
    const again = fetchAgain(client); // saved while the list was still on its way for the first time
    await passed();
    links.asked[0]?.answer([]); // read by the server before the change
    await passed();
    expect(links.asked).toHaveLength(2);
    links.asked[1]?.answer(["All instruments"]);
    await again;
    expect(links.shown()).toEqual(["All instruments"]);
    links.stop();
  });

  it("asks once more, not twice, for what stood already, and not at all for who is signed in", async () => {
    const links = slow(client, "links");
    const session = slow(client, "session");
    links.asked[0]?.answer(["old"]);
    session.asked[0]?.answer(["Ines"]);
    await passed();
    const again = fetchAgain(client);
    await passed();
    links.asked[1]?.answer(["new"]);
    await again;
    expect([links.asked.length, links.shown()]).toEqual([2, ["new"]]);
    expect(session.asked).toHaveLength(1);
    links.stop();
    session.stop();
  });

  it("knows that what was loaded ahead of a visit is old when its answer was on its way during the change", async () => {
    const asked: ((rows: string[]) => void)[] = [];
    const ahead = { queryKey: ["fleet"], queryFn: () => new Promise<string[]>((answer) => void asked.push(answer)) };
    client.setQueryData(["fleet"], ["as an hour ago"], { updatedAt: 1 });
    const loaded = client.prefetchQuery(ahead); // the pointer is over the link; nobody has the page open
    const again = fetchAgain(client);
    asked[0]?.(["as before the change"]);
    await Promise.all([loaded, again]);
    expect(client.getQueryState(["fleet"])?.isInvalidated).toBe(true);
  });

  it("asks again after a first request that was cut off, and only for what is named", async () => {
    const links = slow(client, "links");
    const points = slow(client, "points");
    const again = fetchAgain(client, { queryKey: ["links"] });
    await passed();
    links.asked[0]?.refuse();
    await passed();
    links.asked[1]?.answer(["All instruments"]);
    await again;
    expect(links.shown()).toEqual(["All instruments"]);
    expect(points.asked).toHaveLength(1);
    links.stop();
    points.stop();
  });
});
