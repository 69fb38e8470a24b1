export { auditXml as loader } from "./journal-files";
