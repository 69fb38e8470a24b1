export { csv as loader } from "./needs-file";
