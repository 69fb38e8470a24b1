import { Link, useLoaderData } from "react-router";
import type { StopWait } from "../../../core/insight/stops";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { recordAsked } from "../../../server/queries/insight/record";
import { readWaits, type WaitRow } from "../../../server/queries/insight/stops";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { PeriodFields } from "./asked-parts";
import { InsightPages } from "./insight-pages";

export const loader = page("see insight", ({ db, url, day, person }) => {
  const { period } = recordAsked(url.searchParams, day);
  return { period, ...readWaits(db, period), opens: may(person.roles, "see orders") };
});

const SAYS: Record<StopWait, { name: string; from: string }> = {
  writing: { name: "Writing it", from: "from begun to handed in" },
  "sign-off": { name: "Signatures", from: "from handed in to cleared" },
  sending: { name: "Sending it", from: "from cleared to sent" },
  answer: { name: "Their answer", from: "from sent to their first word" },
  delivery: { name: "The first goods", from: "from sent to the first that came" },
  invoice: { name: "The invoice", from: "from the first goods to an invoice that matched" },
};

/** How long orders take from stop to stop, with the slowest of each. */
export default function StopsPage() {
  const { period, orders, rows, opens } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt("sign-off");
  const here = rows.find((r) => r.wait === at) ?? rows[0]!;
  const long = (minutes: number) => {
    const [n, unit] = minutes < 48 * 60 ? [minutes / 60, "h"] : [minutes / 1440, "days"];
    return `${n.toLocaleString(w.locale, { minimumFractionDigits: 1, maximumFractionDigits: 1 })} ${unit}`;
  };
  const figure = (minutes: number | undefined) => (
    <span className="figure">{minutes === undefined ? "–" : long(minutes)}</span>
  );
  const columns: SheetColumn<WaitRow>[] = [
    {
      key: "of",
      head: "Stop",
      gives: true,
      cell: (r) => (
        <>
          {SAYS[r.wait].name} <span className="text-xs text-ink-3">{SAYS[r.wait].from}</span>
        </>
      ),
    },
    {
      key: "count",
      head: "Orders",
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{r.figures?.count.toLocaleString(w.locale) ?? "–"}</span>,
    },
    {
      key: "mean",
      head: "On average",
      keep: 3,
      align: "right",
      cell: (r) => <b>{figure(r.figures ? r.figures.sum / r.figures.count : undefined)}</b>,
    },
    { key: "most", head: "Nine of ten within", keep: 2, align: "right", cell: (r) => figure(r.figures?.ninetieth) },
    { key: "slowest", head: "The slowest", keep: 2, align: "right", cell: (r) => figure(r.slowest[0]?.minutes) },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="From stop to stop" sub="orders that were begun in these days">
            <InsightPages here="/insight/stops" />
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
            <PeriodFields period={period} />
          </div>
          <Sheet
            label="From stop to stop"
            columns={columns}
            rows={rows}
            keyOf={(r) => r.wait}
            at={here.wait}
            onAt={setAt}
            empty={<Empty title="No orders in these days">Choose other days.</Empty>}
          />
        </>
      }
      slip={
        <>
          <SlipHead over={SAYS[here.wait].from} title={`${SAYS[here.wait].name}: the slowest`} />
          {here.slowest.length === 0 ? (
            <p className="text-ink-2">No order of these days got so far.</p>
          ) : (
            <table className="w-full text-xs">
              <caption className="sr-only">The slowest</caption>
              <tbody>
                {here.slowest.map((o) => (
                  <tr key={o.id} className="border-b border-rule-2">
                    <th scope="row" className="py-1 text-left font-normal">
                      {opens ? (
                        <Link className="code underline" to={`/orders/${o.id}`}>
                          {o.number}
                        </Link>
                      ) : (
                        <span className="code">{o.number}</span>
                      )}
                      <span className="block text-2xs text-ink-3">{o.supplier}</span>
                    </th>
                    <td className="figure text-right">{long(o.minutes)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(orders, "order")}</b> begun
          </span>
          <span>by the clock, nights and weekends too</span>
        </TallyLine>
      }
    />
  );
}
