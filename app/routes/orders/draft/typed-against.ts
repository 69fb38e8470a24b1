import { priceText } from "../../../../core/numbers/money";
import { quantityText } from "../../../../core/numbers/quantity";
import type { OrderSheet } from "../../../../server/queries/orders/order";
import type { Change, LineText } from "./use-draft";

/** What this person typed, against what somebody else has kept meanwhile. */
export function typedAgainst(mine: Change | null, sheet: OrderSheet) {
  const list: { what: string; theirs: string; mine: string }[] = [];
  const { lines: typed, ...head } = mine ?? {};
  const now: Record<string, unknown> = { ...sheet.head };
  const text = (v: unknown) => (typeof v === "string" || typeof v === "number" ? String(v) : "something else");
  for (const [field, value] of Object.entries(head))
    list.push({ what: HEAD_WORDS[field] ?? field, theirs: text(now[field]), mine: text(value) });
  for (const { line, ...parts } of typed ?? []) {
    const i = sheet.lines.findIndex((x) => x.id === line);
    const l = sheet.lines[i];
    const theirs: LineText | undefined = l && {
      quantity: quantityText(l.quantity),
      price: l.price === null ? "" : priceText(l.price),
      required: l.required,
    };
    const words = (x: LineText) => `${x.quantity} at ${x.price || "no price"}, ${x.required}`;
    const others = Object.keys(parts).filter((k) => !["quantity", "price", "required"].includes(k));
    list.push({
      what: l ? `Line ${i + 1}` : "A line",
      theirs: theirs ? words(theirs) : "taken off",
      mine: [words({ ...theirs, ...parts }), ...others].join(", "),
    });
  }
  return list.filter((d) => d.theirs !== d.mine);
}
const HEAD_WORDS: Record<string, string> = { note: "Note", discount: "Whole order less %", texts: "Standing texts" };
