import { Link, useLoaderData, useNavigate } from "react-router";
import { lastPeriodEnd } from "../../../core/consigned/statement";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readAgreementHead, readAgreements } from "../../../server/queries/consigned/agreement";
import { readStatements, type StatementHead, unsettledUses } from "../../../server/queries/consigned/statements";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, atOf, page } from "../../web/page";
import { type MakeWord, makeActs } from "./statement-acts";

export const loader = page("see agreements", ({ db, person, url, day }) => {
  const agreement = atOf(url, "agreement");
  const settles = may(person.roles, "settle statements");
  const open = readAgreements(db)
    .filter((a) => a.revision > 0 && (agreement === null || a.id === agreement))
    .flatMap((a) => {
      const uses = unsettledUses(db, a.id, day);
      return uses.length
        ? [
            {
              id: a.id,
              name: a.name,
              supplierName: a.supplierName,
              storeName: a.storeName,
              currency: a.currency,
              until: lastPeriodEnd(a.settles, day),
              uses: uses.length,
              net: uses.reduce((sum, u) => sum + u.net, 0),
            },
          ]
        : [];
    });
  return {
    rows: readStatements(db, agreement),
    of: agreement === null ? null : (readAgreementHead(db, agreement)?.supplierName ?? null),
    open,
    settles,
  };
});

export const action = actions("settle statements", makeActs);

const keyOf = (r: StatementHead) => String(r.id);

/** Use statements: those that wait, and what became of the others; and what is on none yet. */
export default function Statements() {
  const { rows, of, open, settles } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const waits = rows.filter((r) => r.state === "Made" || r.state === "Questioned").length;
  const columns: SheetColumn<StatementHead>[] = [
    {
      key: "of",
      head: "Use statement",
      gives: true,
      cell: (r) => (
        <Link className="hover:underline" to={`/statements/${r.id}`}>
          <Named name={r.supplierName} code={`${r.number} · ${r.agreementName}`} />
        </Link>
      ),
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={r.state} /> },
    {
      key: "period",
      head: "Period",
      keep: 1,
      cell: (r) => `${w.day(r.since, false)} to ${w.day(r.until, false)}`,
    },
    { key: "uses", head: "Uses", keep: 0, align: "right", cell: (r) => <span className="figure">{r.uses}</span> },
    {
      key: "total",
      head: "With tax",
      keep: 2,
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.total, r.currency)}</span>,
    },
    { key: "due", head: "Paid by", keep: 1, align: "right", cell: (r) => (r.due ? w.day(r.due) : "") },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Use statements" sub={of ? `of ${of}` : "of suppliers’ goods that were used"} />
          <Sheet
            label="Use statements"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/statements/${r.id}`)}
            empty={
              <Empty title="No statement was made yet">
                At the end of its period each agreement’s uses come onto one: you look at it, send it, and the supplier
                agrees.
              </Empty>
            }
          />
        </>
      }
      slip={
        <SlipPart title="On no statement yet">
          {open.length === 0 ? (
            <p className="text-ink-2">Everything that was used is on one.</p>
          ) : (
            <ul className="flex flex-col gap-3">
              {open.map((o) => (
                <li key={o.id} className="border border-rule bg-sheet p-2.5">
                  <p className="flex justify-between gap-3">
                    <b>{o.supplierName}</b>
                    <span className="figure">{w.amount(o.net, o.currency)}</span>
                  </p>
                  <p className="mb-1.5 text-xs text-ink-2">
                    {o.storeName}, {count(o.uses, "use")} without tax
                  </p>
                  {settles && (
                    <RecordForm<MakeWord>
                      does="make"
                      fields={{ agreement: o.id }}
                      send="Make a statement"
                      saved="Made."
                    >
                      {(says) => (
                        <Field label="Up to" problem={says("until")}>
                          {(a) => <DayEntry {...a} name="until" defaultValue={o.until} max={w.today} />}
                        </Field>
                      )}
                    </RecordForm>
                  )}
                </li>
              ))}
            </ul>
          )}
        </SlipPart>
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(waits, "statement")}</b> to look at
          </span>
          <span>{rows.filter((r) => r.state === "Sent").length} with suppliers</span>
        </TallyLine>
      }
    />
  );
}
