import type { Bears, First, Settles } from "../../core/consigned/agreement";
import type { UsedAs } from "../../core/consigned/use";
import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import { consignedWords } from "./consigned-words";
import {
  type Block,
  blocks,
  CODES,
  FIGURE,
  HEAD,
  type Logo,
  letterhead,
  note,
  PLAIN,
  right,
  sayMissing,
} from "./paper";
import { paperWords, unitWord } from "./paper-words";
import { type Cell, Sheets } from "./sheets";

interface Common {
  number: string;
  day: string;
  company: { name: string; address: string };
  supplier: { name: string; address: string };
  store: string;
  by: string;
  language: Language;
  locale: string;
  currency: string;
}

export interface AgreementPaper extends Common {
  kind: "agreement";
  revision: number;
  starts: string;
  ends: string;
  oursAfter: number | null;
  first: First;
  settles: Settles;
  bears: Bears;
  note: string;
  items: {
    name: string;
    code: string;
    theirCode: string;
    unit: string;
    least: number;
    most: number;
    prices: { day: string; price: number }[];
  }[];
}

/** What a supplier is asked to bring. It holds no price. */
export interface RefillPaper extends Common {
  kind: "refill";
  agreement: string;
  wanted: string;
  lines: { name: string; code: string; theirCode: string; unit: string; quantity: number }[];
}

export interface StatementLine {
  day: string;
  what: UsedAs;
  name: string;
  code: string;
  theirCode: string;
  unit: string;
  job: string;
  order: string;
  quantity: number;
  price: number;
  net: number;
  taxRate: number;
}

export interface StatementPaper extends Common {
  kind: "use statement";
  agreement: string;
  since: string;
  until: string;
  lines: StatementLine[];
  taxes: { rate: number; net: number; tax: number }[];
  net: number;
  total: number;
  /** They charge no tax: we account for it ourselves. */
  taxed: boolean;
}

export type ConsignedPaper = AgreementPaper | RefillPaper | StatementPaper;

/** A paper about a supplier's goods on our shelves as A4, in the supplier's language. */
export function consignedPdf(d: ConsignedPaper, logo: Logo | null = null): Promise<Buffer> {
  const words = consignedWords(d.language);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title =
    d.kind === "agreement"
      ? `${words.agreement} ${d.number}${d.revision > 1 ? `, ${paperWords(d.language).version(d.revision)}` : ""}`
      : `${d.kind === "refill" ? words.refill : words.statement} ${d.number}`;
  const p = new Sheets({
    title: `${title}, ${d.company.name}`,
    author: d.company.name,
    language: d.locale,
    day: d.day,
  });
  letterhead(p, { company: d.company, title, day: day(d.day), logo });
  blocks(p, [
    { title: paperWords(d.language).to, lines: [d.supplier.name, ...d.supplier.address.split("\n")] },
    ...facts(d),
  ]);
  switch (d.kind) {
    case "agreement":
      blocks(p, terms(d), true);
      agreementTable(p, d);
      if (d.note) note(p, d.note);
      break;
    case "refill":
      refillTable(p, d);
      note(p, words.noPurchase);
      break;
    case "use statement":
      statementTable(p, d);
      totals(p, d);
      note(p, words.selfBilled);
  }
  sayMissing(p, paperWords(d.language).missing);
  return p.finish((sheet, sheets) => ({ left: title, right: `${sheet} / ${sheets}` }));
}

function facts(d: ConsignedPaper): Block[] {
  const words = consignedWords(d.language);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const store = { title: words.store, lines: [d.store] };
  switch (d.kind) {
    case "agreement":
      return [store, { title: words.holds, lines: [`${day(d.starts)} – ${day(d.ends)}`] }];
    case "refill":
      return [
        store,
        { title: words.wanted, lines: [day(d.wanted)] },
        { title: words.underAgreement, lines: [d.agreement] },
      ];
    case "use statement":
      return [
        store,
        { title: words.period, lines: [`${day(d.since)} – ${day(d.until)}`] },
        { title: words.underAgreement, lines: [d.agreement] },
      ];
  }
}

function terms(d: AgreementPaper): Block[] {
  const words = consignedWords(d.language);
  return [
    { title: words.ours, lines: [words.passes(d.oursAfter)] },
    { title: words.firstTitle, lines: [words.first[d.first]] },
    { title: words.settlesTitle, lines: [words.settles[d.settles]] },
    { title: words.bearsTitle, lines: [words.bears[d.bears]] },
  ];
}

