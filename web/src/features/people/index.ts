export { Join } from "./Join";
export { People } from "./People";
export { You } from "./You";
