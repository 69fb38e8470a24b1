export { openLinesCsv as loader } from "./open-lines-file";
