export { ordersXlsx as loader } from "./saved-files";
