export { Points } from "./Points";
