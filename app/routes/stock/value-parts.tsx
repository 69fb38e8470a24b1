import { Link, useNavigate } from "react-router";
import { ENTRY_WORDS, ROLE_WORDS } from "../../../core/stock/posting";
import { meanCost, meanCostSum } from "../../../core/stock/value";
import type { JournalEntry, NotInvoiced, StockValue, TrialRow, ValueMove } from "../../../server/queries/stock/values";
import { Empty, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { SumSheet } from "../../ui/sum";

/** What lies where, and what it is worth, the dearest first. */
export function StockSheet({
  rows,
  at,
  onAt,
}: {
  rows: readonly StockValue[];
  at: string | null;
  onAt: (key: string) => void;
}) {
  const w = useWriting();
  const navigate = useNavigate();
  const columns: SheetColumn<StockValue>[] = [
    { key: "item", head: "Item", cell: (r) => <Named name={r.name} code={r.code} /> },
    { key: "store", keep: 0, head: "Store", cell: (r) => r.storeName },
    {
      key: "quantity",
      keep: 2,
      head: "On hand",
      align: "right",
      cell: (r) => (
        <>
          <span className="figure">{w.quantity(r.quantity)}</span> <span className="text-2xs text-ink-3">{r.unit}</span>
        </>
      ),
    },
    {
      key: "mean",
      keep: 1,
      head: "One, on average",
      align: "right",
      cell: (r) => {
        const mean = meanCost({ quantity: r.quantity, value: r.value }, w.home);
        return <span className="figure">{mean === null ? "–" : w.price(mean)}</span>;
      },
    },
    {
      key: "value",
      keep: 3,
      head: "Worth",
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.value)}</span>,
    },
  ];
  return (
    <Sheet
      label="Stock by value"
      columns={columns}
      rows={rows}
      keyOf={(r) => `${r.item}/${r.store}`}
      at={at}
      onAt={onAt}
      onOpen={(r) => navigate(`/items/${r.item}/movements?store=${r.store}`)}
      empty={<Empty title="Nothing found">No stock has this code or name here.</Empty>}
    />
  );
}

