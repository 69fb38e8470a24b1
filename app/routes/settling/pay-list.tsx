import { Link, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { ibanText } from "../../../core/settling/bank-account";
import { mayRelease } from "../../../core/settling/pay-list";
import { count } from "../../../core/text";
import { type PayLine, readPayFrom, readPayList } from "../../../server/queries/settling/pay-lists";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, idOf, notFound, page } from "../../web/page";
import { PayListSlip, PayListStep } from "./pay-list-slip";
import { payListActs } from "./settle-acts";

export const loader = page("see payables", ({ db, params, person }) => {
  const list = readPayList(db, idOf(params.id));
  if (!list) throw notFound("There is no such pay list.");
  const { releaseFrom } = readPayFrom(db);
  return {
    ...list,
    releaseFrom,
    pays: may(person.roles, "pay"),
    releases:
      may(person.roles, "release payments") && mayRelease(list.head.home, releaseFrom, list.head.writer, person.id),
  };
});

/** Each act asks for its own right: a lead releases and does not pay. */
export const action = actions("see payables", payListActs);

const keyOf = (r: PayLine) => String(r.id);

/** A pay list: its transfers with the papers they pay, and how far it is on its way. */
export default function PayList() {
  const page = useLoaderData<typeof loader>();
  const { head, lines } = page;
  const w = useWriting();
  const [at, setAt] = useAt(lines[0] ? keyOf(lines[0]) : null);
  const line = lines.find((l) => keyOf(l) === at);
  const columns: SheetColumn<PayLine>[] = [
    { key: "to", head: "To", gives: true, cell: (r) => <Named name={r.name} code={ibanText(r.iban)} /> },
    {
      key: "for",
      head: "For",
      keep: 1,
      cell: (r) => <span className="code">{r.parts.map((p) => p.number).join(", ")}</span>,
    },
    { key: "state", head: "Stands", keep: 2, cell: (r) => <StateSquare state={r.state} /> },
    {
      key: "total",
      head: "Transfer",
      keep: 3,
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.total, r.currency)}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title={`Pay list ${head.number}`} sub={`for ${w.day(head.day)}, from ${ibanText(head.iban)}`}>
            <StateSquare state={head.state} />
            <Link className="text-xs underline" to="/pay-lists">
              Pay lists
            </Link>
          </SheetHead>
          <Sheet label="Transfers" columns={columns} rows={lines} keyOf={keyOf} at={at} onAt={setAt} empty={null} />
        </>
      }
      slip={<PayListSlip page={page} line={line} />}
      tally={
        <TallyLine act={<PayListStep page={page} />}>
          <span>
            <b>{count(head.transfers, "transfer")}</b>
          </span>
          <span>
            come to <b className="figure">{w.amount(head.home)}</b>
          </span>
          <span>written by {head.writerName}</span>
          {head.releasedBy && <span>released by {head.releasedBy}</span>}
        </TallyLine>
      }
    />
  );
}
