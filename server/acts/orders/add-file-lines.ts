import type { ItemId } from "../../../core/ids";
import { parseDecimal } from "../../../core/numbers/decimal";
import { showPercent } from "../../../core/numbers/format";
import { parseQuantity, quantityText, stock, toPurchase, wholeUp } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { unitsOf } from "../../queries/needs/codes";
import { readSource, readSourcesOf } from "../../queries/needs/positions";
import { type OrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { type AddedLine, AddLines, insertLine, itemOf, lineFor, MOST_LINES } from "./add-lines";
import { keepLine } from "./change-order";
import { LineFields } from "./line-fields";
import type { FileLine } from "./lines-from-file";
import { lastPosition, orderFor, touchOrder } from "./order-for";
import { priceOrder } from "./price-order";

/**
 * Adds the lines of a file to a draft: all of them as they stand there, or none, with a sentence at each line that cannot be. A
 * price that is the one looked up stays looked up; any other is a typed one.
 */
export function addFileLines(
  desk: Desk,
  raw: { order: unknown; version: unknown },
  file: readonly FileLine[],
): Done<{ version: number; lines: number[] }> {
  const which = checked(AddLines.omit({ add: true }), raw);
  if (!which.ok) return which;
  const { order, version } = which.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const head = found.value;
    const last = lastPosition(tx.db, order);
    if (last + file.length > MOST_LINES) return refuse("", `An order has at most ${MOST_LINES} lines.`);
    const problems: Problem[] = [];
    const more = new Map<number, { typed: Typed["more"]; at: (p: Problem) => void }>();
    const ids = file.map((f, i) => {
      const at = (p: Problem) => problems.push({ field: "file", says: `Line ${f.line}: ${p.says}` });
      const typed = typedOf(tx.db, head, f);
      if (!typed.ok) {
        typed.problems.forEach(at);
        return 0;
      }
      const own: Problem[] = [];
      const line = lineFor(tx.db, desk, head, typed.value.added, "", own);
      own.forEach(at);
      if (!line) return 0;
      more.set(insertLine(tx.db, head, line, last + i + 1), { typed: typed.value.more, at });
      return [...more.keys()].at(-1)!;
    });
    if (problems.length === 0)
      for (const was of readOrderLines(tx.db, order, head.currency)) {
        const own = more.get(was.id);
        if (own && Object.keys(own.typed).length) keepLine(tx.db, head, was, own.typed).forEach(own.at);
      }
    if (problems.length) return refuseAll(problems.slice(0, 200));
    keepLookedUp(tx.db, desk, head, new Set(ids));
    const next = touchOrder(tx.db, order, version);
    priceOrder(tx.db, order, desk.day);
    tx.record("order.lines-added", `order ${order}`, { lines: file });
    return done({ version: next, lines: ids });
  });
}

/** Prices of the file that are just what would be looked up are looked up from now on. */
function keepLookedUp(db: Db, desk: Desk, head: OrderHead, ids: ReadonlySet<number>): void {
  const given = readOrderLines(db, head.id, head.currency).filter((l) => ids.has(l.id) && l.sourcing !== null);
  const source = sql(db, "UPDATE order_line SET price_source = ? WHERE id = ?");
  for (const l of given) source.run('{"kind":"reference cost"}', l.id);
  const { lines } = priceOrder(db, head.id, desk.day);
  const now = new Map(lines.map((l) => [l.id, l]));
  const back = sql(db, "UPDATE order_line SET price = ?, price_source = ?, blanket_line = NULL WHERE id = ?");
  for (const l of given)
    if (l.priceSource.kind === "typed" && now.get(l.id)!.price !== l.price)
      back.run(l.price, JSON.stringify(l.priceSource), l.id);
}

interface Typed {
  added: AddedLine;
  more: ReturnType<typeof LineFields.parse>;
}

