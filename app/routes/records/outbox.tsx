import { Link, useLoaderData } from "react-router";
import { count } from "../../../core/text";
import { readText } from "../../../exchange/mail/read-text";
import { readMessage, readOutbox } from "../../../server/queries/records/outbox";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see outbox", ({ db, url }) => {
  const rows = readOutbox(db);
  const at = rows.find((r) => String(r.id) === url.searchParams.get("at")) ?? rows[0];
  const eml = at && readMessage(db, at.id);
  return { rows, body: eml ? readText(eml.eml) : "" };
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** What left the house by e-mail, to be read again as it was sent. */
export default function Outbox() {
  const { rows, body } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null, true);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "at", head: "Sent", width: "120px", cell: (r) => <span className="figure">{w.moment(r.at)}</span> },
    {
      key: "subject",
      keep: 2,
      gives: true,
      head: "Message",
      cell: (r) => <Named name={r.subject} code={r.recipients} />,
    },
    { key: "person", head: "From", cell: (r) => r.person },
    {
      key: "file",
      head: "Outbox",
      cell: (r) => (r.file ? "written" : <span className="font-semibold text-signal">waits to be written</span>),
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Outbox"
            sub={`${count(rows.length, "message")}; each is an .eml file in the outbox folder`}
          />
          <Sheet
            label="Messages"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={<Empty title="Nothing has been sent">When an order is placed, its e-mail stands here.</Empty>}
          />
        </>
      }
      slip={
        here ? (
          <>
            <SlipHead over={`to ${here.recipients}`} title={here.subject} />
            <p className="border border-rule bg-sheet px-3 py-2.5 leading-relaxed whitespace-pre-line">{body}</p>
            <div className="flex items-center gap-3">
              <ButtonLink to={`/outbox/${here.id}/mail.eml`} reload>
                Save the message
              </ButtonLink>
              {here.order && (
                <Link to={`/orders/${here.order}/paper.pdf`} reloadDocument className="underline">
                  its PDF
                </Link>
              )}
              {here.order && (
                <Link to={`/orders/${here.order}`} className="underline">
                  the order
                </Link>
              )}
            </div>
          </>
        ) : (
          <Empty title="No message chosen" />
        )
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>
            <b>{rows.length}</b> messages
          </span>
        </TallyLine>
      }
    />
  );
}
