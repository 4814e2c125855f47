export { Begin } from "./Begin";
export { Choose } from "./Choose";
export { LooseSheet } from "./LooseSheet";
export { Entry } from "./Entry";
export { PlanPage } from "./Plan";
