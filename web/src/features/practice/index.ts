export { FaultPage } from "./instruments/FaultPage";
export { InstrumentPage } from "./instruments/InstrumentPage";
export { PeoplePage } from "./PeoplePage";
export { Practice } from "./Practice";
export { ProgressPage } from "./ProgressPage";
export { RunPage } from "./RunPage";
export { StandPage } from "./StandPage";
export { MorningPage } from "./MorningPage";
