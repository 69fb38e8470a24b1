export { pricesCsv as loader } from "./saved-files";
