import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { quantityText } from "../../../core/numbers/quantity";
import { csvText } from "../../../exchange/csv/write";
import type { RefillPaper } from "../../../exchange/pdf/consigned-paper";
import { consignedWords } from "../../../exchange/pdf/consigned-words";
import { type Db, madeId, sql } from "../../db/open";
import { comingNumber, nextNumber } from "../../db/series";
import {
  type AgreementHead,
  type AgreementItem,
  notOnDay,
  readAgreementHead,
  readAgreementItems,
} from "../../queries/consigned/agreement";
import { ofAgreement } from "../../queries/consigned/papers";
import { readRefill } from "../../queries/consigned/refills";
import { logoNow, readLogo } from "../../queries/papers/templates";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayField, DayOrNone, Id, QuantityField, text, Version } from "../fields";
import { newLink } from "../orders/order-link";
import { type DrawConsigned, drawConsignedHere, keepLetter, writeLetter } from "./letters";

export const AskRefill = z.object({
  agreement: Id,
  /** The day on which it should be here; empty: as soon as the agreement says. */
  wanted: DayOrNone.optional(),
  rows: z
    .array(z.object({ agreementItem: Id, quantity: QuantityField }))
    .min(1, "Choose what is asked for.")
    .max(500, "At most 500 at once."),
});

/** The lines of a refill as a file: our code, theirs, the name, how much, the unit, and the day. */
export const refillCsv = (p: RefillPaper): string =>
  csvText([
    ["refill", "item", "their_code", "name", "quantity", "unit", "wanted"],
    ...p.lines.map((l) => [p.number, l.code, l.theirCode, l.name, quantityText(l.quantity), l.unit, p.wanted]),
  ]);

/**
 * Asks a supplier to refill their goods: a letter with the paper, the same as a file, and the private link on which they say
 * when it comes. It is no purchase, and follows no ladder (domain-goods §13).
 */
export async function askRefill(
  desk: Desk,
  raw: unknown,
  { site = "", draw = drawConsignedHere }: { site?: string; draw?: DrawConsigned } = {},
): Promise<Done<{ refill: number; number: string }>> {
  const input = checked(AskRefill, raw);
  if (!input.ok) return input;
  const { agreement, rows } = input.value;
  const a = readAgreementHead(desk.db, agreement);
  if (!a || a.revision === 0) return refuse("", "There is no such agreement.");
  const no = notOnDay(a, desk.day);
  if (no) return refuse("", no);
  const items = new Map(readAgreementItems(desk.db, agreement).map((i) => [i.id, i]));
  const problems = wrongRows(items, rows);
  if (problems.length) return refuseAll(problems);
  const slowest = Math.max(...rows.map((r) => items.get(r.agreementItem)!.refillDays));
  const wanted = input.value.wanted ?? addDays(desk.day, slowest);
  if (wanted < desk.day) return refuse("wanted", "This day has passed.");
  const number = comingNumber(desk.db, "refill", desk.day);
  const letter = await letterOf(desk, a, { number, wanted, rows, items, site, draw });
  if (!letter.ok) return letter;
  return once(desk, "ask for refills", (tx) => {
    if (nextNumber(tx.db, "refill", desk.day) !== number)
      return refuse("", "Another refill was asked for while this one was written. Send it again.");
    const refill = Number(
      madeId(
        sql(tx.db, "INSERT INTO refill (number, agreement, wanted, day, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
          number,
          agreement,
          wanted,
          desk.day,
          desk.person.id,
          desk.now,
        ),
      ),
    );
    const add = sql(tx.db, "INSERT INTO refill_line (refill, agreement_item, quantity) VALUES (?, ?, ?)");
    for (const r of rows) add.run(refill, r.agreementItem, r.quantity);
    keepLetter(tx.db, desk, agreement, letter.value);
    tx.record("refill.asked", `agreement ${agreement}`, {
      number,
      wanted,
      rows,
      to: letter.value.contacts.map((c) => c.mail),
    });
    return done({ refill, number });
  });
}

type Rows = z.output<typeof AskRefill>["rows"];

