import { type LoaderFunctionArgs, useLoaderData, useParams } from "react-router";
import { showAmount, showDay, showMoney, showPercent, showPrice, showQuantity } from "../../../core/numbers/format";
import { lookOf, paperTitle, placeOf } from "../../../exchange/pdf/order-document";
import { noteLooked, readLinked } from "../../../server/read/orders/link";
import { house, now, today } from "../../web/house";
import { notFound } from "../../web/page";

/** Opened by whoever holds the link, without an account. It shows this one order as it stands. */
export function loader({ params, context }: LoaderFunctionArgs) {
  const { db } = context.get(house);
  const link = String(params.link).slice(0, 80);
  const found = readLinked(db, link, today());
  if (!found) throw notFound("This link does not lead to an order of ours.");
  if (!("says" in found)) noteLooked(db, link, now().toISOString());
  return { found, today: today() };
}

const STATES: Record<string, string> = {
  "Part in": "a part of it has arrived",
  "All in": "all of it has arrived",
  "Closed short": "closed: nothing more is expected",
  Cancelled: "cancelled",
};

/** A supplier reads an order: the same as the paper, and always as it stands. */
export default function LinkedOrder() {
  const { found, today } = useLoaderData<typeof loader>();
  const { link } = useParams();
  if ("says" in found)
    return (
      <main id="sheet" tabIndex={-1} className="mx-auto max-w-3xl px-4.5 py-16 outline-none">
        <title>A link that has ended</title>
        <h1 className="text-xl font-bold">This link does not open any more</h1>
        <p className="mt-2 text-ink-2">{found.says}</p>
      </main>
    );
  const { document: d, state, closed } = found;
  const { prices } = lookOf(d);
  const day = (x: string) => showDay(x, today, d.locale);
  const money = (minor: number) => showMoney(minor, d.currency, d.locale);
  const facts: [string, string][] = [
    ["Deliver to", [placeOf(d), ...d.deliverTo.address.split("\n")].filter(Boolean).join(", ")],
    d.kind === "blanket" && d.starts && d.ends
      ? ["Holds", `${day(d.starts)} to ${day(d.ends)}`]
      : ["Wanted by", day(d.required)],
    ...(prices ? [["Payment", d.payment ?? `${d.termsDays} days net`] as [string, string]] : []),
    ...(d.delivery ? [["Delivery", d.delivery] as [string, string]] : []),
    ["Your contact", [d.writer.name, d.writer.mail].filter(Boolean).join(", ")],
  ];
  return (
    <main id="sheet" tabIndex={-1} className="mx-auto max-w-4xl bg-sheet px-6 py-8 outline-none max-md:px-4.5">
      <title>{`${paperTitle(d)}, ${d.company.name}`}</title>
      <div className="flex flex-wrap items-baseline gap-x-4 border-b-2 border-ink pb-3">
        <h1 className="text-xl font-bold">{paperTitle(d)}</h1>
        <p className="text-ink-2">
          {d.company.name} to {d.supplier.name}, {day(d.day)}
        </p>
        {STATES[state] && <p className="ml-auto font-semibold">{STATES[state]}</p>}
      </div>
      {closed && <p className="mt-3 border-l-4 border-ink px-3">{closed}</p>}
      <dl className="grid grid-cols-3 gap-x-6 gap-y-2 border-b border-rule py-4 max-md:grid-cols-1">
        {facts.map(([k, v]) => (
          <div key={k}>
            <dt className="text-xs text-ink-3">{k}</dt>
            <dd>{v}</dd>
          </div>
        ))}
      </dl>
      <div className="overflow-x-auto">
        <table className="w-full">
          <caption className="sr-only">Lines</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left text-2xs text-ink-3">
              <th className="py-1.5 pr-2">#</th>
              <th className="px-2">Goods or service</th>
              <th className="px-2 text-right">Quantity</th>
              <th className="px-2 text-right">Wanted by</th>
              {prices && (
                <>
                  <th className="px-2 text-right">Price</th>
                  <th className="pl-2 text-right">Amount</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            {d.lines.map((l) => (
              <tr key={l.position} className="border-b border-rule-2 align-top">
                <td className="py-2 pr-2 text-ink-3">{l.position}</td>
                <td className="px-2 py-2">
                  {l.words}
                  <span className="code block">
                    {[l.theirs && `yours ${l.theirs}`, l.ours && `ours ${l.ours}`].filter(Boolean).join(" · ")}
                  </span>
                  {l.deliverTo && (
                    <span className="block text-xs text-ink-2">
                      deliver to {[l.deliverTo.name, ...l.deliverTo.address.split("\n")].filter(Boolean).join(", ")}
                    </span>
                  )}
                  {l.note && <span className="block text-xs text-ink-2">{l.note}</span>}
                  {prices && l.standing + l.discount > 0 && (
                    <span className="block text-xs text-ink-2">
                      less{" "}
                      {[l.standing, l.discount]
                        .filter((p) => p > 0)
                        .map((p) => showPercent(p, d.locale))
                        .join(" and ")}
                    </span>
                  )}
                </td>
                <td className="figure px-2 py-2 text-right whitespace-nowrap">
                  {showQuantity(l.quantity, d.locale)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                </td>
                <td className="px-2 py-2 text-right whitespace-nowrap">
                  {l.instalments?.length
                    ? l.instalments.map((p) => (
                        <span key={p.required} className="block">
                          {showQuantity(p.quantity, d.locale)} by {day(p.required)}
                        </span>
                      ))
                    : day(l.required)}
                </td>
                {prices && (
                  <>
                    <td className="figure px-2 py-2 text-right">
                      {l.price === null ? "–" : showPrice(l.price, d.currency, d.locale)}
                    </td>
                    <td className="figure py-2 pl-2 text-right">{money(l.net)}</td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {prices && (
        <dl className="mt-3 ml-auto w-72 max-w-full">
          {d.discount !== 0 && (
            <Sum label={`Discount ${showPercent(d.discountRate, d.locale)}`} value={money(-d.discount)} />
          )}
          <Sum label="Net" value={money(d.net)} />
          {d.taxes.map((t) => (
            <Sum key={t.rate} label={`Tax ${showPercent(t.rate, d.locale)}`} value={money(t.tax)} />
          ))}
          <div className="flex justify-between border-t-2 border-ink pt-1 font-semibold">
            <dt>Total</dt>
            <dd className="figure">{showAmount(d.total, d.currency, d.locale)}</dd>
          </div>
        </dl>
      )}
      {[d.note, d.texts].filter(Boolean).map((t) => (
        <p key={t} className="mt-4 border-l-2 border-ink pl-3 whitespace-pre-line">
          {t}
        </p>
      ))}
      <p className="mt-6 flex gap-4">
        <a className="font-semibold underline" href={`/order/${link}/paper.pdf`}>
          The order as PDF
        </a>
        {prices && (
          <a className="font-semibold underline" href={`/order/${link}/order.xml`}>
            UBL file
          </a>
        )}
      </p>
    </main>
  );
}

function Sum({ label, value }: { label: string; value: string }) {
  return (
    <div className="flex justify-between py-0.5">
      <dt className="text-ink-2">{label}</dt>
      <dd className="figure">{value}</dd>
    </div>
  );
}
