export { breakdownXlsx as loader } from "./breakdown-file";
