import { Link, useLoaderData } from "react-router";
import { addDays } from "../../../core/calendar/day";
import { coverDays, type StockAsked, type StockBy, turnsAYear } from "../../../core/insight/stock";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { valueNames } from "../../../server/queries/insight/breakdown";
import { daysOf, readStock, STILL_DAYS, type StockRow, stockAsked } from "../../../server/queries/insight/stock";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAddress, useAskedFor } from "../../ui/use-address";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { InsightPages } from "./insight-pages";
import { LyingSlip } from "./lying-slip";
import { StockControls } from "./stock-asked";

export const loader = page("see stock values", ({ db, url, day, person }) => {
  const asked = stockAsked(url.searchParams, day);
  const store = asked.store === null ? null : String(asked.store);
  return {
    asked,
    days: daysOf(asked),
    stillDays: STILL_DAYS,
    storeName: store && valueNames(db, "store", [store])(store),
    ...readStock(db, asked),
    plans: may(person.roles, "see needs"),
  };
});

/** By what one goes on, once it is narrowed to one store or category. */
const NEXT: Record<StockBy, (a: StockAsked) => StockBy> = {
  store: (a) => (a.category === null ? "category" : "item"),
  category: () => "item",
  item: () => "item",
};

/** What our stock was worth on a day, how often it turns, and what of it lies still. */
export default function StockPage() {
  const { asked, days, stillDays, storeName, rows, found, total, plans } = useLoaderData<typeof loader>();
  const w = useWriting();
  const { put } = useAddress();
  const search = useAskedFor();
  const [at, setAt] = useAt(rows[0]?.key ?? null);
  const here = rows.find((r) => r.key === at) ?? rows[0];
  const money = (minor: number) => <span className="figure">{minor === 0 ? "" : w.round(minor)}</span>;
  const of = (n: number | null, places: number) => (
    <span className="figure">
      {n === null
        ? "–"
        : (n / 10_000).toLocaleString(w.locale, { minimumFractionDigits: places, maximumFractionDigits: places })}
    </span>
  );
  const columns: SheetColumn<StockRow>[] = [
    {
      key: "of",
      head: asked.by,
      gives: true,
      cell: (r) => (r.code ? <Named name={r.label} code={r.code} /> : r.label),
    },
    { key: "value", head: "Worth", keep: 4, align: "right", cell: (r) => <b>{money(r.value)}</b> },
    { key: "used", head: "Used in a year", keep: 3, align: "right", cell: (r) => money(r.used) },
    { key: "turns", head: "Turns", keep: 2, align: "right", cell: (r) => of(turnsAYear(r), 1) },
    { key: "cover", head: "Lasts, days", keep: 2, align: "right", cell: (r) => of(coverDays(r, days), 0) },
    { key: "still", head: `Unused ${stillDays} days`, keep: 3, align: "right", cell: (r) => money(r.still) },
    { key: "soon", head: "Expires soon", keep: 1, align: "right", cell: (r) => money(r.soon) },
    {
      key: "theirs",
      head: "Consigned",
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{r.theirs || ""}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="What lies there"
            sub={`our stock at the end of ${w.day(asked.on)}${asked.knownThen ? ", as it was known then" : ""}, in ${w.home}`}
          >
            <InsightPages here="/insight/stock" />
          </SheetHead>
          <StockControls asked={asked} storeName={storeName} />
          <Sheet
            label="What lies there"
            columns={columns}
            rows={rows}
            keyOf={(r) => r.key}
            at={here?.key ?? null}
            onAt={setAt}
            empty={<Empty title="Nothing of ours lay there">Choose another day.</Empty>}
          />
        </>
      }
      slip={
        here && (
          <LyingSlip
            asked={asked}
            days={days}
            stillDays={stillDays}
            row={here}
            search={search}
            plans={plans}
            onNarrow={() => put({ by: NEXT[asked.by](asked), [`is-${asked.by}`]: here.key })}
          />
        )
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(total.places, "place")}</b>
            {found > rows.length && `, the ${rows.length} worth most shown`}
          </span>
          <span>
            worth <b className="figure">{w.amount(total.value)}</b>
          </span>
          <span>
            used since {w.day(asked.from)} <b className="figure">{w.amount(total.used)}</b>
          </span>
          <span>
            unused since {w.day(addDays(asked.on, -stillDays))} <b className="figure">{w.amount(total.still)}</b>
          </span>
          <Link className="underline" to={`/insight/stock.csv?${search}`} reloadDocument>
            CSV
          </Link>
        </TallyLine>
      }
    />
  );
}
