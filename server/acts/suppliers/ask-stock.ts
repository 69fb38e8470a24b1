import { z } from "zod";
import type { SourcingId, SupplierId } from "../../../core/ids";
import { listedPrice, netPrice, type UnitPrice } from "../../../core/numbers/money";
import { type PurchaseQty, purchase } from "../../../core/numbers/quantity";
import { type AskedLine, writeRequest } from "../../../exchange/availability/availability";
import { sql } from "../../db/open";
import { askService, type ServiceAnswer, type StockService } from "../../jobs/ask-service";
import { theCompany } from "../../queries/company";
import { type Askable, readAskable } from "../../queries/suppliers/their-stock";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { DayField, Id, QuantityField } from "../fields";

export const AskStock = z.object({
  lines: z
    .array(z.object({ sourcing: Id, quantity: QuantityField }))
    .min(1, "There is nothing to ask about.")
    .max(200, "At most 200 lines at once."),
  store: Id,
  wanted: DayField,
});

/** How each supplier who was asked answered, and what could not be told of single lines. */
export interface HeardStock {
  suppliers: { supplier: SupplierId; name: string; says: string | null; lines: SourcingId[] }[];
  wrong: { sourcing: SourcingId; says: string }[];
}

type Ask = (
  service: StockService,
  request: ReturnType<typeof writeRequest>,
  today: Desk["day"],
) => Promise<ServiceAnswer>;
interface Question extends Askable {
  quantity: PurchaseQty;
}

/**
 * Asks the suppliers of these records what they have and at what price, all at once, and keeps what they say. Nothing
 * that plans or orders changes by it. Who does not answer is told with a sentence; what the others say stands.
 */
export async function askStock(desk: Desk, raw: unknown, ask: Ask = askService): Promise<Done<HeardStock>> {
  const input = checked(AskStock, raw);
  if (!input.ok) return input;
  const { lines, store, wanted } = input.value;
  const place = sql<{ name: string; address: string }>(desk.db, "SELECT name, address FROM store WHERE id = ?").get(
    store,
  );
  if (!place) return refuse("store", "There is no such store.");
  const bySupplier = new Map<SupplierId, Question[]>();
  for (const { sourcing, quantity } of lines) {
    const about = readAskable(desk.db, sourcing);
    if (about?.address == null) continue;
    const of = bySupplier.get(about.supplier) ?? [];
    if (!of.some((q) => q.sourcing === sourcing))
      bySupplier.set(about.supplier, [...of, { ...about, quantity: purchase(quantity) }]);
  }
  if (bySupplier.size === 0)
    return refuse("", "None of them answers such questions: their records have no address for it.");
  const deliverTo = { name: theCompany(desk.db).name, address: place.address };
  const heard = await Promise.all(
    [...bySupplier.values()].map(async (questions) => {
      const { currency, address, token } = questions[0]!;
      const asked = questions.map(
        (q): AskedLine => ({
          line: String(q.sourcing),
          theirCode: q.theirCode,
          code: q.code,
          quantity: q.quantity,
          unit: q.unit,
          wanted,
        }),
      );
      const answer = await ask(
        { address: address!, token: token ?? "" },
        writeRequest(asked, { currency, deliverTo }),
        desk.day,
      );
      return { questions, answer };
    }),
  );
  return once(desk, "write orders", (tx) => {
    const keep = sql(
      tx.db,
      "INSERT INTO said_stock (sourcing, quantity, unit, factor, currency, standing, at, day, person, price, listed, valid_to, said) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    const wrong: HeardStock["wrong"] = [];
    const suppliers = heard.map(({ questions, answer }): HeardStock["suppliers"][number] => {
      const { supplier, supplierName: name } = questions[0]!;
      const asked = questions.map((q) => q.sourcing);
      if (!answer.ok) return { supplier, name, says: answer.says, lines: asked };
      const by = new Map(questions.map((q) => [String(q.sourcing), q]));
      for (const line of answer.reply.lines) {
        const q = by.get(line.line)!;
        if (!line.ok) wrong.push({ sourcing: q.sourcing, says: line.says });
        else
          keep.run(
            q.sourcing,
            q.quantity,
            q.unit,
            q.factor,
            q.currency,
            q.standing,
            desk.now,
            desk.day,
            desk.person.id,
            line.price,
            line.price === null ? null : listedFor(line.price, q.standing),
            answer.reply.until,
            JSON.stringify(line.depots),
          );
      }
      return { supplier, name, says: null, lines: asked };
    });
    tx.record("stock.asked", "suppliers", { suppliers, wrong });
    return done({ suppliers, wrong });
  });
}

/** The price on our list that comes to what they said; none where a whole discount leaves nothing to tell it from. */
function listedFor(price: UnitPrice, standing: number): UnitPrice | null {
  const listed = listedPrice(netPrice(price, 0, 0), standing, 0);
  return listed.ok ? listed.value : null;
}
