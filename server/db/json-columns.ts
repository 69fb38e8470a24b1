import { z } from "zod";
import type { Day } from "../../core/calendar/day";
import { BEARS, FIRST, PLACES, SETTLES } from "../../core/consigned/agreement";
import type { AgreementDocument } from "../../core/consigned/versions";
import type { OrderLineId } from "../../core/ids";
import type { UnitPrice } from "../../core/numbers/money";
import type { PurchaseQty } from "../../core/numbers/quantity";
import type { AddedToPlaced, LineChange } from "../../core/orders/changes";
import { LINE_KINDS, SPREADS } from "../../core/orders/kinds";
import { PAPER_COLUMN_NAMES } from "../../core/orders/papers";
import { ROLES } from "../../core/people/roles";
import type { PriceSource } from "../../core/pricing/price";
import type { SignedLine } from "../../core/signoff/difference";
import { type Facts, type Rules, SIGNED_KINDS, SIGNED_PAPERS, type Signer } from "../../core/signoff/rulebook";
import type { Sum } from "../../core/sums/sum";
import type { SaidOfLine } from "../../core/suppliers/answer";
import type { DepotStock } from "../../core/suppliers/their-stock";
import type { StatementPaper } from "../../exchange/pdf/consigned-paper";
import type { OrderDocument } from "../../exchange/pdf/order-document";

/**
 * What columns of JSON hold, as it was written. A text that is not of its schema throws: the file was changed by something
 * else than this house. What later versions added is optional here, so that what earlier ones kept still reads.
 */
export const readColumn = <S extends z.ZodType>(schema: S, text: string): z.output<S> => schema.parse(JSON.parse(text));

/** A day that this house wrote. */
const KeptDay = z.string().regex(/^\d{4}-\d{2}-\d{2}$/) as unknown as z.ZodType<Day>; // of this form alone
const whole = z.number().int();
const KeptQuantity = whole as unknown as z.ZodType<PurchaseQty>; // integers of ten-thousandths

export const Ids = z.array(whole);
/** Ids of which some may be none. */
export const IdsOrNone = z.array(whole.nullable());
export const Texts = z.array(z.string());
export const PaperColumns = z.array(z.enum(PAPER_COLUMN_NAMES));

export const SignerColumn = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("person"), person: whole.positive() }),
  z.strictObject({ kind: z.literal("role"), role: z.enum(ROLES) }),
  z.strictObject({ kind: z.literal("team"), team: whole.positive(), all: z.boolean() }),
  z.strictObject({ kind: z.literal("manager") }),
]) satisfies z.ZodType<Signer>;

/** What decided who signs; `amount` stands in a column of its own since then. */
export const FactsColumn = z.object({
  paper: z.enum(SIGNED_PAPERS),
  amount: whole.default(0),
  freight: whole.optional(),
  department: whole.nullable(),
  categories: Texts,
  supplier: whole.nullable(),
  store: whole.nullable(),
  kind: z.enum(SIGNED_KINDS).nullable().default(null),
  overBudget: z.boolean(),
}) satisfies z.ZodType<Facts>;

const KeptRung = { hours: whole, climbsTo: SignerColumn.nullable() };
export const RulesColumn = z.object({
  allowance: z.object({ percent: whole, amount: whole.nullable() }),
  ladders: z.array(
    z.object({
      id: whole,
      name: z.string(),
      papers: z.array(z.enum(SIGNED_PAPERS)),
      departments: Ids,
      categories: Texts,
      suppliers: Ids,
      stores: Ids,
      kinds: z.array(z.enum(SIGNED_KINDS)).default([]),
      needs: z.enum(["every rung", "one rung"]),
      own: whole,
      overBudget: z.union([z.enum(["nothing", "block"]), z.object({ who: SignerColumn, ...KeptRung })]),
      rungs: z.array(z.object({ upTo: whole.nullable(), who: SignerColumn.nullable(), ...KeptRung })),
    }),
  ),
}) satisfies z.ZodType<Rules>;

export const SignedLines = z.array(
  z.object({ words: z.string(), quantity: z.string(), minor: whole }),
) satisfies z.ZodType<SignedLine[]>;

export const PriceSourceColumn = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("blanket"), order: z.string(), line: whole, until: KeptDay }),
  z.object({ kind: z.literal("quote"), quote: z.string(), from: KeptQuantity, until: KeptDay }),
  z.object({ kind: z.literal("said"), on: KeptDay, from: KeptQuantity, until: KeptDay }),
  z.object({ kind: z.literal("price list"), from: KeptQuantity }),
  z.object({ kind: z.literal("last paid"), order: z.string(), day: KeptDay }),
  z.object({ kind: z.literal("reference cost") }),
  z.object({ kind: z.literal("typed") }),
]) satisfies z.ZodType<PriceSource>;

export const DepotsColumn = z.array(
  z.object({
    depot: z.string(),
    onHand: KeptQuantity,
    arrives: KeptDay.nullable(),
    more: z.array(z.object({ quantity: KeptQuantity, arrives: KeptDay })),
  }),
) satisfies z.ZodType<DepotStock[]>;

