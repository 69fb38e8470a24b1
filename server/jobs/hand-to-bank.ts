import { existsSync, mkdirSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { transferOrderXml } from "../../exchange/iso20022/credit-transfer";
import { referenceOf } from "../acts/settling/bank-answers";
import { type Db, sql } from "../db/open";
import { readPayFrom, readPayList } from "../queries/settling/pay-lists";

/** The file of a pay list for the bank, as ISO 20022 pain.001; null where there is no such list or it was not released. */
export function bankFileOf(db: Db, id: number): { number: string; xml: string } | null {
  const sheet = readPayList(db, id);
  if (!sheet || sheet.head.state === "Written" || sheet.head.state === "Dropped") return null;
  const { head, lines } = sheet;
  const xml = transferOrderXml({
    number: head.number,
    made: head.released!,
    day: head.day,
    from: { name: readPayFrom(db).name, iban: head.iban, bic: head.bic },
    transfers: lines
      .filter((l) => l.state !== "Left out")
      .map((l) => ({
        reference: referenceOf(head.number, l),
        name: l.name,
        iban: l.iban,
        bic: l.bic,
        currency: l.currency,
        minor: l.total,
        about: l.parts.map((p) => p.number).join(", "),
      })),
  });
  return { number: head.number, xml };
}

/**
 * Lays the files of lists that the bank is to have into its folder, each once whatever happens between: it is written under
 * another name, noted as handed over, and gets its own name then. One that was noted and still bears the other name is
 * renamed the next time; what was taken out of the folder never comes again.
 */
export function handToBank(db: Db, folder: string, now: string): string[] {
  const lists = sql<{ id: number; number: string; handed: string | null }>(
    db,
    "SELECT id, number, handed FROM pay_list WHERE state = 'With the bank'",
  ).all();
  const handed: string[] = [];
  for (const { id, number, handed: before } of lists) {
    const part = join(folder, `${number}.xml.part`);
    if (before === null) {
      mkdirSync(folder, { recursive: true });
      writeFileSync(part, bankFileOf(db, id)!.xml);
      sql(db, "UPDATE pay_list SET handed = ? WHERE id = ?").run(now, id);
    } else if (!existsSync(part)) continue;
    renameSync(part, join(folder, `${number}.xml`));
    handed.push(number);
  }
  return handed;
}