/** One item in one store: what one is worth, with its sum, and what moved the value. */
export function StockSlip({ row: r, currency }: { row: StockValue & { moves: ValueMove[] }; currency: string }) {
  const w = useWriting();
  const sum = meanCostSum({ quantity: r.quantity, value: r.value }, r.unit, currency);
  return (
    <>
      <SlipHead over={r.storeName} title={r.name}>
        <p className="mt-1 text-ink-2">
          <Link className="underline" to={`/items/${r.item}`}>
            {r.code}
          </Link>
        </p>
      </SlipHead>
      {sum && <SumSheet sum={sum} />}
      <SlipPart title="What moved it">
        <table className="w-full border border-rule bg-sheet">
          <caption className="sr-only">Movements and their values</caption>
          <tbody>
            {r.moves.map((m) => (
              <tr key={m.id} className="border-b border-rule-2 last:border-0">
                <td className="px-2.5 py-1 text-xs whitespace-nowrap">{w.day(m.day, false)}</td>
                <td className="text-xs">
                  {m.receipt === null ? (
                    m.kind
                  ) : (
                    <Link className="underline" to={`/receipts/${m.receipt}`}>
                      {m.kind === "undo" ? "undone, " : ""}
                      {m.receiptNumber}
                    </Link>
                  )}
                </td>
                <td className="figure text-right text-xs">{w.quantity(m.quantity)}</td>
                <td className="figure px-2.5 text-right text-xs">{w.amount(m.value)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </SlipPart>
    </>
  );
}

/** What was received of each order and not invoiced, the oldest first. */
export function NotInvoicedSheet({ rows }: { rows: readonly NotInvoiced[] }) {
  const w = useWriting();
  const navigate = useNavigate();
  const columns: SheetColumn<NotInvoiced>[] = [
    { key: "order", head: "Order", cell: (r) => <Named name={r.supplierName} code={r.number} /> },
    { key: "lines", keep: 0, head: "Lines", align: "right", cell: (r) => <span className="figure">{r.lines}</span> },
    { key: "since", keep: 1, head: "Since", align: "right", cell: (r) => w.day(r.since) },
    {
      key: "value",
      keep: 2,
      head: "Not invoiced",
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.value)}</span>,
    },
  ];
  return (
    <Sheet
      label="Received, not invoiced"
      columns={columns}
      rows={rows}
      keyOf={(r) => String(r.order)}
      at={null}
      onAt={() => {}}
      onOpen={(r) => navigate(`/orders/${r.order}`)}
      empty={<Empty title="All is invoiced">What is counted in stands here until its invoice is matched.</Empty>}
    />
  );
}

/** What was received and not invoiced of each supplier, the most first. */
export function BySupplier({ suppliers, on }: { suppliers: readonly { name: string; value: number }[]; on: string }) {
  const w = useWriting();
  return (
    <>
      <SlipHead over={`by the end of ${w.day(on)}`} title="By supplier" />
      <table className="w-full text-xs">
        <caption className="sr-only">Received, not invoiced, by supplier</caption>
        <tbody>
          {suppliers.slice(0, 40).map((s) => (
            <tr key={s.name} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                {s.name}
              </th>
              <td className="figure text-right">{w.money(s.value)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The journal, the latest entry first: each with both its sides. */
export function Journal({ entries, more }: { entries: readonly JournalEntry[]; more: boolean }) {
  const w = useWriting();
  return (
    <div className="min-h-0 flex-1 overflow-y-auto border-t-2 border-ink">
      <table className="w-full">
        <caption className="sr-only">Entries of the journal</caption>
        <thead className="sticky top-0 bg-sheet text-left text-xs text-ink-2">
          <tr>
            <th className="py-1.5 pl-4.5 font-semibold">Entry</th>
            <th className="font-semibold">Account</th>
            <th className="font-semibold max-md:hidden">About</th>
            <th className="text-right font-semibold">Debit</th>
            <th className="pr-4.5 text-right font-semibold">Credit</th>
          </tr>
        </thead>
        {entries.map((e) => (
          <tbody key={e.id} className="border-t border-rule">
            {e.postings.map((p, i) => (
              <tr key={i}>
                <td className="py-0.5 pl-4.5 text-xs align-baseline">
                  {i === 0 && (
                    <>
                      {w.day(e.day, false)}, {ENTRY_WORDS[e.kind]}
                      {e.receipt !== null && (
                        <>
                          {" "}
                          <Link className="underline" to={`/receipts/${e.receipt}`}>
                            {e.receiptNumber}
                          </Link>
                        </>
                      )}
                    </>
                  )}
                </td>
                <td className="text-xs">
                  {ROLE_WORDS[p.role]} {p.account && <span className="code">{p.account}</span>}
                </td>
                <td className="truncate text-xs text-ink-2 max-md:hidden">{p.about}</td>
                <td className="figure text-right">{p.minor > 0 ? w.amount(p.minor) : ""}</td>
                <td className="figure pr-4.5 text-right">{p.minor < 0 ? w.amount(-p.minor) : ""}</td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
      {more && (
        <p className="px-4.5 py-2">
          <Link className="underline" to={`?cut=journal&before=${entries.at(-1)!.id}`}>
            further back
          </Link>
        </p>
      )}
    </div>
  );
}

/** What each account stands at; all together come to nothing. */
export function TrialSlip({ rows, on }: { rows: readonly TrialRow[]; on: string }) {
  const w = useWriting();
  const sum = (of: (r: TrialRow) => number) => rows.reduce((a, r) => a + of(r), 0);
  return (
    <>
      <SlipHead over={`by the end of ${w.day(on)}`} title="Trial balance" />
      <table className="w-full border border-rule bg-sheet">
        <caption className="sr-only">Trial balance</caption>
        <thead className="text-xs text-ink-2">
          <tr>
            <th className="px-2.5 py-1 text-left font-semibold">Account</th>
            <th className="text-right font-semibold">Debit</th>
            <th className="px-2.5 text-right font-semibold">Credit</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={`${r.role} ${r.account}`} className="border-t border-rule-2">
              <td className="px-2.5 py-1 text-xs">
                {ROLE_WORDS[r.role]}{" "}
                {r.account && <span className="code">{[r.account, r.accountName].filter(Boolean).join(" ")}</span>}
              </td>
              <td className="figure text-right text-xs">{r.debit ? w.amount(r.debit) : ""}</td>
              <td className="figure px-2.5 text-right text-xs">{r.credit ? w.amount(r.credit) : ""}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-2 border-ink font-semibold">
            <th scope="row" className="px-2.5 py-1 text-left">
              all
            </th>
            <td className="figure text-right text-xs">{w.amount(sum((r) => r.debit))}</td>
            <td className="figure px-2.5 text-right text-xs">{w.amount(sum((r) => r.credit))}</td>
          </tr>
        </tfoot>
      </table>
    </>
  );
}
