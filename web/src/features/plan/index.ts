export { Calendar } from "./Calendar";
export { DuePage } from "./DuePage";
export { Jobs } from "./Jobs";
export { KitPage } from "./Kit";
export { Rules } from "./Rules";
export { Service } from "./Service";
