import { Link, useLoaderData, useNavigate } from "react-router";
import { may } from "../../../core/people/roles";
import { isOnItsWay } from "../../../core/settling/pay-list";
import { count } from "../../../core/text";
import { type PayListHead, readPayLists } from "../../../server/queries/settling/pay-lists";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see payables", ({ db, person }) => ({
  rows: readPayLists(db),
  pays: may(person.roles, "pay"),
}));

const keyOf = (r: PayListHead) => String(r.id);

/** Pay lists: what is on its way to the bank first. */
export default function PayLists() {
  const { rows, pays } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const columns: SheetColumn<PayListHead>[] = [
    {
      key: "of",
      head: "Pay list",
      gives: true,
      cell: (r) => (
        <Link className="hover:underline" to={`/pay-lists/${r.id}`}>
          <Named name={r.number} code={`by ${r.writerName}`} />
        </Link>
      ),
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={r.state} /> },
    { key: "released", head: "Released by", keep: 0, cell: (r) => r.releasedBy ?? "" },
    {
      key: "transfers",
      head: "Transfers",
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{r.transfers || ""}</span>,
    },
    { key: "day", head: "Paid on", keep: 2, align: "right", cell: (r) => w.day(r.day, false) },
    {
      key: "home",
      head: `Comes to, ${w.home}`,
      keep: 3,
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.home)}</span>,
    },
  ];
  const open = rows.filter((r) => isOnItsWay(r.state));
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Pay lists" sub="what the bank pays together">
            <Link className="text-xs underline" to="/payables">
              Payables
            </Link>
          </SheetHead>
          <Sheet
            label="Pay lists"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/pay-lists/${r.id}`)}
            empty={
              <Empty title="No pay list was written yet">
                What is due, and what is worth paying early, is proposed; what you tick becomes a list that the bank
                pays.
              </Empty>
            }
          />
        </>
      }
      tally={
        <TallyLine
          act={
            pays && (
              <ButtonLink look="main" to="/pay-lists/new">
                Propose what to pay
              </ButtonLink>
            )
          }
        >
          <span>
            <b>{count(open.length, "list")}</b> on the way
          </span>
        </TallyLine>
      }
    />
  );
}
