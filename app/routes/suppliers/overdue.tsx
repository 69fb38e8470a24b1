import { useLoaderData } from "react-router";
import { count, unitWords } from "../../../core/text";
import { readOverdue } from "../../../server/queries/suppliers/overdue";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { page } from "../../web/page";
import { OrderPages } from "../orders/order-pages";

export const loader = page("see orders", ({ db, day }) => ({ rows: readOverdue(db, day), day }));

type Row = ReturnType<typeof readOverdue>[number];

/** Everything overdue, by supplier and days late, with what is open of it: on the screen, and on paper. */
export default function Overdue() {
  const { rows, day } = useLoaderData<typeof loader>();
  const w = useWriting();
  const suppliers = [...new Set(rows.map((r) => r.supplier))];
  return (
    <main
      id="sheet"
      tabIndex={-1}
      className="col-span-full min-h-0 overflow-y-auto bg-sheet pb-8 outline-none print:overflow-visible"
    >
      <SheetHead
        title="Overdue"
        sub={
          rows.length === 0
            ? `nothing, ${w.day(day)}`
            : `${count(rows.length, "load")} of ${count(suppliers.length, "supplier")}, ${w.day(day)}`
        }
      >
        <span className="print:hidden">
          <OrderPages here="chase" />
        </span>
      </SheetHead>
      <div className="flex gap-2 px-4.5 pb-2 print:hidden">
        <Button look="main" onClick={() => window.print()}>
          Print it
        </Button>
        <ButtonLink to="/overdue.csv" reload>
          CSV
        </ButtonLink>
        <ButtonLink to="/overdue.xlsx" reload>
          XLSX
        </ButtonLink>
      </div>
      {rows.length === 0 && <Empty title="Nothing is overdue">Goods whose day has passed stand here.</Empty>}
      {suppliers.map((code) => (
        <OfSupplier key={code} rows={rows.filter((r) => r.supplier === code)} />
      ))}
    </main>
  );
}

/** What one supplier has overdue, the longest late first, with what is open of it in each currency. */
function OfSupplier({ rows }: { rows: readonly Row[] }) {
  const w = useWriting();
  const { supplierName, supplier } = rows[0]!;
  const open = new Map<string, number>();
  for (const r of rows) open.set(r.currency, (open.get(r.currency) ?? 0) + (r.open ?? 0));
  return (
    <section aria-label={supplierName} className="max-w-5xl break-inside-avoid px-4.5 pb-4">
      <h2 className="flex items-baseline gap-2 border-b-2 border-ink py-1 text-base font-bold">
        {supplierName} <span className="code text-xs font-normal">{supplier}</span>
      </h2>
      <table className="w-full table-fixed">
        <caption className="sr-only">Overdue at {supplierName}</caption>
        <thead>
          <tr className="text-left text-xs text-ink-2">
            <th className="w-[88px] py-1 font-semibold">Days late</th>
            <th className="w-[96px] font-semibold">Expected</th>
            <th className="w-[120px] font-semibold">Order</th>
            <th className="font-semibold">Item</th>
            <th className="w-[110px] text-right font-semibold">Open</th>
            <th className="w-[130px] text-right font-semibold">Worth, net</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={`${r.number} ${r.position} ${r.due}`} className="border-t border-rule-2 align-baseline">
              <td className="figure py-1">{r.late}</td>
              <td>{w.day(r.due, false)}</td>
              <td className="code">
                {r.number} · {r.position}
              </td>
              <td className="truncate pr-3">
                {r.name} <span className="code">{r.item}</span>
              </td>
              <td className="figure text-right whitespace-nowrap">
                {w.quantity(r.quantity)}{" "}
                <span className="font-sans text-2xs text-ink-3">{unitWords(r.quantity, r.unitName)}</span>
              </td>
              <td className="figure text-right">
                {r.open === null ? "–" : w.money(r.open, r.currency)}{" "}
                <span className="font-sans text-2xs text-ink-3">{r.currency}</span>
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          {[...open].map(([currency, minor]) => (
            <tr key={currency} className="border-t border-ink font-semibold">
              <th scope="row" colSpan={5} className="py-1 text-left">
                open
              </th>
              <td className="figure text-right">
                {w.money(minor, currency)} <span className="font-sans text-2xs text-ink-3">{currency}</span>
              </td>
            </tr>
          ))}
        </tfoot>
      </table>
    </section>
  );
}
