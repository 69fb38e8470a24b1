import { Document, Page, Path, renderToBuffer, StyleSheet, Svg, Text, View } from "@react-pdf/renderer";
import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../core/numbers/format";
import { registerFonts } from "./fonts";
import type { OrderDocument } from "./order-document";

const ink = "#15242B";
const quiet = "#4A5A60";
const rule = "#C9CFC4";
const text = ["Commissioner", "Commissioner Ext"];
const mono = ["Spline", "Spline Ext"];
const display = ["Bricolage", "Bricolage Ext"];

const s = StyleSheet.create({
  page: {
    paddingTop: 44,
    paddingBottom: 64,
    paddingHorizontal: 46,
    fontFamily: text as never,
    fontSize: 9,
    color: ink,
    lineHeight: 1.35,
  },
  top: {
    flexDirection: "row",
    justifyContent: "space-between",
    alignItems: "flex-start",
    borderBottomWidth: 2,
    borderColor: ink,
    paddingBottom: 10,
  },
  brand: { flexDirection: "row", alignItems: "center", gap: 7 },
  company: { fontFamily: display as never, fontSize: 15 },
  title: { fontFamily: display as never, fontSize: 20, textAlign: "right", lineHeight: 1.1 },
  quiet: { color: quiet },
  blocks: { flexDirection: "row", gap: 22, marginTop: 16, marginBottom: 14 },
  block: { flex: 1 },
  label: { color: quiet, fontSize: 8, marginBottom: 2 },
  bold: { fontWeight: 700 },
  facts: {
    flexDirection: "row",
    borderTopWidth: 1,
    borderBottomWidth: 1,
    borderColor: rule,
    paddingVertical: 6,
    marginBottom: 14,
    gap: 22,
  },
  head: { flexDirection: "row", borderBottomWidth: 1.5, borderColor: ink, paddingBottom: 3, color: quiet, fontSize: 8 },
  row: { flexDirection: "row", borderBottomWidth: 0.6, borderColor: rule, paddingVertical: 5 },
  n: { width: 18 },
  what: { flex: 1, paddingRight: 8 },
  num: { fontFamily: mono as never, fontSize: 8.5, textAlign: "right" },
  qty: { width: 74 },
  due: { width: 66, textAlign: "right" },
  price: { width: 66 },
  net: { width: 72 },
  codes: { fontFamily: mono as never, fontSize: 7.5, color: quiet },
  totals: { marginTop: 10, marginLeft: "auto", width: 236 },
  total: { flexDirection: "row", justifyContent: "space-between", paddingVertical: 2 },
  grand: { borderTopWidth: 1.5, borderColor: ink, marginTop: 3, paddingTop: 4, fontWeight: 700, fontSize: 11 },
  note: { marginTop: 16, borderLeftWidth: 2, borderColor: ink, paddingLeft: 9 },
  foot: {
    position: "absolute",
    top: 796,
    left: 46,
    right: 46,
    borderTopWidth: 0.6,
    borderColor: rule,
    paddingTop: 6,
    flexDirection: "row",
    justifyContent: "space-between",
    color: quiet,
    fontSize: 7.5,
  },
});

function Mark() {
  return (
    <Svg width={26} height={20} viewBox="0 0 26 20">
      {[3, 8, 13, 18].map((x) => (
        <Path key={x} d={`M${x + 2} 2 L${x} 18`} stroke={ink} strokeWidth={2.2} />
      ))}
      <Path d="M0 15 L25 4" stroke="#8A6A12" strokeWidth={2.2} />
    </Svg>
  );
}

function Lines({ title, lines }: { title: string; lines: string[] }) {
  const [first, ...rest] = lines.filter(Boolean);
  return (
    <View style={s.block}>
      <Text style={s.label}>{title}</Text>
      <Text style={s.bold}>{first ?? "–"}</Text>
      {rest.map((l) => (
        <Text key={l}>{l}</Text>
      ))}
    </View>
  );
}

