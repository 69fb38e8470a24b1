export { pricesXlsx as loader } from "../../web/saved-files";
