import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Day } from "../../core/calendar/day";
import { MOST_XML_BYTES, readXml } from "../../exchange/xml-tree";
import type { Done } from "../acts/desk";
import { announceFromInbox } from "../acts/receiving/announce-load";
import { bankAnsweredByInbox } from "../acts/settling/bank-answers";
import { invoiceFromInbox } from "../acts/settling/invoice-from-file";
import { answerFromInbox } from "../acts/suppliers/answer-by-file";
import { isBusy } from "../db/busy";
import type { Db } from "../db/open";

/** A file that was written to within this time may not be whole yet. */
const SETTLED_MS = 2_000;
/** So many files are taken in one turn, so that a full folder holds up nobody. */
const MOST_A_TURN = 50;

export interface InboxTurn {
  taken: string[];
  refused: { file: string; says: string }[];
}

/**
 * Takes in what suppliers' systems put into the folder: order responses as XML, the oldest name first. What was kept goes to
 * `done`, what cannot be kept to `refused` with a text beside it that says why. A file that is still being written, or that
 * cannot be kept because the house is busy, stays for the next turn.
 */
export function takeInbox(
  db: Db,
  folder: string,
  {
    now,
    day,
    clock = now.getTime(),
  }: { now: Date; day: Day /** What files are dated by, where a day is fixed. */; clock?: number },
): InboxTurn {
  const turn: InboxTurn = { taken: [], refused: [] };
  if (!existsSync(folder)) return turn;
  const files = readdirSync(folder, { withFileTypes: true })
    .filter((f) => f.isFile() && /\.xml$/i.test(f.name))
    .map((f) => f.name)
    .sort()
    .filter((name) => clock - statSync(join(folder, name)).mtimeMs >= SETTLED_MS)
    .slice(0, MOST_A_TURN);
  for (const file of files) {
    const path = join(folder, file);
    try {
      const answer =
        statSync(path).size > MOST_XML_BYTES
          ? ({ ok: false, problems: [{ says: "The file is larger than 5 MB." }] } as const)
          : fromInbox(db, readFileSync(path), { now: now.toISOString(), day });
      if (answer.ok) {
        putAway(folder, "done", file, now);
        turn.taken.push(file);
      } else {
        const says = answer.problems.map((p) => p.says).join("\n");
        const name = putAway(folder, "refused", file, now);
        writeFileSync(join(folder, "refused", `${name}.txt`), `${says}\n`);
        turn.refused.push({ file, says });
      }
    } catch (e) {
      if (!isBusy(e)) throw e;
      return turn;
    }
  }
  return turn;
}

/** A despatch advice announces a load, an invoice is entered, a bank reports; anything else is an answer to an order. */
function fromInbox(db: Db, bytes: Uint8Array, at: { now: string; day: Day }): Done<unknown> {
  const read = readXml(bytes);
  const name = read.ok ? read.root.name : "";
  if (name === "DespatchAdvice") return announceFromInbox(db, bytes, at);
  if (name === "Invoice" || name === "CreditNote") return invoiceFromInbox(db, bytes, at);
  if (read.ok && read.root.namespace.includes("pain.002")) return bankAnsweredByInbox(db, bytes, at);
  return answerFromInbox(db, bytes, at);
}

/** Moves a file; under another name where one of its name lies there already. */
function putAway(folder: string, to: "done" | "refused", file: string, now: Date): string {
  mkdirSync(join(folder, to), { recursive: true });
  const name = existsSync(join(folder, to, file)) ? `${now.getTime()}-${file}` : file;
  renameSync(join(folder, file), join(folder, to, name));
  return name;
}
