/** Instruments that are set up: what stands on a tripod and is read. */
export const STAND_KINDS = ["robotic-total-station", "total-station", "theodolite", "level", "digital-level"];
