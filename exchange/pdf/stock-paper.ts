import { showDay, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import { DOCK } from "../../core/stock/bins";
import type { StockPaper } from "../../core/stock/paper";
import { goodsWords } from "./goods-words";
import { blocks, CODES, FIGURE, HEAD, type Logo, letterhead, note, PLAIN, sayMissing } from "./paper";
import { paperWords, unitWord } from "./paper-words";
import { Sheets } from "./sheets";
import { stockWords } from "./stock-words";

/** Goods of a paper of the stock. It holds no price and no value. */
export interface StockLine {
  name: string;
  code: string;
  quantity: number;
  unit: string;
  lot: string | null;
  expires: string | null;
  /** The bin that it leaves, and the one into which it goes; null: none. */
  from: string | null;
  to: string | null;
}

/** A paper of the house's own stock, or the list by which goods of the dock are stowed. */
export interface StockDocument {
  kind: StockPaper | "stow list";
  /** Empty for a list. */
  number: string;
  day: string;
  company: { name: string; address: string };
  store: string;
  by: string;
  job: string;
  reason: string;
  language: Language;
  locale: string;
  lines: StockLine[];
}

/** The paper as A4, in the language of the house. */
export function stockPdf(d: StockDocument, logo: Logo | null = null): Promise<Buffer> {
  const words = stockWords(d.language);
  const paper = paperWords(d.language);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title = [words.titles[d.kind], d.number].filter(Boolean).join(" ");
  const p = new Sheets({
    title: `${title}, ${d.company.name}`,
    author: d.company.name,
    language: d.locale,
    day: d.day,
  });
  letterhead(p, { company: d.company, title, day: day(d.day), logo });
  blocks(p, [
    { title: words.store, lines: [d.store] },
    { title: words.by, lines: [d.by] },
    ...(d.job ? [{ title: words.job, lines: [d.job] }] : []),
  ]);
  stockTable(p, d);
  if (d.reason) note(p, d.reason);
  if (d.kind === "issue") note(p, `${words.receivedBy}: ________________________________`);
  sayMissing(p, paper.missing);
  return p.finish((sheet, sheets) => ({ left: title, right: `${sheet} / ${sheets}` }));
}

function stockTable(p: Sheets, d: StockDocument): void {
  const words = stockWords(d.language);
  const goods = goodsWords(d.language);
  const paper = paperWords(d.language);
  const places = [
    { x: 0, width: 18 },
    { x: 22, width: p.width - 22 - 90 - 190 },
    { x: p.width - 276, width: 86 },
    { x: p.width - 180, width: 76 },
    { x: p.width - 98, width: 76 },
    { x: p.width - 18, width: 18 },
  ];
  const set = (i: number, text: string, style = PLAIN) => p.set(text, style, places[i]!.width);
  const cells = (...of: ReturnType<typeof p.set>[]) => places.map((at, i) => ({ ...at, lines: of[i]! }));
  const bin = (b: string | null) => (b === null ? "–" : b === DOCK ? words.dock : b);
  p.table(
    cells(
      set(0, "#", HEAD),
      set(1, paper.goods, HEAD),
      set(2, paper.quantity, { ...HEAD, align: "right" }),
      set(3, words.from, HEAD),
      set(4, words.to, HEAD),
      set(5, "", HEAD),
    ),
    d.lines.map((l, i) => {
      const about = [
        l.code,
        l.lot && goods.lot(l.lot),
        l.expires && goods.keepsUntil(showDay(l.expires, "0000", d.locale, false)),
      ].filter(Boolean);
      return cells(
        set(0, String(i + 1)),
        [...set(1, l.name), ...set(1, about.join("  ·  "), CODES)],
        set(2, `${showQuantity(l.quantity, d.locale)} ${unitWord(d.language, l.unit)}`, FIGURE),
        set(3, bin(l.from)),
        set(4, bin(l.to)),
        set(5, d.kind === "stow list" ? "[  ]" : ""),
      );
    }),
  );
}
