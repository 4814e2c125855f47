export { People } from "./People";