/** A line of a file in the fields of a draft, or what is wrong with it. */
function typedOf(db: Db, head: OrderHead, f: FileLine): Done<Typed> {
  const problems: Problem[] = [];
  const no = (says: string) => {
    problems.push({ field: "file", says });
    return undefined;
  };
  const item = f.code ? itemOf(db, head, f.code)[0] : undefined;
  const quantity =
    f.quantity === ""
      ? ""
      : (inTheirUnit(db, head, item?.id ?? null, f) ?? no(unitSays(db, head, item?.id ?? null, f)) ?? "");
  const standing = readSourcesOf(db, item ? [item.id] : []).find((s) => s.supplier === head.supplier)?.standing ?? 0;
  if (f.standing !== "") {
    const read = parseDecimal(f.standing, 2);
    if (!read.ok) no(read.says);
    else if (read.value !== standing)
      no(
        `The file has a standing discount of ${f.standing} %, and with ${head.supplierName} it is ${showPercent(standing)}. Put the difference into the discount of the line, or leave the column out.`,
      );
  }
  const named = (what: string, table: string, columns: readonly string[], name: string, as = "id"): unknown => {
    if (name === "") return undefined;
    const where = columns.map((c) => `${c} = @name COLLATE NOCASE`).join(" OR ");
    const row = sql<{ found: unknown }>(
      db,
      `SELECT ${as} AS found FROM ${table} WHERE ${where} ORDER BY 1 LIMIT 1`,
    ).get({ name });
    return row ? row.found : no(`There is no ${what} “${name.slice(0, 40)}” here.`);
  };
  const unit = item ? undefined : named("unit", "unit", ["code", "name"], f.unit, "code");
  const more = {
    ...(f.tax === "" ? {} : { taxRate: f.tax }),
    ...(f.spread ? { spread: f.spread } : {}),
    ...(f.ownNote ? { ownNote: f.ownNote } : {}),
    ...(f.bin ? { bin: f.bin } : {}),
    ...(f.account ? { account: f.account } : {}),
    budget: named("budget line", "budget", ["code"], f.budget),
    job: named("job", "job", ["code"], f.job),
    store: named("store", "store", ["code", "name"], f.store),
    ...(f.loads
      ? { instalments: loadsOf(f.loads) ?? no(`The loads are written like “5 on 2026-12-10; 3 on 2027-01-10”.`) }
      : {}),
  };
  const extra = checked(LineFields, Object.fromEntries(Object.entries(more).filter(([, v]) => v !== undefined)));
  if (!extra.ok) for (const p of extra.problems) no(p.says);
  const added = checked(AddLines.shape.add.element, {
    code: f.code,
    words: item ? "" : f.words,
    ...(item ? {} : { kind: f.kind }),
    ...(unit ? { unit } : {}),
    quantity,
    price: f.price === "" ? "" : `${f.price} ${f.currency}`.trim(),
    ...(f.discount === "" ? {} : { discount: f.discount }),
    required: f.required,
    note: f.note,
  });
  if (!added.ok) for (const p of added.problems) no(p.says);
  return problems.length || !extra.ok || !added.ok
    ? refuseAll(problems)
    : done({ added: added.value, more: extra.value });
}

/** The quantity in the unit that the supplier sells the item in; undefined where the unit of the file does not come to that. */
function inTheirUnit(db: Db, head: OrderHead, item: ItemId | null, f: FileLine): string | undefined {
  const read = parseQuantity(f.quantity);
  if (item === null || f.unit === "" || !read.ok) return f.quantity; // it says so itself
  const source = readSourcesOf(db, [item]).find((s) => s.supplier === head.supplier);
  const called = (u: { code: string; name: string }) =>
    [u.code, u.name].some((n) => n.toLowerCase() === f.unit.toLowerCase());
  const theirs = sql<{ code: string; name: string }>(
    db,
    "SELECT code, name FROM unit WHERE code = coalesce((SELECT unit FROM sourcing WHERE id = ?), (SELECT unit FROM item WHERE id = ?))",
  ).get(source?.id ?? null, item)!;
  if (called(theirs)) return f.quantity;
  const [stockUnit] = unitsOf(db, item);
  if (!source || !stockUnit || !called(stockUnit)) return undefined;
  const bought = toPurchase(stock(read.value), source.packing.factor);
  return source.packing.brokenPacks || wholeUp(bought) === bought ? quantityText(bought) : undefined;
}

function unitSays(db: Db, head: OrderHead, item: ItemId | null, f: FileLine): string {
  const source = item === null ? undefined : readSourcesOf(db, [item]).find((s) => s.supplier === head.supplier);
  const sold = source ? readSource(db, source.id)!.packing : null;
  const [stockUnit] = item === null ? [] : unitsOf(db, item);
  if (sold && stockUnit?.name.toLowerCase() === f.unit.toLowerCase())
    return `${f.quantity} ${f.unit} are no whole ${sold.unit} of ${quantityText(sold.factor)} ${stockUnit.name}.`;
  return `${head.supplierName} sells it by ${sold?.unit ?? stockUnit?.name}, not by “${f.unit.slice(0, 20)}”.`;
}

/** "5 on 2026-12-10; 3 on 2027-01-10". */
function loadsOf(text: string): { quantity: string; required: string }[] | undefined {
  const loads = text.split(";").map((part) => /^\s*([\d.]+) on (\d{4}-\d{2}-\d{2})\s*$/.exec(part));
  return loads.every((l) => l !== null) ? loads.map((l) => ({ quantity: l[1]!, required: l[2]! })) : undefined;
}
