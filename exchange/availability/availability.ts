import { z } from "zod";
import { type Day, parseDay, toDay } from "../../core/calendar/day";
import { parsePrice, type UnitPrice } from "../../core/numbers/money";
import { type PurchaseQty, parseQuantity, purchase, quantityText } from "../../core/numbers/quantity";
import type { DepotStock } from "../../core/suppliers/their-stock";

/**
 * What we ask a supplier's system, and what it answers: their stock by depot, and their price for us
 * (docs/exchange.md). Quantities and prices are decimal texts, so that nobody reads them as binary fractions.
 */
const QuantityText = z.string().regex(/^\d{1,8}(\.\d{1,4})?$/, "A quantity with a point, such as 12 or 2.5.");
const PriceText = z.string().regex(/^\d{1,9}(\.\d{1,6})?$/, "A price with a point, such as 18.40.");
const DayText = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/, "A day as 2026-12-04.")
  .refine((s) => parseDay(s) !== null, "There is no such day.")
  .transform(toDay);
const MOST_LINES = 200;

const Request = z.strictObject({
  format: z.literal("wharf-tally/availability-request/1"),
  currency: z.string().length(3),
  deliverTo: z.strictObject({ name: z.string(), address: z.string() }),
  lines: z
    .array(
      z.strictObject({
        line: z.string().min(1).max(20),
        /** The supplier's own code, and ours. */
        item: z.string().max(80),
        ourItem: z.string().max(80),
        quantity: QuantityText,
        unit: z.string().min(1).max(3),
        wantedOn: DayText,
      }),
    )
    .min(1)
    .max(MOST_LINES),
});
export type AvailabilityRequest = z.output<typeof Request>;

const Reply = z.object({
  format: z.literal("wharf-tally/availability-reply/1"),
  currency: z.string().length(3),
  /** The last day on which the prices hold; left out, they hold today. */
  pricesHoldUntil: DayText.optional(),
  depots: z.array(z.object({ depot: z.string().min(1).max(20), name: z.string().min(1).max(60) })).max(50),
  lines: z
    .array(
      z.object({
        line: z.string().min(1).max(20),
        status: z.enum(["offered", "unknown", "not sold"]),
        /** What we would pay for one of the unit asked for, discounts taken off, tax not on it. */
        price: PriceText.optional(),
        stock: z
          .array(
            z.object({
              depot: z.string().min(1).max(20),
              onHand: QuantityText,
              /** The day on which what lies there would be at our address. */
              arrivesOn: DayText.optional(),
              /** What the depot expects, and when it would be at our address. */
              more: z
                .array(z.object({ quantity: QuantityText, arrivesOn: DayText }))
                .max(20)
                .optional(),
            }),
          )
          .max(50)
          .optional(),
      }),
    )
    .max(MOST_LINES),
});

/** The JSON Schema of both messages, for whoever answers such questions. */
export const availabilitySchema = () => ({
  $schema: "https://json-schema.org/draft/2020-12/schema",
  $defs: { request: z.toJSONSchema(Request, { io: "input" }), reply: z.toJSONSchema(Reply, { io: "input" }) },
  oneOf: [{ $ref: "#/$defs/request" }, { $ref: "#/$defs/reply" }],
});

/** What is asked about one line. */
export interface AskedLine {
  line: string;
  theirCode: string;
  code: string;
  quantity: PurchaseQty;
  unit: string;
  wanted: Day;
}
export const writeRequest = (
  lines: readonly AskedLine[],
  { currency, deliverTo }: Pick<AvailabilityRequest, "currency" | "deliverTo">,
): AvailabilityRequest =>
  Request.parse({
    format: "wharf-tally/availability-request/1",
    currency,
    deliverTo,
    lines: lines.map((l) => ({
      line: l.line,
      item: l.theirCode,
      ourItem: l.code,
      quantity: quantityText(l.quantity),
      unit: l.unit,
      wantedOn: l.wanted,
    })),
  });

/** What a supplier's system says of one line; `says` where that cannot be meant, and then nothing of the line counts. */
export type SaidLine =
  | { line: string; ok: true; price: UnitPrice | null; depots: DepotStock[] }
  | { line: string; ok: false; says: string };
export interface SaidReply {
  /** The last day on which their prices hold. */
  until: Day;
  lines: SaidLine[];
}

/**
 * Reads a reply and holds it against what was asked. A reply that is not in the format is refused whole, with a sentence
 * that names the place; a line that cannot be meant says why, and the others stand.
 */
export function readReply(
  text: string,
  asked: Pick<AvailabilityRequest, "currency" | "lines">,
  today: Day,
): { ok: true; reply: SaidReply } | { ok: false; says: string } {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { ok: false, says: "What they sent is not JSON." };
  }
  const read = Reply.safeParse(raw);
  if (!read.success) {
    const { path, message } = read.error.issues[0]!;
    return {
      ok: false,
      says: `What they sent is not in the agreed format, at ${path.join(".") || "its top"}: ${message}`,
    };
  }
  const { currency, pricesHoldUntil: until = today, depots, lines } = read.data;
  if (currency !== asked.currency)
    return { ok: false, says: `They answer in ${currency}, where we buy from them in ${asked.currency}.` };
  const names = new Map(depots.map((d) => [d.depot, d.name]));
  const wanted = new Set(asked.lines.map((l) => l.line));
  const seen = new Set<string>();
  const said: SaidLine[] = [];
  for (const l of lines) {
    if (!wanted.has(l.line)) continue; // nobody asked for it
    if (seen.has(l.line)) return { ok: false, says: "They answer the same line twice." };
    seen.add(l.line);
    said.push(readLine(l, names, today, until));
  }
  for (const { line } of asked.lines)
    if (!seen.has(line)) said.push({ line, ok: false, says: "They say nothing about it." });
  return { ok: true, reply: { until, lines: said } };
}

function readLine(
  l: z.output<typeof Reply>["lines"][number],
  names: ReadonlyMap<string, string>,
  today: Day,
  until: Day,
): SaidLine {
  const no = (says: string): SaidLine => ({ line: l.line, ok: false, says });
  if (l.status === "unknown") return no("They do not know this article.");
  if (l.status === "not sold") return no("They do not sell it any more.");
  const depots: DepotStock[] = [];
  for (const { depot, onHand, arrivesOn, more = [] } of l.stock ?? []) {
    const name = names.get(depot);
    if (name === undefined) return no(`They name a depot, ${depot}, that they do not describe.`);
    if (depots.some((d) => d.depot === name)) return no(`They name the depot ${name} twice.`);
    if ([arrivesOn, ...more.map((m) => m.arrivesOn)].some((d) => d !== undefined && d < today))
      return no("They name a day that has passed.");
    depots.push({
      depot: name,
      onHand: amountOf(onHand),
      arrives: arrivesOn ?? null,
      more: more
        .map((m) => ({ quantity: amountOf(m.quantity), arrives: m.arrivesOn }))
        .sort((a, b) => (a.arrives < b.arrives ? -1 : 1)),
    });
  }
  if (until < today) return no("Their prices have run out.");
  if (l.price === undefined) return { line: l.line, ok: true, price: null, depots };
  const price = parsePrice(l.price);
  return price.ok ? { line: l.line, ok: true, price: price.value, depots } : no(price.says);
}

/** A quantity of the shape that the format has. */
function amountOf(text: string): PurchaseQty {
  const read = parseQuantity(text, ".", "zero allowed");
  if (!read.ok) throw new Error(`"${text}" passed as a quantity: ${read.says}`);
  return purchase(read.value);
}
