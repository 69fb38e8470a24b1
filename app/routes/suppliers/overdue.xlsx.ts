export { overdueXlsx as loader } from "./overdue-file";
