import { useLoaderData, useNavigate } from "react-router";
import { count } from "../../../core/text";
import { readDrafts } from "../../../server/read/orders/lists";
import { Button } from "../../ui/button";
import { Empty, SheetHead, Spread } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { OrderSlip } from "../orders/order-slip";

export const loader = page("write orders", ({ db, day }) => ({ rows: readDrafts(db, day) }));
export const shouldRevalidate = unlessOnlyLooking;

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Orders that are being written: the last look before they go to be signed. */
export default function Bench() {
  const { rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const open = (r: Row) => navigate(`/orders/${r.id}`);
  const columns: SheetColumn<Row>[] = [
    {
      key: "order",
      head: "Order",
      cell: (r) => <Named name={r.supplierName} code={`${r.name} · ${r.storeName}`} strong />,
    },
    { key: "lines", head: "Lines", align: "right", cell: (r) => <span className="figure">{r.lines}</span> },
    {
      key: "net",
      head: "Before tax",
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.net, r.currency)}</span>,
    },
    {
      key: "currency",
      head: "",
      name: "Currency",
      cell: (r) => <span className="text-xs text-ink-3">{r.currency}</span>,
    },
    { key: "required", head: "Wanted by", align: "right", cell: (r) => w.day(r.required) },
    { key: "writer", head: "Writer", cell: (r) => r.writerName },
    {
      key: "state",
      head: "State",
      cell: (r) =>
        r.sentBack ? <span className="font-semibold text-signal">sent back</span> : <StateSquare state={r.state} />,
    },
  ];
  return (
    <Spread
      sheet={
        <>
          <SheetHead title="Orders being written" sub={count(rows.length, "draft")} />
          <Sheet
            label="Orders being written"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={open}
            empty={
              <Empty title="No order is being written">
                Tick needs and write the orders; they stand here until they are submitted.
              </Empty>
            }
          />
        </>
      }
      slip={here && <OrderSlip row={here} />}
      tally={
        <TallyLine
          keys={[
            ["arrowdown", "move"],
            ["g", "go to a stop"],
          ]}
          act={
            here && (
              <Button look="main" hint="⏎" onClick={() => open(here)}>
                Open {here.name}
              </Button>
            )
          }
        >
          <span>
            <b>{rows.length}</b> {rows.length === 1 ? "draft" : "drafts"}
          </span>
          <span>
            <b className="figure">{w.amount(rows.reduce((a, r) => a + r.homeNet, 0))}</b> before tax
          </span>
        </TallyLine>
      }
    />
  );
}
