import { pause } from "../timers";

/** Kept from the moment the page begins. */
export const firstScreen = pause("firstScreen");
