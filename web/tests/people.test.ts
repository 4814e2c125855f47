// Passwords, leavers and lost tablets by screen; two tabs of one tablet.
import { open, otherDevice, page, title, until } from "./page";
import { switchUser } from "./sheet";

it("a manager gives a password and lets a leaver go", async () => {
  const merryn = {
    username: "merryn",
    name: "Merryn Oake",
    role: "crew",
    crew: "Thrift",
    password: "heron-quarry-basalt",
  };
  expect((await (await otherDevice("Ines Calder")).send("POST", "people", merryn)).status).toBe(201);
  await open("/angles", { who: "Ines Calder" });
  await page.button(/^Ines Calder: password/).click();
  await page.role("menuitem", "Password and sessions").click();
  await page.role("navigation", "Settings").role("link", "People").click();
  const row = page.css("[data-person=merryn]");
  await row.button("Change").click();
  const dialog = page.role("dialog", "Merryn Oake");
  await dialog.label("New password (pass it on in person)").fill("merryn");
  await dialog.button("Set this password").click();
  await dialog.css(".fault").first().there();
  await dialog.label("New password (pass it on in person)").reads("merryn");
  await dialog.label("New password (pass it on in person)").fill("stone-lichen-coral");
  await dialog.button("Set this password").click();
  await page.text("Merryn Oake has a new password").there();
  await row.button("Change").click();
  await dialog.button("Has left").click();
  await row.says("Has left: cannot sign in");
  await row.button("Change").click();
  await dialog.button("Is back").click();
  await row.says("Crew chief, Thrift crew");
});

it("a chief sees only their own and a wrong password is named", async () => {
  await open("/settings/you", { wide: 390 });
  await page.role("heading", "Everyone").counts(0);
  await page.label("Current password").fill("not-the-old-one");
  await page.label("New password").fill("stone-lichen-coral");
  await page.button("Change password").click();
  await page.css(".fault").first().there();
  await page.label("New password").reads("stone-lichen-coral");
});

it("signed out in one tab the other shows nothing more", async () => {
  await open("/instruments/LV-02");
  await title.says("LV-02");
  // The other tab signs out, and says so to those of its device.
  const left = vi.spyOn(location, "assign").mockImplementation(() => undefined);
  const otherTab = new BroadcastChannel("naveta-session");
  otherTab.postMessage("signed-out");
  await until(() => left.mock.calls.length > 0);
  expect(left.mock.calls[0]).toEqual(["/"]);
  otherTab.close();
  // And this tab tells the others when it is the one that leaves.
  const heard: unknown[] = [];
  const listening = new BroadcastChannel("naveta-session");
  listening.onmessage = (event) => heard.push(event.data);
  await switchUser();
  await page.text("Who is at work?").there();
  await until(() => heard.includes("signed-out"));
  listening.close();
});

it("whoever signs out is asked who is at work, and told of no session that ended", async () => {
  await open("/bench", { who: "Jory Pell" });
  await title.there();
  const said: string[] = [];
  const watching = new MutationObserver(() => said.push(document.body.textContent ?? ""));
  watching.observe(document.body, { childList: true, subtree: true });
  await switchUser();
  await page.text("Who is at work?").there();
  watching.disconnect();
  expect(said.filter((text) => text.includes("Your session has ended"))).toEqual([]);
});
