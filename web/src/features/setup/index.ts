export { NewSetUp } from "./NewSetUp";
export { SetUp } from "./SetUp";
