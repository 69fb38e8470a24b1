import { Link, useLoaderData, useNavigate } from "react-router";
import { STOCK_PAPER_WORDS } from "../../../core/stock/paper";
import { count } from "../../../core/text";
import { readStockPapers } from "../../../server/queries/stock/stock-papers";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see shelves", ({ db, person }) => ({ rows: readStockPapers(db, person.store) }));

type Row = ReturnType<typeof readStockPapers>[number];
const keyOf = (r: Row) => String(r.id);

/** What was moved, issued, given back, written off and counted in the stores, the last first. */
export default function StockPapers() {
  const { rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const columns: SheetColumn<Row>[] = [
    {
      key: "paper",
      head: "Paper",
      cell: (r) => (
        <Link className="underline" to={`/stock-papers/${r.id}`}>
          {r.number}
        </Link>
      ),
    },
    {
      key: "kind",
      head: "What",
      keep: 3,
      cell: (r) => <Named name={STOCK_PAPER_WORDS[r.kind]} code={r.jobName ?? ""} />,
    },
    { key: "reason", head: "Why", keep: 1, cut: true, cell: (r) => r.reason },
    { key: "store", head: "Store", keep: 0, cell: (r) => r.storeName },
    { key: "by", head: "By", keep: -1, cell: (r) => r.person },
    { key: "at", head: "When", keep: 2, align: "right", cell: (r) => w.moment(r.at) },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Papers of the stock" sub="stowed, moved, issued, given back, written off, counted" />
          <Sheet
            label="Papers of the stock"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/stock-papers/${r.id}`)}
            empty={<Empty title="No papers yet">Each move, issue, write-off and count of the stores has one.</Empty>}
          />
        </>
      }
      tally={
        <TallyLine keys={[["Enter", "open"]]} act={<ButtonLink to="/shelves">Shelves</ButtonLink>}>
          <b>{count(rows.length, "paper")}</b>
        </TallyLine>
      }
    />
  );
}
