import { z } from "zod";
import { parseMoney } from "../../../core/numbers/money";
import { BEYOND, TOLERANCE_SCOPES, TOO_EARLY, type ToleranceScope } from "../../../core/receiving/tolerance";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { CountedQuantity, Id, orNone, Percent, PercentOver, text, Whole } from "../fields";

export const KeepTolerance = z.object({
  /** The one that is changed; without it, one is made. */
  tolerance: orNone(Id).default(null),
  scope: z.enum(TOLERANCE_SCOPES, "Say for what it holds."),
  /** Codes and names as people know them; which of them are needed follows from the scope. */
  supplier: text(40).default(""),
  category: text(60).default(""),
  item: text(40).default(""),
  order: text(20).default(""),
  position: orNone(Whole(1, 9_999)).default(null),
  overPercent: orNone(PercentOver).default(null),
  overQuantity: orNone(CountedQuantity).default(null),
  underPercent: orNone(Percent).default(null),
  underQuantity: orNone(CountedQuantity).default(null),
  earlyDays: orNone(Whole(0, 730)).default(null),
  lateDays: orNone(Whole(0, 730)).default(null),
  pricePercent: orNone(Percent).default(null),
  priceAmount: text(20).default(""),
  beyond: orNone(z.enum(BEYOND, "Choose what becomes of what is beyond.")).default(null),
  early: orNone(z.enum(TOO_EARLY, "Choose what becomes of what is too early.")).default(null),
});
type Input = z.output<typeof KeepTolerance>;

/** What a scope names, by its ids; or which of its fields names nothing of ours. */
type Named = { supplier: number | null; category: string | null; item: number | null; orderLine: number | null };
const NOTHING: Named = { supplier: null, category: null, item: null, orderLine: null };

function named(db: Db, v: Input): Done<Named> {
  const supplier = () =>
    sql<{ id: number }>(db, "SELECT id FROM supplier WHERE code = @t OR name = @t").get({ t: v.supplier })?.id ?? null;
  const item = () => sql<{ id: number }>(db, "SELECT id FROM item WHERE code = ?").get(v.item)?.id ?? null;
  switch (v.scope) {
    case "house":
      return done(NOTHING);
    case "supplier": {
      const id = supplier();
      return id === null ? refuse("supplier", "There is no such supplier.") : done({ ...NOTHING, supplier: id });
    }
    case "category":
      return sql(db, "SELECT 1 FROM item WHERE category = ? COLLATE NOCASE AND category <> ''").get(v.category)
        ? done({ ...NOTHING, category: v.category })
        : refuse("category", "No item is of this category.");
    case "item": {
      const id = item();
      return id === null ? refuse("item", "There is no such item.") : done({ ...NOTHING, item: id });
    }
    case "item at supplier": {
      const [of, from] = [item(), supplier()];
      if (of === null) return refuse("item", "There is no such item.");
      return from === null
        ? refuse("supplier", "There is no such supplier.")
        : done({ ...NOTHING, item: of, supplier: from });
    }
    case "order line": {
      const line = sql<{ id: number }>(
        db,
        `SELECT l.id FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
         WHERE (o.number = @order OR CAST(o.id AS TEXT) = @order) AND l.position = @position AND l.kind <> 'charge'`,
      ).get({ order: v.order, position: v.position });
      return line ? done({ ...NOTHING, orderLine: line.id }) : refuse("position", "No goods stand on such a line.");
    }
  }
}

/** For the house and all it buys, a lead says; for one line of an order, whoever writes orders does. */
const actFor = (scope: ToleranceScope) => (scope === "order line" ? "judge goods" : "keep tolerances");

/** Keeps what may be kept of a delivery that is not as ordered. Each value is looked up on its own; what is empty is not set. */
export function keepTolerance(desk: Desk, raw: unknown): Done<{ tolerance: number }> {
  const input = checked(KeepTolerance, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, actFor(v.scope), (tx) => {
    const of = named(tx.db, v);
    if (!of.ok) return of;
    const price = v.priceAmount === "" ? null : parseMoney(v.priceAmount, theCompany(tx.db).currency);
    if (price && (!price.ok || price.value < 0))
      return refuse("priceAmount", price.ok ? "An amount is not below nought." : price.says);
    const values = {
      ...v,
      ...of.value,
      priceAmount: price?.ok ? price.value : null,
    };
    if (VALUES.every((key) => values[key] === null))
      return refuse("overPercent", "Set at least one value; what is empty is looked up further.");
    const there = sql<{ id: number }>(
      tx.db,
      `SELECT id FROM tolerance WHERE scope = @scope AND coalesce(supplier, 0) = coalesce(@supplier, 0) AND coalesce(category, '') = coalesce(@category, '')
         AND coalesce(item, 0) = coalesce(@item, 0) AND coalesce(order_line, 0) = coalesce(@orderLine, 0)`,
    ).get(values);
    if (there && there.id !== v.tolerance) return refuse("scope", "There is one for this already: change that one.");
    if (v.tolerance !== null && !sql(tx.db, "SELECT 1 FROM tolerance WHERE id = ?").get(v.tolerance))
      return refuse("", "There is no such tolerance any more.");
    const { id } = sql<{ id: number }>(
      tx.db,
      `INSERT INTO tolerance (id, scope, supplier, category, item, order_line, over_percent, over_quantity, under_percent, under_quantity, early_days, late_days,
         price_percent, price_amount, beyond, early)
       VALUES (@tolerance, @scope, @supplier, @category, @item, @orderLine, @overPercent, @overQuantity, @underPercent, @underQuantity, @earlyDays, @lateDays,
         @pricePercent, @priceAmount, @beyond, @early)
       ON CONFLICT (id) DO UPDATE SET scope = excluded.scope, supplier = excluded.supplier, category = excluded.category, item = excluded.item,
         order_line = excluded.order_line, over_percent = excluded.over_percent, over_quantity = excluded.over_quantity,
         under_percent = excluded.under_percent, under_quantity = excluded.under_quantity, early_days = excluded.early_days, late_days = excluded.late_days,
         price_percent = excluded.price_percent, price_amount = excluded.price_amount, beyond = excluded.beyond, early = excluded.early RETURNING id`,
    ).get(values)!;
    tx.record("tolerance.kept", `tolerance ${id}`, values);
    return done({ tolerance: id });
  });
}

const VALUES = [
  "overPercent",
  "overQuantity",
  "underPercent",
  "underQuantity",
  "earlyDays",
  "lateDays",
  "pricePercent",
  "priceAmount",
  "beyond",
  "early",
] as const;

/** Takes a tolerance away: its values are looked up further from then on. */
export function dropTolerance(desk: Desk, raw: unknown): Done<{ dropped: true }> {
  const input = checked(z.object({ tolerance: Id }), raw);
  if (!input.ok) return input;
  const { tolerance } = input.value;
  const found = sql<{ scope: ToleranceScope }>(desk.db, "SELECT scope FROM tolerance WHERE id = ?").get(tolerance);
  return once(desk, actFor(found?.scope ?? "house"), (tx) => {
    const { changes } = sql(tx.db, "DELETE FROM tolerance WHERE id = ?").run(tolerance);
    if (changes === 0) return refuse("", "There is no such tolerance any more.");
    tx.record("tolerance.dropped", `tolerance ${tolerance}`, found);
    return done({ dropped: true });
  });
}
