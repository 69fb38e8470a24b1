export { pricesXlsx as loader } from "./saved-files";
