// In which order a device fetches what is looked at without signal.
import { QueryClient } from "@tanstack/react-query";
import { prefetch } from "./prefetch";

const FLEET = {
  rows: [
    { tag: "TS-01", crew: null },
    { tag: "LV-07", crew: "Bramble" },
    { tag: "PO-02", crew: "Heron" },
  ],
};
const RECORDS = { records: [{ id: "r1" }, { id: "r2" }] };

/** A client whose server answers these and says what was asked for, in order. */
function asking(refused = "") {
  const asked: string[] = [];
  const answer = (key: readonly unknown[]) => {
    asked.push(key.filter((part) => typeof part === "string").join(" "));
    if (asked.at(-1) === refused) throw new Error("no signal");
    return key[0] === "fleet" ? FLEET : key.includes("tam") ? RECORDS : {};
  };
  const client = new QueryClient();
  const fetch = ((options: { queryKey: readonly unknown[] }) =>
    Promise.resolve().then(() => answer(options.queryKey))) as never;
  client.fetchQuery = fetch;
  client.fetchInfiniteQuery = fetch;
  return { client, asked };
}

it("begins with what the crew holds, then every instrument, then what was recorded", async () => {
  const { client, asked } = asking();
  await prefetch(client, "tam", "Bramble");
  const place = (part: string) => asked.findIndex((each) => each.includes(part));
  expect(asked[0]).toContain("fleet");
  expect(asked.slice(1, 4).every((each) => each.includes("LV-07"))).toBe(true);
  expect(asked.filter((each) => each === "instrument TS-01").length).toBeGreaterThan(0);
  expect(place("instrument PO-02")).toBeLessThan(place("tam"));
  expect(place("tam")).toBeLessThan(place("r1"));
  expect(place("r2")).toBeLessThan(place("history TS-01"));
});

it("ends at the first that is not answered", async () => {
  const { client, asked } = asking("instrument TS-01");
  await expect(prefetch(client, "tam", "Bramble")).rejects.toThrow("no signal");
  expect(asked.at(-1)).toBe("instrument TS-01");
});
