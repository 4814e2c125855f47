// Whichever instrument a lesson has, as it is seen and pointed.
import type { Dispatch, SetStateAction } from "react";
import type { Aim, InstrumentLesson, Look } from "../../../engine/practice";
import { Waiting } from "../../../ui/parts";
import { CirclesView } from "./CirclesView";
import { DigitsView } from "./DigitsView";
import { PaperView } from "./PaperView";
import { RingView } from "./RingView";
import { ScaleView } from "./ScaleView";
import { StaffView } from "./StaffView";
import { VialView } from "./VialView";
import type { ViewName, ViewProps } from "./views";

/** `small` while a screw is turned below it. */
export function View({
  lesson,
  look,
  aim,
  onAim,
  small,
  seconds,
}: {
  lesson: InstrumentLesson;
  look: Look | null;
  aim: Aim;
  onAim: Dispatch<SetStateAction<Aim>>;
  small: boolean;
  seconds: number;
}) {
  if (!look) return <Waiting what="Pointing…" />;
  // Aim and look are those of the view.
  const as = <V extends ViewName>() => ({ lesson, look, aim, onAim, small, seconds }) as unknown as ViewProps<V>;
  switch (lesson.view) {
    case "circles":
      return <CirclesView {...as<"circles">()} />;
    case "vial":
      return <VialView {...as<"vial">()} />;
    case "paper":
      return <PaperView {...as<"paper">()} />;
    case "digits":
      return <DigitsView {...as<"digits">()} />;
    case "scale":
      return <ScaleView {...as<"scale">()} />;
    case "ring":
      return <RingView {...as<"ring">()} />;
    default:
      return <StaffView {...as<"staff">()} />;
  }
}
