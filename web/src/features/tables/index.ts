export { TablePage } from "./TablePage";
