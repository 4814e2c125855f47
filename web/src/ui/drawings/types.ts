import type { Schemas } from "../../api/client";

export type CirclePicture = Schemas["CirclePicture"];
export type TubePicture = Schemas["TubePicture"];
export type DeviationsPicture = Schemas["DeviationsPicture"];
