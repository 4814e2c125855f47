export { Round } from "./Readiness";
export { RoundBegin } from "./BeginReadiness";
