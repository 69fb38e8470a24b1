import { useEffect, useRef } from "react";
import { Link, redirect, useLoaderData, useNavigate, useSearchParams, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { startRequisition } from "../../../server/acts/requisitions/raise-requisition";
import { readRequisition, readRequisitions } from "../../../server/queries/requisitions/requisition";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { act, atOf, page } from "../../web/page";
import { Trail } from "./trail";

export const loader = page("see requisitions", ({ db, person, url }) => {
  const all = may(person.roles, "see all requisitions");
  const asks = may(person.roles, "ask");
  const mine = asks ? readRequisitions(db, person.id) : [];
  const others = all ? readRequisitions(db, null).filter((r) => r.asker !== person.id) : [];
  const rows = [...mine, ...others];
  const at = atOf(url) ?? rows[0]?.id;
  const seen = rows.some((r) => r.id === at) ? readRequisition(db, at!) : null;
  return { rows, asks, all, slip: seen };
});

export const action = act("ask", (desk) => {
  const started = startRequisition(desk);
  if (started.ok) throw redirect(`/requisitions/${started.value.requisition}`);
  return started;
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

export default function Requisitions() {
  const { rows, asks, all, slip } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const submit = useSubmit();
  const busy = useBusy();
  const [search] = useSearchParams();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null, true);
  const key = useSubmissionKey(rows);
  const start = () => asks && !busy && submit({ key: key() }, { method: "post", action: "/requisitions" });
  const asked = useRef(false);
  useEffect(() => {
    if (search.get("new") === "1" && asks && !asked.current) {
      asked.current = true;
      void submit({ key: key() }, { method: "post", action: "/requisitions", replace: true });
    }
  }, [search, asks, submit, key]);
  useKeys(asks ? [{ key: "n", label: "new requisition", run: start }] : []);
  const open = (r: Row) => navigate(`/requisitions/${r.id}`);
  const columns: SheetColumn<Row>[] = [
    { key: "number", head: "Number", width: "110px", cell: (r) => <span className="figure">{r.name}</span> },
    {
      key: "reason",
      keep: 4,
      gives: true,
      head: "What for",
      cell: (r) => <Named name={r.reason || "not said yet"} code={`${count(r.lines, "line")} to ${r.storeName}`} />,
    },
    ...(all ? [{ key: "asker", head: "Asked by", cell: (r: Row) => r.askerName }] : []),
    { key: "by", keep: 2, head: "Needed by", align: "right", cell: (r) => (r.neededBy ? w.day(r.neededBy) : "–") },
    {
      key: "ordered",
      head: "Ordered",
      align: "right",
      cell: (r) => <span className="figure">{`${r.ordered} of ${r.lines}`}</span>,
    },
    { key: "state", keep: 3, head: "State", width: "140px", cell: (r) => <StateSquare state={r.state} /> },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title={all ? "Requisitions" : "What I asked for"} sub={count(rows.length, "requisition")}>
            <Link className="underline" to="/requisitions/open-lines">
              What is open, line by line
            </Link>
          </SheetHead>
          <Sheet
            label="Requisitions"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={open}
            empty={
              <Empty title="Nothing asked for yet">
                {asks
                  ? "Start a requisition: say what you need, by when and what for. You are told when it is ordered and when it comes."
                  : "Nobody has handed in a requisition yet."}
              </Empty>
            }
          />
        </>
      }
      slip={
        slip ? (
          <>
            <SlipHead over={slip.head.name} title={slip.head.reason || "Not handed in yet"}>
              <p className="mt-1 text-ink-2">
                {slip.head.askerName}, for {slip.head.storeName}
                {slip.head.neededBy && `, needed by ${w.day(slip.head.neededBy)}`}
              </p>
            </SlipHead>
            <ul className="border border-rule bg-sheet">
              {slip.lines.map((l) => (
                <li key={l.id} className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 last:border-0">
                  <span className="truncate">{l.itemName ?? l.words}</span>
                  <span className="figure whitespace-nowrap">
                    {l.quantity === null ? "–" : `${w.quantity(l.quantity)} ${l.unit}`}
                  </span>
                </li>
              ))}
            </ul>
            <Trail trail={slip.trail} />
          </>
        ) : (
          <SlipHead title="No requisition chosen" />
        )
      }
      tally={
        <TallyLine
          keys={[
            ["enter", "open"],
            ["arrowdown", "move"],
          ]}
          act={
            asks && (
              <Button look="main" hint="N" disabled={busy} onClick={start}>
                New requisition
              </Button>
            )
          }
        >
          <span>
            <b>{rows.filter((r) => r.state === "Open" || r.state === "Part ordered").length}</b> wait to be ordered
          </span>
          <span>
            <b>{rows.filter((r) => r.state === "Ordered").length}</b> ordered, not here yet
          </span>
        </TallyLine>
      }
    />
  );
}
