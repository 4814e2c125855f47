export { Compare } from "./Compare";
export { Instrument } from "./Instrument";
