export { json as loader } from "./open-lines-file";
