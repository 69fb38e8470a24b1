import { useLoaderData, useNavigate } from "react-router";
import { readTransfers, type TransferRow } from "../../../server/queries/stock/transfers";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see transfers", ({ db }) => ({ rows: readTransfers(db) }));
export const shouldRevalidate = unlessOnlyLooking;

type Row = TransferRow;
const keyOf = (r: Row) => String(r.id);

/** Goods on their way from one of our stores to another. */
export default function Transfers() {
  const { rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const columns: SheetColumn<Row>[] = [
    { key: "number", head: "Number", width: "110px", cell: (r) => <span className="figure">{r.number}</span> },
    { key: "what", keep: 3, head: "What", cell: (r) => <Named name={r.what} code={`planned by ${r.planner}`} /> },
    { key: "from", head: "From", cell: (r) => r.fromName },
    { key: "to", head: "To", cell: (r) => r.toName },
    {
      key: "day",
      keep: 1,
      head: "Day",
      align: "right",
      cell: (r) => (
        <span className={r.state === "Planned" && r.day < w.today ? "font-semibold text-signal" : ""}>
          {w.day(r.day)}
        </span>
      ),
    },
    { key: "state", keep: 2, head: "State", width: "120px", cell: (r) => <StateSquare state={r.state} /> },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Transfers" sub="from one of our stores to another" />
          <Sheet
            label="Transfers"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/transfers/${r.id}`)}
            empty={
              <Empty title="No transfers yet">
                Where another store has something free, the slip of a need offers to bring it over instead of buying it.
              </Empty>
            }
          />
        </>
      }
      tally={
        <TallyLine keys={[["enter", "open"]]}>
          <span>
            <b>{rows.filter((r) => r.state === "Planned").length}</b> to be moved
          </span>
        </TallyLine>
      }
    />
  );
}
