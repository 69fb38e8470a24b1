import { type Act, may } from "../../../core/people/roles";
import { FILE_KINDS } from "../../../exchange/csv/kinds";
import { MOST_BYTES } from "../../../exchange/csv/limits";
import { type Desk, type Done, forbid, refuse } from "../../../server/acts/desk";
import { actOf, isFileKind, type Loaded } from "../../../server/acts/files/load-file";
import { type AnnouncedLoad, announceByFile } from "../../../server/acts/receiving/announce-load";
import { type FiledInvoice, invoiceFromFile } from "../../../server/acts/settling/invoice-from-file";
import type { InvoicesEntered } from "../../../server/acts/settling/invoices-from-table";
import { type IssuedByFile, issueFromFile } from "../../../server/acts/stock/issue-from-file";
import { answerByFile, type FiledAnswer } from "../../../server/acts/suppliers/answer-by-file";
import { enterInWorker, loadInWorker } from "../../../server/jobs/loads";
import { programAct } from "../../web/page";
import { Upload } from "../../web/sent";

const NO_FILE = "Send the file in the field “file”.";

type TakenIn = Loaded | FiledAnswer | { loads: AnnouncedLoad[] } | IssuedByFile | FiledInvoice | InvoicesEntered;

/** Files that are no records: what each needs, and what takes it in. */
const PAPERS_IN: Record<
  string,
  { act: Act; no: string; take: (desk: Desk, bytes: Uint8Array) => Done<TakenIn> | Promise<Done<TakenIn>> }
> = {
  "order-response": { act: "write orders", no: "Your role does not take answers in.", take: answerByFile },
  "despatch-advice": { act: "announce loads", no: "Your role does not announce loads.", take: announceByFile },
  invoice: {
    act: "enter invoices",
    no: "Your role does not enter invoices.",
    take: (desk, bytes) => invoiceFromFile(desk, bytes),
  },
  invoices: {
    act: "enter invoices",
    no: "Your role does not enter invoices.",
    take: (desk, bytes) => enterInWorker(desk, bytes),
  },
  uses: { act: "move stock", no: "Your role does not issue goods.", take: issueFromFile },
};

/** Loads a file that another program sends: multipart, with `kind` and `file`, and `mark` for the decimal mark. */
export const action = programAct<TakenIn>("keep own inbox", (desk, input, { request }) => {
  const kind = String(input.kind ?? "");
  const { file } = input;
  const paper = Object.hasOwn(PAPERS_IN, kind) ? PAPERS_IN[kind] : undefined;
  if (paper) {
    if (!may(desk.person.roles, paper.act)) return forbid(paper.no, "kind");
    return file instanceof Upload ? paper.take(desk, file.bytes) : refuse("file", NO_FILE);
  }
  if (!isFileKind(kind))
    return refuse("kind", `Say what the file holds: ${[...FILE_KINDS, ...Object.keys(PAPERS_IN)].join(", ")}.`);
  if (!may(desk.person.roles, actOf(kind))) return forbid(`Your role does not load ${kind}.`, "kind");
  if (!(file instanceof Upload)) return refuse("file", NO_FILE);
  if (file.size > MOST_BYTES) return refuse("file", "The file is larger than 20 MB. Split it.");
  if (input.mark !== undefined && input.mark !== null && input.mark !== "point" && input.mark !== "comma")
    return refuse("mark", "Say point or comma.");
  const mark = input.mark === "comma" ? "," : ".";
  return loadInWorker(desk, kind, file.bytes, { mark }, request.signal);
});

export const loader = () =>
  Response.json({ ok: false, problems: [{ field: "", says: "Send a file by POST." }] }, { status: 405 });
