// Whichever instrument a lesson has, as it is seen and pointed.
import type { Dispatch, SetStateAction } from "react";
import type { Aim, Look } from "../../../engine/practice";
import { Waiting } from "../../../ui/parts";
import { CirclesView } from "./CirclesView";
import { PaperView } from "./PaperView";
import { StaffView } from "./StaffView";
import { VialView } from "./VialView";
import type { ViewName, ViewProps } from "./views";

/** `small` while a screw is turned below it. */
export function View({ view, look, aim, onAim, small }: { view: ViewName; look: Look | null; aim: Aim; onAim: Dispatch<SetStateAction<Aim>>; small: boolean }) {
  if (!look) return <Waiting what="Pointing…" />;
  // Aim and look are those of the view.
  const as = <V extends ViewName>() => ({ look, aim, onAim, small }) as unknown as ViewProps<V>;
  switch (view) {
    case "circles":
      return <CirclesView {...as<"circles">()} />;
    case "vial":
      return <VialView {...as<"vial">()} />;
    case "paper":
      return <PaperView {...as<"paper">()} />;
    default:
      return <StaffView {...as<"staff">()} />;
  }
}
