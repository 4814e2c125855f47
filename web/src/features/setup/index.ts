export { Stand } from "./Stand";
export { SetUp } from "./SetUp";