function wrongRows(items: ReadonlyMap<number, AgreementItem>, rows: Rows): Problem[] {
  return rows.flatMap((r, i): Problem[] => {
    const item = items.get(r.agreementItem);
    if (!item || item.gone) return [{ field: `rows.${i}.quantity`, says: "This item is not in the agreement." }];
    if (rows.findIndex((x) => x.agreementItem === r.agreementItem) !== i)
      return [{ field: `rows.${i}.quantity`, says: `${item.name} stands here twice.` }];
    if (r.quantity % item.pack !== 0)
      return [{ field: `rows.${i}.quantity`, says: `${item.name} comes in packs of ${quantityText(item.pack)}.` }];
    return [];
  });
}

async function letterOf(
  desk: Desk,
  a: AgreementHead,
  of: {
    number: string;
    wanted: Day;
    rows: Rows;
    items: ReadonlyMap<number, AgreementItem>;
    site: string;
    draw: DrawConsigned;
  },
) {
  const { db } = desk;
  const common = ofAgreement(db, a, desk.person.name);
  const codes = sql<{ code: string }>(db, "SELECT their_code AS code FROM sourcing WHERE supplier = ? AND item = ?");
  const paper: RefillPaper = {
    ...common,
    kind: "refill",
    number: of.number,
    day: desk.day,
    agreement: a.number ?? "",
    wanted: of.wanted,
    lines: of.rows.map((r) => {
      const item = of.items.get(r.agreementItem)!;
      return {
        name: item.name,
        code: item.code,
        theirCode: codes.get(a.supplier, item.item)?.code ?? "",
        unit: item.unitCode,
        quantity: r.quantity,
      };
    }),
  };
  const words = consignedWords(common.language).letter;
  return writeLetter(db, desk, a, {
    subject: words.refillSubject(of.number, common.company.name),
    body: words.refillBody(showDay(of.wanted, "0000", common.locale, false), a.storeName),
    attachments: [
      {
        name: `refill-${of.number}.pdf`,
        type: "application/pdf",
        bytes: await of.draw(paper, readLogo(db, logoNow(db))),
      },
      { name: `refill-${of.number}.csv`, type: "text/csv", bytes: Buffer.from(refillCsv(paper)) },
    ],
    link: newLink(),
    site: of.site,
  });
}

const OfRefill = z.object({ refill: Id, version: Version });

/** Keeps the day that a supplier promised for a refill, as they said it. */
export const PromiseRefill = OfRefill.extend({ day: DayField, said: text(300).default("") });

/** Writes down, or takes over the link, when a refill comes. Inside a transaction. */
export function keepPromise(
  db: Db,
  now: string,
  today: Day,
  v: z.output<typeof PromiseRefill>,
): Done<{ number: string }> {
  const f = readRefill(db, v.refill);
  if (!f) return refuse("", "There is no such refill.");
  if (f.version !== v.version) return stale("Somebody changed it meanwhile. Look again.");
  if (f.open === 0) return refuse("", `Nothing of refill ${f.number} is to come any more.`);
  if (v.day < today) return refuse("day", "This day has passed.");
  sql(db, "UPDATE refill SET promised = ?, said = ?, said_at = ?, version = version + 1 WHERE id = ?").run(
    v.day,
    v.said,
    now,
    v.refill,
  );
  return done({ number: f.number });
}

export function promiseRefill(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(PromiseRefill, raw);
  if (!input.ok) return input;
  return once(desk, "ask for refills", (tx) => {
    const kept = keepPromise(tx.db, desk.now, desk.day, input.value);
    if (kept.ok) tx.record("refill.promised", `refill ${input.value.refill}`, input.value);
    return kept;
  });
}

/** Gives up what is open of a refill: nothing more of it is waited for. */
export function giveUpRefill(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(OfRefill.extend({ reason: text(300, 3, "Say why.") }), raw);
  if (!input.ok) return input;
  const { refill, version, reason } = input.value;
  return once(desk, "ask for refills", (tx) => {
    const f = readRefill(tx.db, refill);
    if (!f) return refuse("", "There is no such refill.");
    if (f.version !== version) return stale("Somebody changed it meanwhile. Look again.");
    if (f.open === 0) return refuse("", `Nothing of refill ${f.number} is to come any more.`);
    sql(tx.db, "UPDATE refill SET ended = ?, ended_why = ?, version = version + 1 WHERE id = ?").run(
      desk.day,
      reason,
      refill,
    );
    sql(tx.db, "UPDATE refill_line SET open = 0 WHERE refill = ? AND open = 1").run(refill);
    tx.record("refill.given-up", `refill ${refill}`, { number: f.number, reason });
    return done({ number: f.number });
  });
}
