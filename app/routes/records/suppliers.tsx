import { Link, useLoaderData } from "react-router";
import type { OrderState } from "../../../core/orders/state";
import { count } from "../../../core/text";
import { readOrdersWith, readSuppliers } from "../../../server/read/records/suppliers";
import { Empty, SheetHead, SlipHead, SlipPart, Spread } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export const loader = page("see suppliers", ({ db, url }) => {
  const rows = readSuppliers(db);
  const at = rows.find((r) => String(r.id) === url.searchParams.get("at")) ?? rows[0];
  return { rows, orders: at ? readOrdersWith(db, at.id) : [] };
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Whom we buy from. */
export default function Suppliers() {
  const { rows, orders } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null, true);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "name", head: "Supplier", cell: (r) => <Named name={r.name} code={r.code} /> },
    { key: "currency", head: "Currency", cell: (r) => r.currency },
    { key: "terms", head: "Terms", align: "right", cell: (r) => `${r.termsDays} days net` },
    { key: "delivers", head: "Delivers", cell: (r) => DAYS.filter((_, i) => r.delivers & (1 << i)).join(" ") },
    { key: "items", head: "Items", align: "right", cell: (r) => <span className="figure">{r.items}</span> },
    { key: "open", head: "Open orders", align: "right", cell: (r) => <span className="figure">{r.open || "·"}</span> },
  ];
  return (
    <Spread
      sheet={
        <>
          <SheetHead title="Suppliers" sub={count(rows.length, "supplier")} />
          <Sheet
            label="Suppliers"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={<Empty title="No suppliers yet">An administrator loads them under Files.</Empty>}
          />
        </>
      }
      slip={
        here ? (
          <>
            <SlipHead over={here.code} title={here.name}>
              <p className="mt-1 whitespace-pre-line text-ink-2">{here.address}</p>
              <p className="mt-1">
                {here.contacts ? (
                  `Orders go to ${here.contacts}.`
                ) : (
                  <b className="text-signal">No address for orders yet.</b>
                )}
              </p>
            </SlipHead>
            {orders.length > 0 && (
              <SlipPart title="Last orders">
                <ul className="border border-rule bg-sheet">
                  {orders.map((o) => (
                    <li
                      key={o.id}
                      className="flex items-center justify-between gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0"
                    >
                      <Link to={`/orders/${o.id}`} className="underline">
                        {o.number}
                      </Link>
                      <span className="text-xs">
                        <StateSquare state={o.state as OrderState} />
                      </span>
                      <span className="figure">{w.amount(o.total, o.currency)}</span>
                    </li>
                  ))}
                </ul>
              </SlipPart>
            )}
          </>
        ) : (
          <Empty title="No supplier chosen" />
        )
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>
            <b>{rows.length}</b> suppliers
          </span>
        </TallyLine>
      }
    />
  );
}
