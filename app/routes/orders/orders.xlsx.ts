export { ordersXlsx as loader } from "../../web/saved-files";
