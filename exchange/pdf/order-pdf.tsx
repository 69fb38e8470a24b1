import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../core/numbers/format";
import { registerFonts } from "./fonts";
import { type OrderDocument, paperTitle, placeOf } from "./order-document";
import { Letterhead, Lines, s } from "./paper";

function Paper({ d }: { d: OrderDocument }) {
  const m = (minor: number) => showMoney(minor, d.currency, d.locale);
  const day = (x: string) => showDay(x, "0000", d.locale, false);
  const title = paperTitle(d);
  const blanket = d.kind === "blanket";
  return (
    <Document title={`${title}, ${d.company.name}`} author={d.company.name} language="en">
      <Page size="A4" style={s.page} wrap>
        <Letterhead company={d.company} title={title} day={day(d.day)} />
        <View style={s.blocks}>
          <Lines
            title="To"
            lines={[d.supplier.name, ...(d.contact ? [`for ${d.contact}`] : []), ...d.supplier.address.split("\n")]}
          />
          <Lines title="Deliver to" lines={[placeOf(d), ...d.deliverTo.address.split("\n")]} />
          <Lines title="Your contact with us" lines={[d.writer.name, d.writer.title, d.writer.mail]} />
        </View>
        <View style={s.facts}>
          {blanket && d.starts && d.ends ? (
            <Lines title="Holds" lines={[`${day(d.starts)} to`, day(d.ends)]} />
          ) : (
            <Lines title="Wanted by" lines={[day(d.required)]} />
          )}
          <Lines title="Payment" lines={[d.payment ?? `${d.termsDays} days net`]} />
          {d.delivery ? <Lines title="Delivery" lines={[d.delivery, d.carrier ?? ""]} /> : null}
          {d.drawnFrom?.length ? <Lines title="Called off from" lines={d.drawnFrom} /> : null}
          {d.ourReference || d.theirReference ? (
            <Lines
              title="References"
              lines={[
                d.ourReference ? `ours ${d.ourReference}` : "",
                d.theirReference ? `yours ${d.theirReference}` : "",
              ]}
            />
          ) : null}
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
              {l.note ? <Text style={s.codes}>{l.note}</Text> : null}
              {(l.instalments ?? []).map((p) => (
                <Text key={p.required} style={s.codes}>
                  {showQuantity(p.quantity, d.locale)} {l.unit} by {day(p.required)}
                </Text>
              ))}
              {l.upTo || l.least ? (
                <Text style={s.codes}>
                  {[
                    l.upTo ? `up to ${m(l.upTo)} ${d.currency}` : "",
                    l.least ? `at least ${showQuantity(l.least, d.locale)} ${l.unit} at once` : "",
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </Text>
              ) : null}
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
        {d.validUntil ? (
          <View style={s.note} wrap={false}>
            <Text>This order is void if it is not accepted by {day(d.validUntil)}.</Text>
          </View>
        ) : null}
        {d.texts ? (
          <View style={s.note}>
            <Text>{d.texts}</Text>
          </View>
        ) : null}
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
