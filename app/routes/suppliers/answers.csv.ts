import { answersFile } from "../../../server/queries/suppliers/answers-file";
import { fileAnswer } from "../../web/file-answer";
import { programPage } from "../../web/page";

/** What suppliers said, as a file; with `state=waits` only what is to be decided. */
export const loader = programPage("see orders", ({ db, url }) =>
  fileAnswer(answersFile(db, url.searchParams.get("state") === "waits"), "csv", "answers"),
);
