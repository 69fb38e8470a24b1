import { may } from "../../../core/people/roles";
import { FILE_KINDS } from "../../../exchange/csv/kinds";
import { MOST_BYTES } from "../../../exchange/csv/limits";
import { forbid, refuse } from "../../../server/acts/desk";
import { actOf, isFileKind } from "../../../server/acts/files/load-file";
import { loadInWorker } from "../../../server/jobs/loads";
import { programAct } from "../../web/page";
import { Upload } from "../../web/sent";

/** Loads a file that another program sends: multipart, with `kind` and `file`, and `mark` for the decimal mark. */
export const action = programAct("keep own inbox", (desk, input, { request }) => {
  const kind = String(input.kind ?? "");
  const { file } = input;
  if (!isFileKind(kind)) return refuse("kind", `Say what the file holds: ${FILE_KINDS.join(", ")}.`);
  if (!may(desk.person.roles, actOf(kind))) return forbid(`Your role does not load ${kind}.`, "kind");
  if (!(file instanceof Upload)) return refuse("file", "Send the file in the field “file”.");
  if (file.size > MOST_BYTES) return refuse("file", "The file is larger than 20 MB. Split it.");
  if (input.mark !== undefined && input.mark !== null && input.mark !== "point" && input.mark !== "comma")
    return refuse("mark", "Say point or comma.");
  const mark = input.mark === "comma" ? "," : ".";
  return loadInWorker(desk, kind, file.bytes, { mark }, request.signal);
});

export const loader = () =>
  Response.json({ ok: false, problems: [{ field: "", says: "Send a file by POST." }] }, { status: 405 });
