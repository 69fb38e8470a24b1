export { journalCsv as loader } from "./journal-files";
