import { openLinesFile, readOpenInstalments } from "../../../server/queries/suppliers/open-lines";
import { fileAnswer } from "../../web/file-answer";
import { programPage } from "../../web/page";

/** What suppliers have still to bring, as a file. */
const asFile = (kind: "csv" | "json") =>
  programPage("see orders", ({ db, day }) =>
    fileAnswer(openLinesFile(readOpenInstalments(db, day), kind), kind, "open-lines"),
  );

export const openLinesCsv = asFile("csv");
export const openLinesJson = asFile("json");
