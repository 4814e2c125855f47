export { NewOrientation } from "./NewOrientation";
export { OrientationPage } from "./Orientation";
export { AnglePage } from "./Angle";
