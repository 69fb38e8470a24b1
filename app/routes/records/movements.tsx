import { Link, useLoaderData, useSearchParams } from "react-router";
import { storesKeeping } from "../../../server/queries/choices";
import { type MovementRow, readMovements } from "../../../server/queries/records/item";
import { readItemName } from "../../../server/queries/records/items";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt, withParts } from "../../ui/use-at";
import { idOf, notFound, page, wholeOf } from "../../web/page";

export const loader = page("see items", ({ db, params, url }) => {
  const id = idOf(params.id);
  const item = readItemName(db, id);
  if (!item) throw notFound("There is no such item.");
  const stores = storesKeeping(db, id);
  const store = stores.find((s) => String(s.id) === url.searchParams.get("store"))?.id ?? null;
  const before = wholeOf(url, "before", { least: 0, most: 1e15, or: 0 });
  return { id, item, stores, store, before, ...readMovements(db, id, store, before) };
});

type Row = MovementRow;
const keyOf = (r: Row) => String(r.id);

/** Every movement behind an item's stock: stock is their sum. */
export default function Movements() {
  const { id, item, stores, store, before, rows, more } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const columns: SheetColumn<Row>[] = [
    { key: "day", head: "Day", width: "120px", cell: (r) => w.day(r.day) },
    { key: "kind", keep: 1, head: "Movement", cell: (r) => r.kind },
    { key: "store", keep: 2, head: "Store", cell: (r) => r.store },
    {
      key: "paper",
      head: "Paper",
      cell: (r) =>
        r.receipt ? (
          <Link className="underline" to={`/receipts/${r.receipt}`}>
            {r.receiptNumber}
          </Link>
        ) : r.transfer ? (
          <Link className="underline" to={`/transfers/${r.transfer}`}>
            {r.transferNumber}
          </Link>
        ) : r.job ? (
          <Link className="underline" to={`/jobs/${r.job}`}>
            job {r.jobCode}
          </Link>
        ) : (
          <span className="text-ink-3">{r.note}</span>
        ),
    },
    { key: "lot", head: "Lot", cell: (r) => r.lot ?? "" },
    { key: "person", head: "By", cell: (r) => r.person ?? "" },
    {
      key: "quantity",
      keep: 3,
      head: `Moved, ${item.unit}`,
      align: "right",
      cell: (r) => (
        <span className="figure">
          {r.quantity > 0 ? "+" : ""}
          {w.quantity(r.quantity)}
        </span>
      ),
    },
    {
      key: "after",
      keep: 2,
      head: "On hand after",
      align: "right",
      cell: (r) => <b className="figure">{w.quantity(r.after)}</b>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title={`Movements of ${item.name}`} sub={<span className="code text-xs">{item.code}</span>}>
            <select
              aria-label="Store"
              className="entry"
              value={store ?? ""}
              onChange={(e) =>
                setSearch(withParts({ store: e.target.value || null, before: null, at: null }), { replace: true })
              }
            >
              <option value="">every store</option>
              {stores.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </select>
            <Link className="underline" to={`/items/${id}`}>
              The item
            </Link>
          </SheetHead>
          <Sheet
            label="Movements"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            empty={<Empty title="Nothing has moved yet">Receipts, issues, counts and transfers appear here.</Empty>}
          />
        </>
      }
      tally={
        <TallyLine
          act={
            <span className="flex gap-4">
              {before > 0 && (
                <button
                  type="button"
                  className="font-semibold underline"
                  onClick={() => setSearch(withParts({ before: before > 500 ? String(before - 500) : null, at: null }))}
                >
                  Later
                </button>
              )}
              {more && (
                <button
                  type="button"
                  className="font-semibold underline"
                  onClick={() => setSearch(withParts({ before: String(before + 500), at: null }))}
                >
                  Earlier
                </button>
              )}
            </span>
          }
        >
          <span>
            <b>{rows.length}</b> movements shown{more && ", earlier ones follow"}
          </span>
        </TallyLine>
      }
    />
  );
}
