// A level that sends its readings is followed at the step that asks for it: as if each had been given, and none is kept
// before somebody takes one or goes on. The next is asked about once the last was answered, however slow the device.
import { useState } from "react";
import { nowWithOffset } from "../../documents/draft";
import { type LogEntry, type SetUpDraft, logged } from "../../documents/setUp";
import type { Answered } from "../../hooks/useQuestion";
import { useLiveLevel } from "../../hooks/useLiveLevel";
import { type GuidedPreview, useGuide } from "./useGuide";

export function useFollowed(
  draft: SetUpDraft,
  step: string | null,
): { shown: SetUpDraft; live: LogEntry | null; judged: LogEntry | null; saying: Answered<GuidedPreview> } {
  const level = useLiveLevel();
  const [live, setLive] = useState<LogEntry | null>(null);
  const shown = live ? logged(draft, live) : draft;
  const saying = useGuide(shown, (step === null || step === live?.step ? live?.step : step) ?? null);
  const { answer, fresh, wrong } = saying;
  // What the page says is about this reading; the level has sent others since.
  const [judged, setJudged] = useState<LogEntry | null>(null);
  if (fresh && judged !== live) setJudged(live);
  const here = answer?.guide.step.prompt === "plate-electronic" ? answer.guide.step.name : null;
  // Whoever goes to another step is not held here by the level.
  const wanted = step === null || step === here ? here : null;
  if (live && (!level || !wanted)) setLive(null);
  else if (level && wanted && (fresh || wrong) && live?.saw?.level !== level)
    setLive({ step: wanted, at: nowWithOffset(), saw: { level } });
  return { shown, live, judged, saying };
}
