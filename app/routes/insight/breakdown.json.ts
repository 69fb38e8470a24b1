export { breakdownJson as loader } from "./breakdown-file";
