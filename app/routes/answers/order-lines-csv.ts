export { orderLinesCsv as loader } from "./saved-files";
