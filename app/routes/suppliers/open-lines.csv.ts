export { csv as loader } from "./open-lines-file";