const FigureColumn = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("quantity"), value: whole, unit: z.string() }),
  z.object({ kind: z.literal("money"), minor: whole, currency: z.string() }),
  z.object({ kind: z.literal("price"), millionths: whole, currency: z.string(), per: z.string() }),
  z.object({ kind: z.literal("percent"), basisPoints: whole }),
  z.object({ kind: z.literal("day"), day: KeptDay }),
  z.object({ kind: z.literal("text"), text: z.string() }),
]);
export const SumColumn = z.object({
  title: z.string(),
  steps: z.array(
    z.object({
      op: z.enum(["", "+", "−", "×", "÷", "=", "→", "·"]),
      label: z.string(),
      figure: FigureColumn,
      href: z.string().optional(),
    }),
  ),
}) satisfies z.ZodType<Sum>;

/**
 * An order as it left the house. What every format has is looked at here; the rest was not on every paper from the beginning,
 * and stays as it was kept.
 */
export const DocumentColumn = z.looseObject({
  number: z.string().nullable(),
  day: KeptDay,
  currency: z.string(),
  locale: z.string(),
  required: KeptDay,
  lines: z.array(
    z.looseObject({
      position: whole,
      words: z.string(),
      quantity: whole,
      unit: z.string(),
      price: whole.nullable(),
      net: whole,
      required: KeptDay,
    }),
  ),
  net: whole,
  total: whole,
}) as unknown as z.ZodType<OrderDocument>; // written by `orderDocument` alone; what is optional there is loose here

/** What the trail says of a decision about a line. */
export const DecisionDetail = z.looseObject({ says: z.string().optional(), why: z.string().optional() });

/** What we ask to be different of the lines of an order. */
export const ChangeColumn = z.array(
  z.object({
    line: whole as unknown as z.ZodType<OrderLineId>, // of the table that the column's writer names
    open: whole,
    parts: z.array(z.object({ quantity: whole.positive(), day: KeptDay })).nullable(),
    price: (whole as unknown as z.ZodType<UnitPrice>).nullable(), // millionths, as they were parsed
    store: whole.nullable().default(null),
  }),
) satisfies z.ZodType<LineChange[]>;

/** Lines that we ask for besides. */
export const AddedColumn = z.array(
  z.object({
    kind: z.enum(LINE_KINDS),
    item: whole.nullable(),
    sourcing: whole.nullable(),
    words: z.string(),
    theirCode: z.string(),
    unit: z.string(),
    factor: whole.positive(),
    quantity: whole.positive(),
    price: whole as unknown as z.ZodType<UnitPrice>, // millionths, as they were parsed
    source: PriceSourceColumn,
    standing: whole,
    discount: whole,
    taxRate: whole,
    note: z.string(),
    required: KeptDay,
    spread: z.enum(SPREADS),
  }),
) satisfies z.ZodType<AddedToPlaced[]>;

/** What was closed together with its order. */
export const ClosedRest = z.array(z.object({ schedule: whole, quantity: whole }));

/** What a supplier said of a line, as it was kept. */
export const SaidColumn = z.object({
  parts: z.array(z.object({ quantity: whole.positive(), day: KeptDay })).nullable(),
  price: (whole as unknown as z.ZodType<UnitPrice>).nullable(), // millionths, as they were parsed
  discount: whole.nullable(),
  instead: z.string(),
  charge: z
    .object({ words: z.string(), price: whole as unknown as z.ZodType<UnitPrice> }) // millionths, as they were parsed
    .nullable()
    .default(null),
  remark: z.string(),
}) satisfies z.ZodType<SaidOfLine>;

/** A use statement as it was made. */
export const StatementColumn = z.looseObject({
  kind: z.literal("use statement"),
  number: z.string(),
  day: KeptDay,
  since: KeptDay,
  until: KeptDay,
  currency: z.string(),
  lines: z.array(z.looseObject({ name: z.string(), quantity: whole, price: whole, net: whole, taxRate: whole })),
  net: whole,
  total: whole,
}) as unknown as z.ZodType<StatementPaper>; // written by `makeStatement` alone; what else it has is loose here

/** An agreement as it was signed. */
export const AgreementColumn = z.object({
  number: z.string(),
  revision: whole,
  supplier: z.string(),
  store: z.string(),
  currency: z.string(),
  starts: KeptDay,
  ends: KeptDay,
  oursAfter: whole.nullable(),
  first: z.enum(FIRST),
  settles: z.enum(SETTLES),
  bears: z.enum(BEARS),
  place: z.enum(PLACES),
  binsFrom: z.string(),
  binsTo: z.string(),
  note: z.string(),
  items: z.array(
    z.object({
      code: z.string(),
      name: z.string(),
      unit: z.string(),
      least: whole,
      most: whole,
      pack: whole,
      refillDays: whole,
      prices: z.array(z.object({ day: KeptDay, price: whole as unknown as z.ZodType<UnitPrice> })), // millionths, as they were parsed
    }),
  ),
}) satisfies z.ZodType<AgreementDocument>;
