import { may } from "../../../core/people/roles";
import { FILE_KINDS } from "../../../exchange/csv/kinds";
import { MOST_BYTES } from "../../../exchange/csv/limits";
import { forbid, refuse } from "../../../server/acts/desk";
import { actOf, isFileKind, type Loaded } from "../../../server/acts/files/load-file";
import { type AnnouncedLoad, announceByFile } from "../../../server/acts/receiving/announce-load";
import { answerByFile, type FiledAnswer } from "../../../server/acts/suppliers/answer-by-file";
import { loadInWorker } from "../../../server/jobs/loads";
import { programAct } from "../../web/page";
import { Upload } from "../../web/sent";

const NO_FILE = "Send the file in the field “file”.";

/** Loads a file that another program sends: multipart, with `kind` and `file`, and `mark` for the decimal mark. */
export const action = programAct<Loaded | FiledAnswer | { loads: AnnouncedLoad[] }>(
  "keep own inbox",
  (desk, input, { request }) => {
    const kind = String(input.kind ?? "");
    const { file } = input;
    if (kind === "order-response") {
      if (!may(desk.person.roles, "write orders")) return forbid("Your role does not take answers in.", "kind");
      if (!(file instanceof Upload)) return refuse("file", NO_FILE);
      return answerByFile(desk, file.bytes);
    }
    if (kind === "despatch-advice") {
      if (!may(desk.person.roles, "announce loads")) return forbid("Your role does not announce loads.", "kind");
      if (!(file instanceof Upload)) return refuse("file", NO_FILE);
      return announceByFile(desk, file.bytes);
    }
    if (!isFileKind(kind))
      return refuse(
        "kind",
        `Say what the file holds: ${[...FILE_KINDS, "order-response", "despatch-advice"].join(", ")}.`,
      );
    if (!may(desk.person.roles, actOf(kind))) return forbid(`Your role does not load ${kind}.`, "kind");
    if (!(file instanceof Upload)) return refuse("file", NO_FILE);
    if (file.size > MOST_BYTES) return refuse("file", "The file is larger than 20 MB. Split it.");
    if (input.mark !== undefined && input.mark !== null && input.mark !== "point" && input.mark !== "comma")
      return refuse("mark", "Say point or comma.");
    const mark = input.mark === "comma" ? "," : ".";
    return loadInWorker(desk, kind, file.bytes, { mark }, request.signal);
  },
);

export const loader = () =>
  Response.json({ ok: false, problems: [{ field: "", says: "Send a file by POST." }] }, { status: 405 });
