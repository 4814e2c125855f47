// The drawing of a check, whatever its kind.
import type { Result } from "../api/client";
import { PegLine } from "./PegLine";
import { CircleDrawing } from "./drawings/CircleDrawing";
import { DeviationsDrawing } from "./drawings/DeviationsDrawing";
import { TubeDrawing } from "./drawings/TubeDrawing";

type Picture = Result["picture"];

/** Whether there is anything to draw yet: an empty drawing takes no room. */
export function somethingDrawn(picture: NonNullable<Picture>): boolean {
  if (picture.draws === "pegs")
    return picture.setups.some((setup) => [setup.a, setup.b].some((staff) => staff.read_m !== null));
  if (picture.draws === "tube") return picture.rows.length > 0;
  return picture.points.some((point) => !("value" in point) || point.value !== null);
}

export function CheckPicture({ picture }: { picture: Picture | undefined }) {
  if (!picture) return <p className="sub py-10 text-center">The drawing appears with the first readings.</p>;
  if (picture.draws === "pegs") return <PegLine picture={picture} />;
  if (picture.draws === "circle") return <CircleDrawing picture={picture} />;
  if (picture.draws === "tube") return <TubeDrawing picture={picture} />;
  return <DeviationsDrawing picture={picture} />;
}
