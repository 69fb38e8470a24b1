export { ordersCsv as loader } from "./saved-files";
