/** Instruments that stand over a point and measure angles. */
export const SIGHTED = ["robotic-total-station", "total-station", "theodolite"];
/** Instruments that are set up: what stands on a tripod and is read. */
export const STAND_KINDS = [...SIGHTED, "level", "digital-level"];
