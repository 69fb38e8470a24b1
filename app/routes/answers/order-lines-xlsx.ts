export { orderLinesXlsx as loader } from "./saved-files";
