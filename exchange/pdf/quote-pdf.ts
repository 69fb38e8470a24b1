import { showDay, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import { blocks, CODES, FIGURE, HEAD, letterhead, note, PLAIN, right, sayMissing } from "./paper";
import { paperWords, unitWord } from "./paper-words";
import { quoteWords } from "./quote-words";
import { Sheets } from "./sheets";

/** A request for prices as it leaves the house, to one supplier. */
export interface QuoteDocument {
  number: string;
  day: string;
  answerBy: string;
  company: { name: string; address: string; mail: string };
  supplier: { name: string; address: string };
  asker: { name: string; title: string; mail: string };
  /** In which it is written; figures and days go by its locale. */
  language: Language;
  locale: string;
  /** In which prices are asked for. */
  currency: string;
  note: string;
  /** Where the supplier answers without an account. */
  link: string;
  lines: {
    position: number;
    words: string;
    ours: string;
    theirs: string;
    /** In the unit in which it is answered. */
    quantity: number;
    unit: string;
    /** How many stock units one of it holds. */
    holds: number;
    stockUnit: string;
    neededOn: string;
    store: string;
  }[];
}

/** The request as an A4 paper. */
export async function quotePdf(d: QuoteDocument): Promise<Buffer> {
  const words = quoteWords(d.language);
  const paper = paperWords(d.language);
  const unit = (u: string) => unitWord(d.language, u);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title = `${words.title} ${d.number}`;
  const p = new Sheets({
    title: `${title}, ${d.company.name}`,
    author: d.company.name,
    language: d.locale,
    day: d.day,
  });
  letterhead(p, { company: d.company, title, day: day(d.day) });
  blocks(p, [
    { title: paper.to, lines: [d.supplier.name, ...d.supplier.address.split("\n")] },
    { title: words.contact, lines: [d.asker.name, d.asker.title, d.asker.mail] },
    { title: words.answerBy, lines: [day(d.answerBy), words.pricesIn(d.currency)] },
  ]);
  const places = [
    { x: 0, width: 18 },
    { x: 22, width: p.width - 22 - 90 - 104 },
    { x: p.width - 186, width: 82 },
    { x: p.width - 92, width: 92 },
  ];
  const cells = (...lines: ReturnType<typeof p.set>[]) => places.map((at, i) => ({ ...at, lines: lines[i]! }));
  const set = (i: number, text: string, style = PLAIN) => p.set(text, style, places[i]!.width);
  p.table(
    cells(
      set(0, "#", HEAD),
      set(1, paper.goods, HEAD),
      set(2, paper.quantity, right(HEAD)),
      set(3, words.needed, right(HEAD)),
    ),
    d.lines.map((l) => {
      const about = [
        l.theirs && `${words.yours} ${l.theirs}`,
        `${words.ours} ${l.ours}`,
        l.unit !== l.stockUnit && words.oneIs(unit(l.unit), `${showQuantity(l.holds, d.locale)} ${unit(l.stockUnit)}`),
      ].filter(Boolean);
      return cells(
        set(0, String(l.position)),
        [...set(1, l.words), ...set(1, about.join("  ·  "), CODES)],
        set(2, `${showQuantity(l.quantity, d.locale)} ${unit(l.unit)}`, FIGURE),
        set(3, `${day(l.neededOn)}, ${l.store}`, right(PLAIN)),
      );
    }),
  );
  note(p, [d.note, words.fillIn].filter(Boolean).join("\n"));
  p.paragraph(p.set(d.link, CODES, p.width - 11), { x: p.left + 11, width: p.width - 11, bar: true });
  sayMissing(p, paper.missing);
  return p.finish((sheet, sheets) => ({ left: words.foot(d.number), right: `${sheet} / ${sheets}` }));
}
