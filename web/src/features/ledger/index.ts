export { Ledger } from "./Ledger";
