export { breakdownCsv as loader } from "./breakdown-file";
