import { Link, useLoaderData } from "react-router";
import { count } from "../../../core/text";
import { type MovedPrice, readLists, type SupplierList } from "../../../server/queries/insight/lists";
import { recordAsked } from "../../../server/queries/insight/record";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useSlip } from "../../ui/use-slip";
import { page } from "../../web/page";
import { PeriodFields } from "./asked-parts";
import { InsightPages } from "./insight-pages";
import { unlessOnlyAt } from "./only-at";

export const loader = page("see insight", ({ db, url, day }) => {
  const { period } = recordAsked(url.searchParams, day);
  return { period, rows: readLists(db, period) };
});
export const shouldRevalidate = unlessOnlyAt;

/** Whose list went up between two days, and what that comes to for what was bought. */
export default function ListsPage() {
  const { period, rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? String(rows[0].supplier) : null);
  const here = rows.find((r) => String(r.supplier) === at) ?? rows[0];
  const whole = (n: number) => <span className="figure">{n || ""}</span>;
  const columns: SheetColumn<SupplierList>[] = [
    { key: "of", head: "Supplier", gives: true, cell: (r) => r.name },
    { key: "prices", head: "Prices", keep: 1, align: "right", cell: (r) => whole(r.prices) },
    { key: "up", head: "Risen", keep: 3, align: "right", cell: (r) => whole(r.up) },
    { key: "down", head: "Fallen", keep: 2, align: "right", cell: (r) => whole(r.down) },
    {
      key: "moved",
      head: "As we buy",
      keep: 3,
      align: "right",
      cell: (r) => <Moved bp={r.moved} />,
    },
    {
      key: "more",
      head: `Costs more, ${w.home}`,
      keep: 4,
      align: "right",
      cell: (r) => <b className="figure">{r.more === null ? "–" : r.more === 0 ? "" : w.money(r.more)}</b>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Whose list went up"
            sub={`lists of ${w.day(period.from, false)} and of ${w.day(period.until, false)}`}
          >
            <InsightPages here="/insight/lists" />
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
            <PeriodFields period={period} />
          </div>
          <Sheet
            label="Whose list went up"
            columns={columns}
            rows={rows}
            keyOf={(r) => String(r.supplier)}
            at={here ? String(here.supplier) : null}
            onAt={setAt}
            empty={<Empty title="No list on both days">Choose days on which a list had prices.</Empty>}
          />
        </>
      }
      slip={here && <ListSlip list={here} period={period} />}
      tally={
        <TallyLine>
          <span>
            <b>{count(rows.length, "list")}</b>
          </span>
          <span>
            what was bought costs <b className="figure">{w.amount(rows.reduce((a, r) => a + (r.more ?? 0), 0))}</b> more
            at the lists of the last day
          </span>
          {rows.some((r) => r.more === null) && <span>without currencies that had no rate that day</span>}
        </TallyLine>
      }
    />
  );
}

/** By how much, with its sign. */
function Moved({ bp }: { bp: number | null }) {
  const w = useWriting();
  return <span className="figure">{bp === null ? "–" : bp === 0 ? "" : `${bp > 0 ? "+" : ""}${w.percent(bp)}`}</span>;
}

/** The prices of one list that moved. */
function ListSlip({ list, period }: { list: SupplierList; period: { from: string; until: string } }) {
  const w = useWriting();
  const { slip, lost } = useSlip<{ prices: MovedPrice[]; found: number }>(
    `/insight/moved-prices?supplier=${list.supplier}&from=${period.from}&to=${period.until}`,
    period.from + period.until,
  );
  return (
    <>
      <SlipHead over={list.currency} title={list.name}>
        <p className="mt-1 text-ink-2">
          {list.before === 0 ? (
            "Nothing of their list was bought in these days."
          ) : (
            <>
              What was bought comes to <b className="figure text-ink">{w.amount(list.before, list.currency)}</b> at the
              list of before, and to <b className="figure text-ink">{w.amount(list.now, list.currency)}</b> now.
            </>
          )}
        </p>
      </SlipHead>
      {lost && <p className="text-xs text-ink-2">Their prices cannot be read just now.</p>}
      {slip && slip.found === 0 && <p className="text-xs text-ink-2">None of their prices moved.</p>}
      {slip && slip.found > 0 && (
        <SlipPart title={`Prices that moved, ${list.currency}`}>
          <table className="w-full text-xs">
            <caption className="sr-only">Prices of {list.name} that moved</caption>
            <tbody>
              {slip.prices.map((p) => (
                <tr key={p.item} className="border-b border-rule-2">
                  <th scope="row" className="py-1 text-left font-normal">
                    <Link className="hover:underline" to={`/items/${p.item}`}>
                      {p.name}
                    </Link>
                    <span className="block text-2xs text-ink-3">
                      {w.price(p.before, list.currency)} → {w.price(p.now, list.currency)} / {p.unit},{" "}
                      {w.quantity(p.bought)} bought
                    </span>
                  </th>
                  <td className="py-1 text-right align-top">
                    <Moved bp={p.moved} />
                    <span className="figure block text-2xs text-ink-3">
                      {p.more !== 0 && `${p.more > 0 ? "+" : ""}${w.money(p.more, list.currency)}`}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {slip.found > slip.prices.length && (
            <p className="pt-1 text-2xs text-ink-3">and {slip.found - slip.prices.length} more</p>
          )}
        </SlipPart>
      )}
    </>
  );
}
