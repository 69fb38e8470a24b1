import { z } from "zod";
import { PAPERS_TO_SIGN, type Paper, paperName } from "../../../core/signoff/papers";
import { decide, type Process, type SigningAct } from "../../../core/signoff/process";
import { spoken } from "../../../core/signoff/rulebook";
import { type Db, sql } from "../../db/open";
import { PAPER_TABLE, readPaper } from "../../queries/signoff/papers";
import { readProcess } from "../../queries/signoff/process";
import { readRoster } from "../../queries/signoff/staff";
import { type Desk, type Done, done, refuse, stale, type Tx } from "../desk";
import { Id, Version } from "../fields";
import { keepProcess } from "./keep-process";

/** A paper in the version that a person saw. */
export const Which = z.object({
  paper: z.enum(PAPERS_TO_SIGN, "There is no such paper."),
  id: Id,
  version: Version,
});
export type Which = z.output<typeof Which>;

/** "Order 26-1042", and its number alone. */
export function nameOf(db: Db, paper: Paper, id: number): { name: string; number: string } {
  const number = readPaper(db, paper, id)?.number ?? null;
  return { name: paperName(paper, number), number: number ?? "" };
}

/** Decides an act on what waits of a paper and keeps what it made of it; the paper has another version then. */
export function actOn(
  tx: Tx,
  desk: Desk,
  { paper, id, version }: Which,
  act: SigningAct,
): Done<{ process: Process; name: string; number: string }> {
  const kept = readProcess(tx.db, paper, id);
  if (!kept) return refuse("", "This paper is not waiting for a signature any more.");
  const decided = decide(kept.process, act, desk.now, readRoster(tx.db, desk.day));
  if (!decided.ok) return refuse("", decided.says);
  const now = readPaper(tx.db, paper, id)!.version;
  if (now !== version) {
    const seat = kept.process.seats.find((s) => s.state === "waiting")!;
    return stale(`Something happened to it meanwhile: it waits for ${spoken(seat)} now. Look at it again.`);
  }
  keepProcess(tx.db, desk.now, kept, decided.process);
  sql(tx.db, `UPDATE ${PAPER_TABLE[paper]} SET version = version + 1 WHERE id = ?`).run(id);
  return done({ process: decided.process, ...nameOf(tx.db, paper, id) });
}
