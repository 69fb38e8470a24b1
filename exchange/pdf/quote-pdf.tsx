import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { showDay, showQuantity } from "../../core/numbers/format";
import { registerFonts } from "./fonts";
import { Letterhead, Lines, s } from "./paper";

/** A request for prices as it leaves the house, to one supplier. */
export interface QuoteDocument {
  number: string;
  day: string;
  answerBy: string;
  company: { name: string; address: string; mail: string };
  supplier: { name: string; address: string };
  asker: { name: string; title: string; mail: string };
  locale: string;
  note: string;
  /** Where the supplier answers without an account. */
  link: string;
  lines: {
    position: number;
    words: string;
    ours: string;
    theirs: string;
    quantity: number;
    unit: string;
    neededOn: string;
    store: string;
  }[];
}

function Paper({ d }: { d: QuoteDocument }) {
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  return (
    <Document title={`Request for quotation ${d.number}, ${d.company.name}`} author={d.company.name} language="en">
      <Page size="A4" style={s.page} wrap>
        <Letterhead company={d.company} title={`Request for quotation ${d.number}`} day={day(d.day)} />
        <View style={s.blocks}>
          <Lines title="To" lines={[d.supplier.name, ...d.supplier.address.split("\n")]} />
          <Lines title="Your contact with us" lines={[d.asker.name, d.asker.title, d.asker.mail]} />
          <Lines title="Please answer by" lines={[day(d.answerBy)]} />
        </View>
        <View style={s.head} fixed>
          <Text style={s.n}>#</Text>
          <Text style={s.what}>Goods</Text>
          <Text style={[s.qty, { textAlign: "right" }]}>Quantity</Text>
          <Text style={[s.due, { width: 92 }]}>Needed, where</Text>
        </View>
        {d.lines.map((l) => (
          <View key={l.position} style={s.row} wrap={false}>
            <Text style={s.n}>{l.position}</Text>
            <View style={s.what}>
              <Text>{l.words}</Text>
              <Text style={s.codes}>
                {[l.theirs && `yours ${l.theirs}`, `ours ${l.ours}`].filter(Boolean).join("  ·  ")}
              </Text>
            </View>
            <Text style={[s.num, s.qty]}>
              {showQuantity(l.quantity, d.locale)} {l.unit}
            </Text>
            <Text style={[s.due, { width: 92 }]}>
              {day(l.neededOn)}, {l.store}
            </Text>
          </View>
        ))}
        <View style={s.note} wrap={false}>
          {d.note !== "" && <Text>{d.note}</Text>}
          <Text>Prices, dates and conditions can be filled in here, without an account, until you have answered:</Text>
          <Text style={s.codes}>{d.link}</Text>
        </View>
        <View style={s.foot} fixed>
          <Text>This is no order. Please name {d.number} in your answer.</Text>
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
