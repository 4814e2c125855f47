// What several pieces of the plan speak of.
import type { Schemas } from "../../api/client";

export type Rule = Schemas["RuleOut"];
export type Named = Schemas["Named"];
export type JobKit = Schemas["JobKit"];
export type Kit = Schemas["Kit"];
export type Fitness = Schemas["Fitness"];
