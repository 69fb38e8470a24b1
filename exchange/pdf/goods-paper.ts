import { showDay, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import type { AsideReason, Awaits } from "../../core/receiving/set-aside";
import { goodsWords } from "./goods-words";
import { blocks, CODES, FIGURE, HEAD, type Logo, letterhead, note, PLAIN, sayMissing } from "./paper";
import { paperWords, unitWord } from "./paper-words";
import { Sheets } from "./sheets";

/** A line of a paper that goes with goods. It holds no price. */
export interface GoodsLine {
  position: number;
  name: string;
  code: string | null;
  theirCode: string;
  quantity: number;
  unit: string;
  lot: string;
  expires: string | null;
  /** What of it is beyond what was ordered. */
  over: number;
  /** Where it was put, or why it does not stay. */
  rack: string;
  why: AsideReason | null;
  remark: string;
}

/** A paper that goes with goods: a receipt, or a return. */
export interface GoodsDocument {
  kind: "receipt" | "return";
  number: string;
  day: string;
  orderNumber: string;
  deliveryNote: string;
  company: { name: string; address: string };
  supplier: { name: string; address: string };
  store: string;
  by: string;
  language: Language;
  locale: string;
  lines: GoodsLine[];
  /** With a receipt: what was counted and not taken in. */
  aside: GoodsLine[];
  reason: string;
  awaits: Awaits | null;
}

/** The paper as A4. */
export function goodsPdf(d: GoodsDocument, logo: Logo | null = null): Promise<Buffer> {
  const words = goodsWords(d.language);
  const paper = paperWords(d.language);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title = `${d.kind === "receipt" ? words.receipt : words.goodsReturn} ${d.number}`;
  const p = new Sheets({
    title: `${title}, ${d.company.name}`,
    author: d.company.name,
    language: d.locale,
    day: d.day,
  });
  letterhead(p, { company: d.company, title, day: day(d.day), logo });
  blocks(p, [
    {
      title: d.kind === "receipt" ? words.from : paper.to,
      lines: [d.supplier.name, ...d.supplier.address.split("\n")],
    },
    { title: words.order, lines: [d.orderNumber, d.deliveryNote && `${words.deliveryNote} ${d.deliveryNote}`] },
    {
      title: d.kind === "receipt" ? words.counted : words.from,
      lines: [d.kind === "receipt" ? d.by : d.store, d.kind === "receipt" ? d.store : d.by],
    },
  ]);
  goodsTable(p, d, d.lines);
  if (d.aside.length > 0) {
    note(p, words.setAside);
    p.y += 8;
    goodsTable(p, d, d.aside);
  }
  if (d.reason || d.awaits) note(p, [d.reason, d.awaits && words.awaits[d.awaits]].filter(Boolean).join("\n"));
  sayMissing(p, paper.missing);
  return p.finish((sheet, sheets) => ({
    left: d.kind === "return" ? words.foot(d.number) : title,
    right: `${sheet} / ${sheets}`,
  }));
}

function goodsTable(p: Sheets, d: GoodsDocument, lines: readonly GoodsLine[]): void {
  const words = goodsWords(d.language);
  const paper = paperWords(d.language);
  const reasons = lines.some((l) => l.why !== null);
  const places = [
    { x: 0, width: 18 },
    { x: 22, width: p.width - 22 - 90 - 134 },
    { x: p.width - 216, width: 82 },
    { x: p.width - 122, width: 122 },
  ];
  const set = (i: number, text: string, style = PLAIN) => p.set(text, style, places[i]!.width);
  const cells = (...of: ReturnType<typeof p.set>[]) => places.map((at, i) => ({ ...at, lines: of[i]! }));
  p.table(
    cells(
      set(0, "#", HEAD),
      set(1, paper.goods, HEAD),
      set(2, paper.quantity, { ...HEAD, align: "right" }),
      set(3, reasons ? words.why : words.rack, HEAD),
    ),
    lines.map((l) => {
      const quantity = (q: number) => `${showQuantity(q, d.locale)} ${unitWord(d.language, l.unit)}`;
      const about = [
        l.theirCode && `${words.yours} ${l.theirCode}`,
        l.code && `${words.ours} ${l.code}`,
        l.lot && words.lot(l.lot),
        l.expires && words.keepsUntil(showDay(l.expires, "0000", d.locale, false)),
        l.over > 0 && words.over(quantity(l.over)),
      ].filter(Boolean);
      return cells(
        set(0, String(l.position)),
        [...set(1, l.name), ...set(1, about.join("  ·  "), CODES)],
        set(2, quantity(l.quantity), FIGURE),
        [...set(3, l.why ? words.reasons[l.why] : l.rack), ...set(3, l.remark, CODES)],
      );
    }),
  );
}
