export { BudgetPage } from "./Budget";
