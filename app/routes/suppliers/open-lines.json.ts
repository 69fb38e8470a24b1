export { openLinesJson as loader } from "./open-lines-file";
