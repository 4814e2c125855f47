export { Yard } from "./Yard";
