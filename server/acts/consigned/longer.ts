import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { showDay, showQuantity } from "../../../core/numbers/format";
import { consignedWords } from "../../../exchange/pdf/consigned-words";
import { unitWord } from "../../../exchange/pdf/paper-words";
import { type Db, sql } from "../../db/open";
import { boundItem } from "../../queries/consigned/agreement";
import { ofAgreement } from "../../queries/consigned/papers";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, text, Whole } from "../fields";
import { newLink } from "../orders/order-link";
import { stockedItem } from "../stock/stock-paper";
import { keepLetter, writeLetter } from "./letters";
import { ripenTheirs } from "./ripen";

export const AskLonger = z.object({
  layers: z.array(Id).min(1, "Choose for which goods.").max(200, "At most 200 at once."),
  days: Whole(1, 365),
});

interface Asked {
  layer: number;
  agreementItem: number;
  left: number;
  oursOn: Day;
}

/** Asks a supplier to leave goods with us for more days before they become ours: one letter, with the private link to answer. */
export async function askLonger(
  desk: Desk,
  raw: unknown,
  { site = "" }: { site?: string } = {},
): Promise<Done<{ asked: number }>> {
  const input = checked(AskLonger, raw);
  if (!input.ok) return input;
  const { layers, days } = input.value;
  ripenTheirs(desk);
  const found = askable(desk.db, layers);
  if (!found.ok) return found;
  const { agreement } = boundItem(desk.db, found.value[0]!.agreementItem)!;
  if (found.value.some((f) => boundItem(desk.db, f.agreementItem)!.agreement.id !== agreement.id))
    return refuse("layers", "Ask for goods of one agreement at a time.");
  const common = ofAgreement(desk.db, agreement, desk.person.name);
  const words = consignedWords(common.language).letter;
  const lines = found.value
    .map((f) => {
      const item = stockedItem(desk.db, boundItem(desk.db, f.agreementItem)!.item)!;
      return `  ${showQuantity(f.left, common.locale)} ${unitWord(common.language, item.unitCode)} ${item.name}, ${showDay(f.oursOn, "0000", common.locale, false)}`;
    })
    .join("\n");
  const letter = await writeLetter(desk.db, desk, agreement, {
    subject: words.longerSubject(common.company.name),
    body: words.longerBody(lines, days),
    attachments: [],
    link: newLink(),
    site,
  });
  if (!letter.ok) return letter;
  return once(desk, "ask for refills", (tx) => {
    const again = askable(tx.db, layers);
    if (!again.ok) return again;
    const add = sql(
      tx.db,
      "INSERT INTO longer (agreement, layer, quantity, days, asked, person) VALUES (?, ?, ?, ?, ?, ?)",
    );
    for (const f of again.value) add.run(agreement.id, f.layer, f.left, days, desk.now, desk.person.id);
    keepLetter(tx.db, desk, agreement.id, letter.value);
    tx.record("longer.asked", `agreement ${agreement.id}`, { layers, days });
    return done({ asked: layers.length });
  });
}

/** Deliveries of which something is left that becomes ours one day, and about which nobody asked already. */
function askable(db: Db, layers: readonly number[]): Done<Asked[]> {
  const rows = sql<Asked & { asked: number }>(
    db,
    `SELECT y.id AS layer, y.agreement_item AS agreementItem, y.rest AS "left", y.ours_on AS oursOn,
            EXISTS (SELECT 1 FROM longer l WHERE l.layer = y.id AND l.answer IS NULL) AS asked
     FROM consigned_layer y WHERE y.id IN (SELECT value FROM json_each(?)) AND y.rest > 0 AND y.ours_on IS NOT NULL ORDER BY y.ours_on, y.id`,
  ).all(JSON.stringify(layers));
  if (rows.length < new Set(layers).size) return refuse("layers", "Nothing of it is left that becomes ours one day.");
  if (rows.some((r) => r.asked)) return refuse("layers", "They were asked already, and have not answered yet.");
  return done(rows);
}

export const AnswerLonger = z.object({
  longer: Id,
  answer: z.enum(["yes", "no"], "Say yes or no."),
  said: text(300).default(""),
  by: text(80, 2, "Say who said it."),
});

/** Keeps what a supplier says to more days; with a yes it becomes ours so much later. Inside a transaction. */
export function keepLonger(db: Db, now: string, v: z.output<typeof AnswerLonger>): Done<{ oursOn: Day | null }> {
  const row = sql<{ layer: number; days: number; answer: string | null; rest: number; oursOn: Day | null }>(
    db,
    `SELECT l.layer, l.days, l.answer, y.rest, y.ours_on AS oursOn FROM longer l JOIN consigned_layer y ON y.id = l.layer WHERE l.id = ?`,
  ).get(v.longer);
  if (!row) return refuse("", "There is no such question.");
  if (row.answer !== null) return refuse("", "This was answered already.");
  if (v.answer === "yes" && (row.rest === 0 || row.oursOn === null))
    return refuse("", "Nothing of it is left: it was used, went back, or became ours meanwhile.");
  sql(db, "UPDATE longer SET answer = ?, answered = ?, said = ?, by = ? WHERE id = ?").run(
    v.answer,
    now,
    v.said,
    v.by,
    v.longer,
  );
  if (v.answer === "no") return done({ oursOn: row.oursOn });
  const oursOn = addDays(row.oursOn!, row.days);
  sql(db, "UPDATE consigned_layer SET ours_on = ? WHERE id = ?").run(oursOn, row.layer);
  return done({ oursOn });
}

/** Writes down what the supplier said by phone or mail. */
export function answerLonger(desk: Desk, raw: unknown): Done<{ oursOn: Day | null }> {
  const input = checked(AnswerLonger, raw);
  if (!input.ok) return input;
  return once(desk, "ask for refills", (tx) => {
    const kept = keepLonger(tx.db, desk.now, input.value);
    if (kept.ok) tx.record("longer.answered", `longer ${input.value.longer}`, input.value);
    return kept;
  });
}
