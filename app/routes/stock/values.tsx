import { useLoaderData, useSearchParams } from "react-router";
import { parseDay } from "../../../core/calendar/day";
import { theCompany } from "../../../server/queries/company";
import {
  readJournal,
  readNotInvoiced,
  readStockValues,
  readTrialBalance,
  readValueMoves,
  valueByStore,
} from "../../../server/queries/stock/values";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { Cuts, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { withParts } from "../../ui/use-at";
import { atOf, page } from "../../web/page";
import { BySupplier, Journal, NotInvoicedSheet, StockSheet, StockSlip, TrialSlip } from "./value-parts";

const CUTS = ["stock", "open", "journal"] as const;
export type ValueCut = (typeof CUTS)[number];
const cutOf = (url: URL): ValueCut => CUTS.find((c) => c === url.searchParams.get("cut")) ?? "stock";

export const loader = page("see stock values", ({ db, url, day }) => {
  const asked = parseDay(url.searchParams.get("on") ?? "");
  // Of today, all that is booked: what is dated ahead, too.
  const on = asked !== null && asked < day ? asked : null;
  const cut = cutOf(url);
  const store = atOf(url, "store");
  const find = (url.searchParams.get("find") ?? "").slice(0, 60);
  const stock = cut === "stock" ? readStockValues(db, store, find) : null;
  const [item, at] = (url.searchParams.get("at") ?? "").split("/").map(Number);
  const here = stock ? (stock.rows.find((r) => r.item === item && r.store === at) ?? stock.rows[0] ?? null) : null;
  return {
    cut,
    on: on ?? day,
    find,
    store,
    currency: theCompany(db).currency,
    stores: valueByStore(db),
    stock,
    here: here && { ...here, moves: readValueMoves(db, here.item, here.store) },
    open: cut === "open" ? readNotInvoiced(db, on) : null,
    journal: cut === "journal" ? { ...readJournal(db, atOf(url, "before")), trial: readTrialBalance(db, on) } : null,
  };
});

/** What the stock is worth, what is received and not invoiced, and the journal behind both. */
export default function Values() {
  const { cut, on, find, store, stores, stock, here, open, journal, currency } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const all = stores.reduce((a, s) => a + s.value, 0);
  const set = (parts: Record<string, string | null>) =>
    setSearch(withParts({ at: null, before: null, ...parts }), { replace: true });
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Values" sub={`stock worth ${w.amount(all)}, in ${currency}`} />
          <div className="flex flex-wrap items-center gap-3 px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={cut}
              onChange={(c) => set({ cut: c })}
              options={[
                { value: "stock", label: "Stock" },
                { value: "open", label: "Received, not invoiced" },
                { value: "journal", label: "Journal" },
              ]}
            />
            {!stock && (
              <Field label="By the end of" className="w-36">
                {(a) => <DayEntry {...a} value={on} max={w.today} onDay={(d) => parseDay(d) && set({ on: d })} />}
              </Field>
            )}
            {stock && (
              <>
                <select
                  aria-label="Store"
                  className="entry w-auto"
                  value={store ?? ""}
                  onChange={(e) => set({ store: e.target.value || null })}
                >
                  <option value="">all stores</option>
                  {stores.map((s) => (
                    <option key={s.store} value={s.store}>
                      {s.name}, {w.amount(s.value)}
                    </option>
                  ))}
                </select>
                <form
                  onSubmit={(e) => {
                    e.preventDefault();
                    set({ find: String(new FormData(e.currentTarget).get("find") ?? "") || null });
                  }}
                >
                  <input
                    name="find"
                    aria-label="Find an item"
                    placeholder="code or name"
                    defaultValue={find}
                    className="entry w-44"
                  />
                </form>
              </>
            )}
          </div>
          {stock && (
            <StockSheet
              rows={stock.rows}
              at={here ? `${here.item}/${here.store}` : null}
              onAt={(at) => setSearch(withParts({ at }), { replace: true })}
            />
          )}
          {open && <NotInvoicedSheet rows={open.rows} />}
          {journal && <Journal entries={journal.entries} more={journal.more} />}
        </>
      }
      slip={
        here ? (
          <StockSlip row={here} currency={currency} />
        ) : open ? (
          <BySupplier suppliers={open.suppliers} on={on} />
        ) : journal ? (
          <TrialSlip rows={journal.trial} on={on} />
        ) : undefined
      }
      tally={
        <TallyLine>
          {stock && (
            <span>
              <b>{w.amount(stock.value)}</b> in {stock.found} {stock.found === 1 ? "place" : "places"}
              {stock.found > stock.rows.length && `, the dearest ${stock.rows.length} shown`}
            </span>
          )}
          {open && (
            <span>
              <b>{w.amount(open.value)}</b> received and not invoiced, of {open.found} orders
              {open.found > open.rows.length && `, the oldest ${open.rows.length} shown`}
            </span>
          )}
          {journal && <span>debits are credits, in each entry and in all</span>}
        </TallyLine>
      }
    />
  );
}
