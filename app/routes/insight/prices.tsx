import { Link, useLoaderData } from "react-router";
import { count } from "../../../core/text";
import type { AskedPrice } from "../../../server/queries/insight/lists";
import { type PaidItem, type PaidWith, readPaidItems } from "../../../server/queries/insight/paid";
import { recordAsked } from "../../../server/queries/insight/record";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useSlip } from "../../ui/use-slip";
import { page } from "../../web/page";
import { PeriodFields } from "./asked-parts";
import { AskedPrices } from "./asked-prices";
import { InsightPages } from "./insight-pages";
import { unlessOnlyAt } from "./only-at";
import { PaidDots } from "./paid-dots";

export const loader = page("see insight", ({ db, url, day }) => {
  const { period } = recordAsked(url.searchParams, day);
  return { period, rows: readPaidItems(db, period) };
});

/** What was paid for items, over all suppliers, and what it came to above the least that was paid for each. */
export default function PricesPage() {
  const { period, rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? String(rows[0].item) : null);
  const here = rows.find((r) => String(r.item) === at) ?? rows[0];
  const price = (p: PaidItem["least"]) => <span className="figure">{w.price(p.unit)}</span>;
  const columns: SheetColumn<PaidItem>[] = [
    { key: "of", head: "Item", gives: true, cell: (r) => <Named name={r.name} code={`${r.code} · ${r.stockUnit}`} /> },
    {
      key: "suppliers",
      head: "Suppliers",
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{r.suppliers}</span>,
    },
    {
      key: "home",
      head: "Paid",
      keep: 3,
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.home)}</span>,
    },
    { key: "least", head: "Least, for one", keep: 2, align: "right", cell: (r) => price(r.least) },
    { key: "last", head: "Last, for one", keep: 2, align: "right", cell: (r) => price(r.last) },
    {
      key: "above",
      head: "Above the least",
      keep: 4,
      align: "right",
      cell: (r) => <b className="figure">{r.above ? w.money(r.above) : ""}</b>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Prices paid" sub={`for what was received, before tax, in ${w.home}`}>
            <InsightPages here="/insight/prices" />
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
            <PeriodFields period={period} />
          </div>
          <Sheet
            label="Prices paid"
            columns={columns}
            rows={rows}
            keyOf={(r) => String(r.item)}
            at={here ? String(here.item) : null}
            onAt={setAt}
            empty={<Empty title="Nothing came in these days">Choose other days.</Empty>}
          />
        </>
      }
      slip={here && <PaidSlip item={here} from={period.from} until={period.until} />}
      tally={
        <TallyLine>
          <span>
            <b>{count(rows.length, "item")}</b>
          </span>
          <span>
            paid <b className="figure">{w.amount(rows.reduce((a, r) => a + r.home, 0))}</b>
          </span>
          <span>
            above the least of each <b className="figure">{w.amount(rows.reduce((a, r) => a + r.above, 0))}</b>
          </span>
        </TallyLine>
      }
    />
  );
}
export const shouldRevalidate = unlessOnlyAt;

/** One item's prices by day, over all suppliers: at home, and as they asked it. */
function PaidSlip({ item, from, until }: { item: PaidItem; from: string; until: string }) {
  const w = useWriting();
  const { slip } = useSlip<{ paid: PaidWith[]; asked: AskedPrice[] }>(
    `/insight/paid-of?item=${item.item}&from=${from}&to=${until}`,
    from + until,
  );
  return (
    <>
      <SlipHead over={item.code} title={item.name}>
        <p className="mt-1 text-ink-2">
          {item.above === 0
            ? "Never more than the least."
            : `${w.amount(item.above)} more than all of it at ${w.price(item.least.unit)}, as ${item.least.supplier} brought it on ${w.day(item.least.day)}.`}
        </p>
        <Link className="text-xs underline" to={`/items/${item.item}`}>
          The item
        </Link>
      </SlipHead>
      {slip && (
        <SlipPart title={`${w.home} for one ${item.stockUnit}`}>
          <PaidDots paid={slip.paid} />
        </SlipPart>
      )}
      {slip && <AskedPrices asked={slip.asked} item={item.name} />}
      {slip && (
        <SlipPart title={`Each time, ${w.home} for one ${item.stockUnit}`}>
          <table className="w-full text-xs">
            <caption className="sr-only">What was paid for {item.name}</caption>
            <tbody>
              {slip.paid.toReversed().map((p, i) => (
                <tr key={i} className="border-b border-rule-2">
                  <th scope="row" className="py-1 text-left font-normal">
                    <Link className="hover:underline" to={`/receipts/${p.receipt}`}>
                      {p.supplier}
                    </Link>
                    <span className="block text-2xs text-ink-3">
                      {w.day(p.day, false)}, {w.quantity(p.quantity)} {item.stockUnit}
                    </span>
                  </th>
                  <td className="figure text-right">
                    {w.price(p.unit)}
                    {p.currency !== w.home && (
                      <span className="block text-2xs text-ink-3">{w.amount(p.foreign, p.currency)} in all</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </SlipPart>
      )}
    </>
  );
}
