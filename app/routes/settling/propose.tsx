import { useMemo, useState } from "react";
import { Link, useActionData, useLoaderData, useSearchParams, useSubmit } from "react-router";
import { addDays, laterOf, parseDay } from "../../../core/calendar/day";
import { parseDecimal } from "../../../core/numbers/decimal";
import { type ProposedPart, propose } from "../../../core/settling/pay-list";
import { count } from "../../../core/text";
import { readHeldTotals, readOwed, readPayFrom } from "../../../server/queries/settling/pay-lists";
import type { PayableRow } from "../../../server/queries/settling/payables";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { actions, page } from "../../web/page";
import { NotProposed, Transfers } from "./propose-slip";
import { type ProposalWord, proposalActs } from "./settle-acts";

/** A discount is worth taking from so much a year on, where nothing else is said. */
const LEAST_YEARLY = "10";

export const loader = page("pay", ({ db, url, day }) => {
  const asked = (name: string) => parseDay(url.searchParams.get(name) ?? "");
  const on = asked("day") ?? day;
  const typed = url.searchParams.get("yearly") ?? LEAST_YEARLY;
  const yearly = parseDecimal(typed, 2);
  const how = {
    day: laterOf(on, day),
    dueBy: asked("dueBy") ?? addDays(on, 7),
    leastYearly: yearly.ok && yearly.value >= 0 ? yearly.value : 1_000,
  };
  return { how, typed, ...readOwed(db, day), held: readHeldTotals(db), from: readPayFrom(db) };
});

export const action = actions("pay", proposalActs);

type Row = PayableRow & { part: ProposedPart };
const keyOf = (r: Row) => String(r.id);
const WHY: Record<ProposedPart["why"], string> = {
  due: "due",
  early: "worth paying early",
  credit: "credit, set off",
};

/** What is proposed, and why. */
const columnsIn = (w: ReturnType<typeof useWriting>): SheetColumn<Row>[] => [
  { key: "of", head: "Pay", gives: true, cell: (r) => <Named name={r.supplierName} code={r.number} /> },
  { key: "why", head: "Because", keep: 1, cell: (r) => WHY[r.part.why] },
  { key: "due", head: "Paid by", keep: 2, align: "right", cell: (r) => w.day(r.due, false) },
  {
    key: "less",
    head: "Less, paid early",
    keep: 1,
    align: "right",
    cell: (r) => <span className="figure">{r.part.discount ? w.amount(r.part.discount, r.currency) : ""}</span>,
  },
  {
    key: "pay",
    head: "Transfer",
    keep: 3,
    align: "right",
    cell: (r) => <span className="figure">{w.amount(r.part.minor, r.currency)}</span>,
  },
];

/** What to pay: due by a day, worth paying early, with credits set off; what is ticked becomes a pay list. */
export default function Propose() {
  const { how, typed, owed, papers, held, from } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const [params, setParams] = useSearchParams();
  const [off, setOff] = useState<ReadonlySet<number>>(new Set());
  const all = useMemo(() => propose(owed, how), [owed, how]);
  // What is left of the proposal once some of it is not paid: credits may be more than the rest then.
  const ticked = useMemo(() => {
    const ids = new Set(all.lines.flatMap((l) => l.parts.map((p) => p.id)).filter((id) => !off.has(id)));
    return propose(
      owed.filter((o) => ids.has(o.id)),
      how,
    );
  }, [all, off, owed, how]);
  const paying = new Set(ticked.lines.flatMap((l) => l.parts.map((p) => p.id)));
  const rows: Row[] = all.lines.flatMap((l) =>
    l.parts.map((part) => ({ ...papers.find((p) => p.id === part.id)!, part })),
  );
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const set = (name: string, value: string) =>
    setParams((before) => {
      before.set(name, value);
      return before;
    });
  const problem = answer && !answer.ok ? answer.problems[0]?.says : null;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="What to pay" sub="due by then, and what is worth paying early">
            <Link className="text-xs underline" to="/pay-lists">
              Pay lists
            </Link>
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5" key={params.toString()}>
            <Field label="The bank pays on" className="w-36">
              {(a) => <DayEntry {...a} value={how.day} min={w.today} onDay={(d) => parseDay(d) && set("day", d)} />}
            </Field>
            <Field label="Due by" className="w-36">
              {(a) => <DayEntry {...a} value={how.dueBy} onDay={(d) => parseDay(d) && set("dueBy", d)} />}
            </Field>
            <Field label="Early, from % a year" className="w-36">
              {(a) => (
                <input
                  {...a}
                  className="entry"
                  inputMode="decimal"
                  maxLength={7}
                  defaultValue={typed}
                  onBlur={(e) => e.target.value !== typed && set("yearly", e.target.value)}
                  onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
                />
              )}
            </Field>
          </div>
          <Sheet
            label="What to pay"
            columns={columnsIn(w)}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            ticks={{
              ticked: new Set(rows.filter((r) => !off.has(r.id)).map(keyOf)),
              can: () => true,
              toggle: (r) => setOff(new Set(off.has(r.id) ? [...off].filter((id) => id !== r.id) : [...off, r.id])),
              label: (r) => `Pay ${r.number} of ${r.supplierName}`,
            }}
            empty={<Empty title="Nothing is to be paid">Nothing is due by then, and no discount is worth it.</Empty>}
          />
        </>
      }
      slip={
        <>
          <Transfers lines={ticked.lines} papers={papers} />
          <NotProposed left={all.left} papers={papers} held={held} />
        </>
      }
      tally={
        <TallyLine
          trouble={
            problem ?? (from.iban ? null : "No account of ours is on record: an administrator enters it under Company.")
          }
          act={
            <Button
              look="main"
              disabled={busy || paying.size === 0 || !from.iban}
              onClick={() =>
                void submit(
                  {
                    do: "write" satisfies ProposalWord,
                    key: key(),
                    day: how.day,
                    dueBy: how.dueBy,
                    leastYearly: typed,
                    papers: JSON.stringify([...paying]),
                  },
                  { method: "post" },
                )
              }
            >
              Write the pay list
            </Button>
          }
        >
          <span>
            <b>{count(paying.size, "paper")}</b> in {count(ticked.lines.length, "transfer")}
          </span>
        </TallyLine>
      }
    />
  );
}
