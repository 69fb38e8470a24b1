import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { showDay, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import { registerFonts } from "./fonts";
import { Letterhead, Lines, s } from "./paper";
import { paperWords, unitWord } from "./paper-words";
import { quoteWords } from "./quote-words";

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

function Paper({ d }: { d: QuoteDocument }) {
  const words = quoteWords(d.language);
  const paper = paperWords(d.language);
  const unit = (u: string) => unitWord(d.language, u);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  return (
    <Document title={`${words.title} ${d.number}, ${d.company.name}`} author={d.company.name} language={d.locale}>
      <Page size="A4" style={s.page} wrap>
        <Letterhead company={d.company} title={`${words.title} ${d.number}`} day={day(d.day)} />
        <View style={s.blocks}>
          <Lines title={paper.to} lines={[d.supplier.name, ...d.supplier.address.split("\n")]} />
          <Lines title={words.contact} lines={[d.asker.name, d.asker.title, d.asker.mail]} />
          <Lines title={words.answerBy} lines={[day(d.answerBy), words.pricesIn(d.currency)]} />
        </View>
        <View style={s.head} fixed>
          <Text style={s.n}>#</Text>
          <Text style={s.what}>{paper.goods}</Text>
          <Text style={[s.qty, { textAlign: "right" }]}>{paper.quantity}</Text>
          <Text style={[s.due, { width: 92 }]}>{words.needed}</Text>
        </View>
        {d.lines.map((l) => (
          <View key={l.position} style={s.row} wrap={false}>
            <Text style={s.n}>{l.position}</Text>
            <View style={s.what}>
              <Text>{l.words}</Text>
              <Text style={s.codes}>
                {[
                  l.theirs && `${words.yours} ${l.theirs}`,
                  `${words.ours} ${l.ours}`,
                  l.unit !== l.stockUnit &&
                    words.oneIs(unit(l.unit), `${showQuantity(l.holds, d.locale)} ${unit(l.stockUnit)}`),
                ]
                  .filter(Boolean)
                  .join("  ·  ")}
              </Text>
            </View>
            <Text style={[s.num, s.qty]}>
              {showQuantity(l.quantity, d.locale)} {unit(l.unit)}
            </Text>
            <Text style={[s.due, { width: 92 }]}>
              {day(l.neededOn)}, {l.store}
            </Text>
          </View>
        ))}
        <View style={s.note} wrap={false}>
          {d.note !== "" && <Text>{d.note}</Text>}
          <Text>{words.fillIn}</Text>
          <Text style={s.codes}>{d.link}</Text>
        </View>
        <View style={s.foot} fixed>
          <Text>{words.foot(d.number)}</Text>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
        </View>
      </Page>
    </Document>
  );
}

/** The request as an A4 paper. */
export function quotePdf(document: QuoteDocument): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<Paper d={document} />);
}
