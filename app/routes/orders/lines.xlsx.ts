export { orderLinesXlsx as loader } from "../../web/saved-files";
