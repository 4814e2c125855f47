export { Round } from "./Round";
export { RoundBegin } from "./RoundBegin";
