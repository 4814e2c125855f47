// The drawing of a check, whatever its kind.
import type { Result } from "../api/client";
import { PegLine } from "./PegLine";
import { CircleDrawing } from "./drawings/CircleDrawing";
import { DeviationsDrawing } from "./drawings/DeviationsDrawing";
import { TubeDrawing } from "./drawings/TubeDrawing";

type Picture = Result["picture"];

export function CheckPicture({ picture }: { picture: Picture | undefined }) {
  if (!picture) return <p className="sub py-10 text-center">The drawing appears with the first readings.</p>;
  if (picture.draws === "pegs") return <PegLine picture={picture} />;
  if (picture.draws === "circle") return <CircleDrawing picture={picture} />;
  if (picture.draws === "tube") return <TubeDrawing picture={picture} />;
  return <DeviationsDrawing picture={picture} />;
}
