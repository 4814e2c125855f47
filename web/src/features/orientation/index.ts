export { NewOrientation } from "./NewOrientation";
export { Orient } from "./Orient";
export { AnglePage } from "./Angle";
