export { Instrument } from "./Instrument";
