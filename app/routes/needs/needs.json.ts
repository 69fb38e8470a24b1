export { json as loader } from "./needs-file";