function Paper({ d }: { d: OrderDocument }) {
  const m = (minor: number) => showMoney(minor, d.currency, d.locale);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title = d.number ? `Purchase order ${d.number}` : "Draft, not an order";
  return (
    <Document title={`${title}, ${d.company.name}`} author={d.company.name} language="en">
      <Page size="A4" style={s.page} wrap>
        <View style={s.top}>
          <View>
            <View style={s.brand}>
              <Mark />
              <Text style={s.company}>{d.company.name}</Text>
            </View>
            {d.company.address.split("\n").map((l) => (
              <Text key={l} style={s.quiet}>
                {l}
              </Text>
            ))}
          </View>
          <View style={{ alignItems: "flex-end" }}>
            <Text style={s.title}>{title}</Text>
            <Text style={[s.quiet, { marginTop: 3 }]}>{day(d.day)}</Text>
          </View>
        </View>
        <View style={s.blocks}>
          <Lines title="To" lines={[d.supplier.name, ...d.supplier.address.split("\n")]} />
          <Lines title="Deliver to" lines={[`${d.deliverTo.name} store`, ...d.deliverTo.address.split("\n")]} />
          <Lines title="Your contact with us" lines={[d.writer.name, d.writer.title, d.writer.mail]} />
        </View>
        <View style={s.facts}>
          <Lines title="Wanted by" lines={[day(d.required)]} />
          <Lines title="Payment" lines={[`${d.termsDays} days net`]} />
          <Lines title="Currency" lines={[d.currency]} />
          <Lines title="Our tax number" lines={[d.company.taxNumber]} />
        </View>
        <View style={s.head} fixed>
          <Text style={s.n}>#</Text>
          <Text style={s.what}>Goods or service</Text>
          <Text style={[s.qty, { textAlign: "right" }]}>Quantity</Text>
          <Text style={s.due}>Wanted by</Text>
          <Text style={[s.price, { textAlign: "right" }]}>Price</Text>
          <Text style={[s.net, { textAlign: "right" }]}>Amount</Text>
        </View>
        {d.lines.map((l) => (
          <View key={l.position} style={s.row} wrap={false}>
            <Text style={s.n}>{l.position}</Text>
            <View style={s.what}>
              <Text>{l.words}</Text>
              <Text style={s.codes}>
                {[l.theirs && `yours ${l.theirs}`, l.ours && `ours ${l.ours}`].filter(Boolean).join("  ·  ")}
              </Text>
              {l.standing + l.discount > 0 && (
                <Text style={s.codes}>
                  less{" "}
                  {[l.standing, l.discount]
                    .filter((p) => p > 0)
                    .map((p) => showPercent(p, d.locale))
                    .join(" and ")}
                </Text>
              )}
            </View>
            <Text style={[s.num, s.qty]}>
              {showQuantity(l.quantity, d.locale)} {l.unit}
            </Text>
            <Text style={s.due}>{day(l.required)}</Text>
            <Text style={[s.num, s.price]}>{l.price === null ? "–" : showPrice(l.price, d.currency, d.locale)}</Text>
            <Text style={[s.num, s.net]}>{m(l.net)}</Text>
          </View>
        ))}
        <View style={s.totals} wrap={false}>
          {d.discount !== 0 && (
            <>
              <Total label="Lines" value={m(d.linesNet)} />
              <Total label={`Discount ${showPercent(d.discountRate, d.locale)}`} value={m(-d.discount)} />
            </>
          )}
          <Total label="Net" value={m(d.net)} />
          {d.taxed ? (
            d.taxes.map((t) => (
              <Total key={t.rate} label={`Tax ${showPercent(t.rate, d.locale)} on ${m(t.base)}`} value={m(t.tax)} />
            ))
          ) : (
            <Total label="Tax, accounted for by us" value={m(0)} />
          )}
          <View style={[s.total, s.grand]}>
            <Text>Total {d.currency}</Text>
            <Text>{m(d.total)}</Text>
          </View>
        </View>
        {d.note !== "" && (
          <View style={s.note} wrap={false}>
            <Text>{d.note}</Text>
          </View>
        )}
        <View style={s.foot} fixed>
          <Text>
            Please name {d.number ?? "the order number"} on the delivery note and the invoice. Tell us at once if a date
            cannot be kept.
          </Text>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
        </View>
      </Page>
    </Document>
  );
}

function Total({ label, value }: { label: string; value: string }) {
  return (
    <View style={s.total}>
      <Text>{label}</Text>
      <Text style={s.num}>{value}</Text>
    </View>
  );
}

/** The order as an A4 paper. Deterministic but for the PDF's own creation date. */
export function orderPdf(document: OrderDocument): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<Paper d={document} />);
}
