export { RecordPage } from "./Record";
