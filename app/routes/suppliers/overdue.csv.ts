export { overdueCsv as loader } from "./overdue-file";
