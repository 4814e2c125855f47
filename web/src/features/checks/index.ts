export { Begin } from "./Begin";
export { Choose } from "./Choose";
export { Entry } from "./Entry";
export { PlanPage } from "./Plan";