/** Columns from the left: the first is as wide as is left of the sheet. */
const placesOf = (p: Sheets, widths: readonly number[]) => {
  const GAP = 8;
  let x = p.width;
  const rest = widths.toReversed().map((width) => {
    x -= width;
    const at = { x, width };
    x -= GAP;
    return at;
  });
  return [{ x: 0, width: x }, ...rest.toReversed()];
};

/** A table of goods: a head, and rows of texts under each other, figures to the right. */
function table(
  p: Sheets,
  heads: readonly string[],
  widths: readonly number[],
  rows: readonly (string | string[])[][],
): void {
  const places = placesOf(p, widths);
  const cell = (i: number, texts: readonly string[], head: boolean): Cell => {
    const style = head ? HEAD : i === 0 ? PLAIN : FIGURE;
    const [first, ...more] = texts;
    return {
      ...places[i]!,
      lines: [
        ...p.set(first ?? "", i === 0 ? style : right(style), places[i]!.width),
        ...more.flatMap((t) => p.set(t, i === 0 ? CODES : right(CODES), places[i]!.width)),
      ],
    };
  };
  p.table(
    heads.map((h, i) => cell(i, [h], true)),
    rows.map((r) => r.map((t, i) => cell(i, typeof t === "string" ? [t] : t, false))),
  );
}

const goods = (l: { name: string; code: string; theirCode: string }) => [
  l.name,
  [l.code, l.theirCode].filter(Boolean).join("  ·  "),
];

function agreementTable(p: Sheets, d: AgreementPaper): void {
  const words = consignedWords(d.language);
  const paper = paperWords(d.language);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  table(
    p,
    [paper.goods, words.leastMost, `${paper.price} (${d.currency})`],
    [130, 130],
    d.items.map((i) => [
      goods(i),
      `${showQuantity(i.least, d.locale)} – ${showQuantity(i.most, d.locale)} ${unitWord(d.language, i.unit)}`,
      i.prices.flatMap((x) => [showPrice(x.price, d.currency, d.locale), words.from(day(x.day))]),
    ]),
  );
}

function refillTable(p: Sheets, d: RefillPaper): void {
  const paper = paperWords(d.language);
  table(
    p,
    [paper.goods, paper.quantity],
    [120],
    d.lines.map((l) => [goods(l), `${showQuantity(l.quantity, d.locale)} ${unitWord(d.language, l.unit)}`]),
  );
}

function statementTable(p: Sheets, d: StatementPaper): void {
  const words = consignedWords(d.language);
  const paper = paperWords(d.language);
  table(
    p,
    [paper.goods, words.what, paper.quantity, paper.price, `${paper.amount} (${d.currency})`],
    [130, 76, 60, 74],
    d.lines.map((l) => [
      goods(l),
      [
        `${showDay(l.day, "0000", d.locale, false)}${l.what === "used" ? "" : `, ${words.used[l.what]}`}`,
        [l.job, l.order].filter(Boolean).join("  ·  "),
      ],
      `${showQuantity(l.quantity, d.locale)} ${unitWord(d.language, l.unit)}`,
      showPrice(l.price, d.currency, d.locale),
      showMoney(l.net, d.currency, d.locale),
    ]),
  );
}

function totals(p: Sheets, d: StatementPaper): void {
  const words = paperWords(d.language);
  const money = (minor: number) => showMoney(minor, d.currency, d.locale);
  const rows: [string, string][] = [
    [words.net, money(d.net)],
    ...(d.taxed
      ? d.taxes.map((t): [string, string] => [words.taxOn(showPercent(t.rate, d.locale), money(t.net)), money(t.tax)])
      : [[words.taxByUs, money(0)] satisfies [string, string]]),
    [`${words.total} (${d.currency})`, money(d.total)],
  ];
  p.y += 8;
  for (const [label, figure] of rows) {
    const text = p.set(label, right(PLAIN), p.width - 90);
    const sum = p.set(figure, FIGURE, 82);
    p.room(16);
    const at = p.y;
    p.tag("P", null, () => {
      p.draw(text, p.left, at, p.width - 90);
      p.draw(sum, p.left + p.width - 82, at, 82);
    }).end();
    p.y = at + 14;
  }
}
