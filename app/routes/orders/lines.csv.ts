export { orderLinesCsv as loader } from "../../web/saved-files";
