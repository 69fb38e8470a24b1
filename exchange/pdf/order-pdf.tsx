import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../core/numbers/format";
import { fillIn, type PaperColumn } from "../../core/orders/papers";
import { registerFonts } from "./fonts";
import {
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
import { Letterhead, Lines, type Logo, s } from "./paper";
import { type PaperWords, paperWords } from "./paper-words";

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

function Paper({ d, logo }: { d: OrderDocument; logo: Logo | null }) {
  const look = lookOf(d);
  const on = drawn(d);
  const { words, day } = on;
  const title = paperTitle(d);
  const values = paperValues(d);
  const above = fillIn(look.above, values);
  const notes = [
    d.note,
    d.validUntil ? words.voidAfter(day(d.validUntil)) : "",
    d.texts ?? "",
    fillIn(look.below, values),
  ];
  const blanket = d.kind === "blanket" && d.starts && d.ends;
  return (
    <Document title={`${title}, ${d.company.name}`} author={d.company.name} language={look.language}>
      <Page size="A4" style={s.page} wrap>
        <Letterhead company={d.company} title={title} day={day(d.day)} logo={logo} />
        <View style={s.blocks}>
          <Lines
            title={words.to}
            lines={[
              d.supplier.name,
              ...(d.contact ? [words.attention(d.contact)] : []),
              ...d.supplier.address.split("\n"),
            ]}
          />
          <Lines title={words.deliverTo} lines={[placeOf(d), ...d.deliverTo.address.split("\n")]} />
          <Lines title={words.contact} lines={[d.writer.name, d.writer.title, d.writer.mail]} />
        </View>
        <View style={s.facts}>
          {blanket ? (
            <Lines title={words.holds} lines={[`${day(d.starts!)} ${words.until}`, day(d.ends!)]} />
          ) : (
            <Lines title={words.wanted} lines={[day(d.required)]} />
          )}
          {look.prices ? <Lines title={words.payment} lines={[paymentOf(d)]} /> : null}
          {d.delivery ? <Lines title={words.delivery} lines={[d.delivery, d.carrier ?? ""]} /> : null}
          {d.drawnFrom?.length ? <Lines title={words.drawnFrom} lines={d.drawnFrom} /> : null}
          {d.ourReference || d.theirReference ? (
            <Lines
              title={words.references}
              lines={[
                d.ourReference ? `${words.ours} ${d.ourReference}` : "",
                d.theirReference ? `${words.yours} ${d.theirReference}` : "",
              ]}
            />
          ) : null}
          {look.prices ? <Lines title={words.currency} lines={[d.currency]} /> : null}
          <Lines title={words.taxNumber} lines={[d.company.taxNumber]} />
        </View>
        {above ? <Text style={{ marginBottom: 12 }}>{above}</Text> : null}
        <View style={s.head} fixed>
          <Text style={s.n}>#</Text>
          <Text style={s.what}>{words.goods}</Text>
          <Text style={[s.qty, { textAlign: "right" }]}>{words.quantity}</Text>
          {on.shows("wanted") && <Text style={s.due}>{words.wanted}</Text>}
          {on.shows("tax") && <Text style={[s.rate, { textAlign: "right" }]}>{words.tax}</Text>}
          {on.shows("price") && <Text style={[s.price, { textAlign: "right" }]}>{words.price}</Text>}
          {on.shows("amount") && <Text style={[s.net, { textAlign: "right" }]}>{words.amount}</Text>}
        </View>
        {d.lines.map((l) => (
          <Line key={l.position} l={l} on={on} />
        ))}
        {look.prices && <Totals on={on} />}
        {notes.filter(Boolean).map((text) => (
          <View key={text} style={s.note}>
            <Text>{text}</Text>
          </View>
        ))}
        <View style={s.foot} fixed>
          <Text style={{ maxWidth: 440 }}>{fillIn(look.foot, { ...values, number: d.number ?? "–" })}</Text>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
        </View>
      </Page>
    </Document>
  );
}

function Line({ l, on }: { l: OrderDocument["lines"][number]; on: Drawn }) {
  const { d, words, shows } = on;
  const codes = [
    shows("theirs") && l.theirs && `${words.yours} ${l.theirs}`,
    shows("ours") && l.ours && `${words.ours} ${l.ours}`,
  ].filter(Boolean);
  const limits = limitWords(d, l);
  const unit = unitIn(d, l.unit);
  const off = [l.standing, l.discount].filter((p) => p > 0);
  return (
    <View style={s.row} wrap={false}>
      <Text style={s.n}>{l.position}</Text>
      <View style={s.what}>
        <Text>{l.words}</Text>
        {codes.length > 0 && <Text style={s.codes}>{codes.join("  ·  ")}</Text>}
        {shows("notes") && l.note ? <Text style={s.codes}>{l.note}</Text> : null}
        {(l.instalments ?? []).map((p) => (
          <Text key={p.required} style={s.codes}>
            {on.quantity(p.quantity)} {unit} {words.by} {on.day(p.required)}
          </Text>
        ))}
        {l.deliverTo && (
          <Text style={s.codes}>
            {words.deliverTo}: {[l.deliverTo.name, ...l.deliverTo.address.split("\n")].filter(Boolean).join(", ")}
          </Text>
        )}
        {limits.length > 0 && <Text style={s.codes}>{limits.join(", ")}</Text>}
        {shows("discount") && off.length > 0 && (
          <Text style={s.codes}>
            {words.discount} {off.map(on.percent).join(" + ")}
          </Text>
        )}
      </View>
      <Text style={[s.num, s.qty]}>
        {on.quantity(l.quantity)} {unit}
      </Text>
      {shows("wanted") && <Text style={s.due}>{d.kind === "blanket" ? "" : on.day(l.required)}</Text>}
      {shows("tax") && <Text style={[s.num, s.rate]}>{l.taxRate === undefined ? "–" : on.percent(l.taxRate)}</Text>}
      {shows("price") && <Text style={[s.num, s.price]}>{l.price === null ? "–" : on.price(l.price)}</Text>}
      {shows("amount") && <Text style={[s.num, s.net]}>{on.money(l.net)}</Text>}
    </View>
  );
}

function Totals({ on: { d, words, money, percent } }: { on: Drawn }) {
  return (
    <View style={s.totals} wrap={false}>
      {d.discount !== 0 && (
        <>
          <Total label={words.linesTotal} value={money(d.linesNet)} />
          <Total label={`${words.discount} ${percent(d.discountRate)}`} value={money(-d.discount)} />
        </>
      )}
      <Total label={words.net} value={money(d.net)} />
      {d.taxed ? (
        d.taxes.map((t) => (
          <Total key={t.rate} label={words.taxOn(percent(t.rate), money(t.base))} value={money(t.tax)} />
        ))
      ) : (
        <Total label={words.taxByUs} value={money(0)} />
      )}
      <View style={[s.total, s.grand]}>
        <Text>
          {words.total} {d.currency}
        </Text>
        <Text>{money(d.total)}</Text>
      </View>
    </View>
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

/** The order as an A4 paper, with the logo that its look names. Deterministic but for the PDF's own creation date. */
export function orderPdf(document: OrderDocument, logo: Logo | null = null): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<Paper d={document} logo={logo} />);
}
