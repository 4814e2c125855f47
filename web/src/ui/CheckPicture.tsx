// The drawing of a check, whatever its kind.
import type { Result } from "../api/client";
import { PegLine } from "./PegLine";
import { CircleDrawing } from "./drawings/CircleDrawing";
import { DeviationsDrawing } from "./drawings/DeviationsDrawing";
import { TubeDrawing } from "./drawings/TubeDrawing";

type Picture = Result["picture"];

/** `waits`: what is said while there is nothing to draw yet; a two-peg test has words of its own. */
export function CheckPicture({ picture, waits }: { picture: Picture | undefined; waits?: string }) {
  if (!picture && waits) return <p className="sub py-10 text-center">{waits}</p>;
  if (!picture || !("draws" in picture)) return <PegLine picture={picture ?? null} />;
  if (picture.draws === "circle") return <CircleDrawing picture={picture} />;
  if (picture.draws === "tube") return <TubeDrawing picture={picture} />;
  return <DeviationsDrawing picture={picture} />;
}
