// What the page says of a level that is followed, and the reading it is about, belong together.
import { renderHook } from "@testing-library/react";
import type { SetUpDraft } from "../../documents/setUp";
import { useFollowed } from "./useFollowed";

const seen = vi.hoisted(() => ({ level: null as null | { along: string; across: string }, answered: "" }));
vi.mock("../../hooks/useLiveLevel", () => ({ useLiveLevel: () => seen.level }));
vi.mock("./useGuide", () => ({
  useGuide: (draft: SetUpDraft) => {
    const asked = draft.document.observations.log?.at(-1)?.saw?.level?.along ?? "";
    return {
      answer: { guide: { step: { prompt: "plate-electronic", name: "plate" } } },
      fresh: asked === seen.answered,
      wrong: null,
    };
  },
}));

const draft = {
  document: { kind: "set-up", observations: { method: "plummet-first", log: [] } },
} as unknown as SetUpDraft;

it("names the reading that was judged until the next one is, gone or not", () => {
  const { result, rerender } = renderHook(() => useFollowed(draft, null));
  const along = () => [result.current.live?.saw?.level?.along, result.current.judged?.saw?.level?.along];
  expect(along()).toEqual([undefined, undefined]);
  seen.level = { along: "40", across: "0" };
  rerender();
  expect(along()).toEqual(["40", undefined]);
  seen.answered = "40";
  rerender();
  expect(along()).toEqual(["40", "40"]);
  seen.level = { along: "90", across: "0" };
  rerender();
  expect(along()).toEqual(["90", "40"]);
  seen.level = null;
  rerender();
  expect(along()).toEqual([undefined, "40"]);
  seen.answered = "";
  rerender();
  expect(along()).toEqual([undefined, undefined]);
});
