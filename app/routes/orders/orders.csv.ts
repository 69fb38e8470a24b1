export { ordersCsv as loader } from "../../web/saved-files";
