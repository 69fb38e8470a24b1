import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../core/numbers/format";
import { fillPlaceholders, type PaperColumn } from "../../core/orders/papers";
import {
  beforeWords,
  limitWords,
  localeIn,
  lookOf,
  type OrderDocument,
  paperTitle,
  paperValues,
  paymentOf,
  placeOf,
  unitIn,
} from "./order-document";
import {
  type Block,
  BOLD,
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
import { type PaperWords, paperWords } from "./paper-words";
import { type Cell, heightOf, INK, Sheets } from "./sheets";
import type { SetLine, Style } from "./typeset";

interface Drawn {
  d: OrderDocument;
  words: PaperWords;
  shows: (column: PaperColumn) => boolean;
  day: (x: string) => string;
  money: (minor: number) => string;
  percent: (basisPoints: number) => string;
  price: (millionths: number) => string;
  quantity: (tenThousandths: number) => string;
}

function drawn(d: OrderDocument): Drawn {
  const look = lookOf(d);
  const locale = localeIn(d);
  const costs: PaperColumn[] = ["price", "discount", "amount"];
  return {
    d,
    words: paperWords(look.language),
    shows: (column) => look.columns.includes(column) && (look.prices || !costs.includes(column)),
    day: (x) => showDay(x, "0000", locale, false),
    money: (minor) => showMoney(minor, d.currency, locale),
    percent: (points) => showPercent(points, locale),
    price: (millionths) => showPrice(millionths, d.currency, locale),
    quantity: (parts) => showQuantity(parts, locale),
  };
}

/** The order as an A4 paper, with the logo that its look names. The same order and look are the same file. */
export async function orderPdf(d: OrderDocument, logo: Logo | null = null): Promise<Buffer> {
  const look = lookOf(d);
  const on = drawn(d);
  const { words, day } = on;
  const title = paperTitle(d);
  const values = paperValues(d);
  const p = new Sheets({
    title: `${title}, ${d.company.name}`,
    author: d.company.name,
    language: localeIn(d),
    day: d.day,
  });
  letterhead(p, { company: d.company, title, day: day(d.day), logo });
  blocks(p, [
    {
      title: words.to,
      lines: [d.supplier.name, d.contact && words.attention(d.contact), ...d.supplier.address.split("\n")],
    },
    { title: words.deliverTo, lines: [placeOf(d), ...d.deliverTo.address.split("\n")] },
    { title: words.contact, lines: [d.writer.name, d.writer.title, d.writer.mail] },
  ]);
  blocks(p, factsOf(on), true);
  const above = fillPlaceholders(look.above, values);
  if (above) {
    p.paragraph(p.set(above, PLAIN));
    p.y += 12;
  }
  const columns = columnsOf(p, on);
  const cells = (of: (c: Column) => SetLine[]): Cell[] =>
    columns.map((c) => ({ x: c.x, width: c.width, lines: of(c) }));
  p.table(
    cells((c) => p.set(c.head, c.style.align === "right" ? right(HEAD) : HEAD, c.width)),
    d.lines.map((l) => cells((c) => c.set(l, c.width))),
  );
  if (look.prices) totals(p, on);
  for (const text of [
    d.gone?.length ? words.gone(d.gone.map((g) => `${g.position} ${g.words}`).join(", ")) : "",
    d.note,
    d.validUntil ? words.voidAfter(day(d.validUntil)) : "",
    d.texts ?? "",
    fillPlaceholders(look.below, values),
  ])
    if (text) note(p, text);
  sayMissing(p, words.missing);
  const foot = fillPlaceholders(look.foot, { ...values, number: d.number ?? "–" });
  return p.finish((sheet, sheets) => ({ left: foot, right: `${sheet} / ${sheets}` }));
}

function factsOf({ d, words, day }: Drawn): Block[] {
  const { prices } = lookOf(d);
  const blanket = d.kind === "blanket" && d.starts && d.ends;
  const facts: (Block | false | "" | 0 | undefined)[] = [
    blanket
      ? { title: words.holds, lines: [`${day(d.starts!)} ${words.until}`, day(d.ends!)] }
      : { title: words.wanted, lines: [day(d.required)] },
    prices && { title: words.payment, lines: [paymentOf(d)] },
    d.delivery && { title: words.delivery, lines: [d.delivery, d.carrier] },
    d.drawnFrom?.length && { title: words.drawnFrom, lines: d.drawnFrom },
    (d.ourReference || d.theirReference) && {
      title: words.references,
      lines: [
        d.ourReference && `${words.ours} ${d.ourReference}`,
        d.theirReference && `${words.yours} ${d.theirReference}`,
      ],
    },
    prices && { title: words.currency, lines: [d.currency] },
    { title: words.taxNumber, lines: [d.company.taxNumber] },
  ];
  return facts.filter((b): b is Block => Boolean(b));
}

type Line = OrderDocument["lines"][number];
interface Column {
  head: string;
  x: number;
  width: number;
  style: Style;
  set: (l: Line, width: number) => SetLine[];
}

/** The columns that the look shows; the goods have what the others leave. */
function columnsOf(p: Sheets, on: Drawn): Column[] {
  const { d, words, shows } = on;
  const one = (head: string, width: number, style: Style, text: (l: Line) => string) => ({
    head,
    width,
    style,
    set: (l: Line, within: number) => p.set(text(l), style, within),
  });
  const after = [
    one(words.quantity, 74, FIGURE, (l) => `${on.quantity(l.quantity)} ${unitIn(d, l.unit)}`),
    shows("wanted") && one(words.wanted, 66, right(PLAIN), (l) => (d.kind === "blanket" ? "" : on.day(l.required))),
    shows("tax") && one(words.tax, 44, FIGURE, (l) => (l.taxRate === undefined ? "–" : on.percent(l.taxRate))),
    shows("price") && one(words.price, 66, FIGURE, (l) => (l.price === null ? "–" : on.price(l.price))),
    shows("amount") && one(words.amount, 72, FIGURE, (l) => on.money(l.net)),
  ].filter((c) => c !== false);
  const goods = {
    head: words.goods,
    width: p.width - 22 - after.reduce((sum, c) => sum + c.width, 0) - 8,
    style: PLAIN,
    set: (l: Line, width: number) => [
      ...p.set(l.words, PLAIN, width),
      ...aboutOf(on, l).flatMap((text) => p.set(text, CODES, width)),
    ],
  };
  let x = 0;
  return [one("#", 22, PLAIN, (l) => String(l.position)), goods, ...after].map((c) => {
    const at = { ...c, x, width: c.width - (c === goods ? 0 : 4) };
    x += c.width + (c === goods ? 8 : 0);
    if (c.style.align === "right") at.x += 4;
    return at;
  });
}

/** What is said of a line below its words. */
function aboutOf(on: Drawn, l: Line): string[] {
  const { d, words, shows } = on;
  const unit = unitIn(d, l.unit);
  const codes = [
    shows("theirs") && l.theirs && `${words.yours} ${l.theirs}`,
    shows("ours") && l.ours && `${words.ours} ${l.ours}`,
  ].filter(Boolean);
  const off = [l.standing, l.discount].filter((p) => p > 0);
  return [
    codes.join("  ·  "),
    shows("notes") ? (l.note ?? "") : "",
    ...(l.instalments ?? []).map((p) => `${on.quantity(p.quantity)} ${unit} ${words.by} ${on.day(p.required)}`),
    l.deliverTo
      ? `${words.deliverTo}: ${[l.deliverTo.name, ...l.deliverTo.address.split("\n")].filter(Boolean).join(", ")}`
      : "",
    limitWords(d, l).join(", "),
    beforeWords(d, l),
    shows("discount") && off.length > 0 ? `${words.discount} ${off.map(on.percent).join(" + ")}` : "",
  ].filter((text) => text !== "");
}

function totals(p: Sheets, { d, words, money, percent }: Drawn): void {
  const WIDTH = 236;
  const x = p.left + p.width - WIDTH;
  const grand: Style = { ...BOLD, size: 11 };
  const rows: [string, string, Style, Style][] = [];
  const add = (label: string, value: string) => rows.push([label, value, PLAIN, FIGURE]);
  if (d.discount !== 0) {
    add(words.linesTotal, money(d.linesNet));
    add(`${words.discount} ${percent(d.discountRate)}`, money(-d.discount));
  }
  add(words.net, money(d.net));
  if (d.taxed) for (const t of d.taxes) add(words.taxOn(percent(t.rate), money(t.base)), money(t.tax));
  else add(words.taxByUs, money(0));
  rows.push([`${words.total} ${d.currency}`, money(d.total), grand, right(grand)]);
  const set = rows.map(([label, value, of, figure]) => ({
    label: p.set(label, of, WIDTH - 96),
    value: p.set(value, figure, 92),
    grand: of === grand,
  }));
  p.room(10 + set.reduce((sum, r) => sum + Math.max(heightOf(r.label), heightOf(r.value)) + 4, 8));
  p.y += 10;
  const table = p.tag("Table");
  for (const r of set) {
    if (r.grand) {
      p.y += 3;
      p.rule(p.y, 1.5, INK, x, WIDTH);
      p.y += 2;
    }
    const top = p.y + 2;
    const tr = p.tag("TR", table);
    let to = top;
    p.tag("TH", tr, () => {
      to = p.draw(r.label, x, top, WIDTH - 96);
    }).end();
    p.tag("TD", tr, () => {
      to = Math.max(to, p.draw(r.value, x + WIDTH - 92, top, 92));
    }).end();
    tr.end();
    p.y = to + 2;
  }
  table.end();
}
