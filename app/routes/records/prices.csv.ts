export { pricesCsv as loader } from "../../web/saved-files";
