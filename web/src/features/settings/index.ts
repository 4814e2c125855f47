export { Settings } from "./Settings";
export { Models } from "./Models";
export { Limits } from "./Limits";
export { SafeKeeping } from "./SafeKeeping";
