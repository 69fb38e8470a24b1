import { Link, useLoaderData } from "react-router";
import { RECORD_FIGURES, type RecordFigure } from "../../../core/insight/record";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { tryPlanWith } from "../../../server/acts/insight/plan-with";
import { readSupplierRecord, recordAsked } from "../../../server/queries/insight/record";
import { usualPlan } from "../../../server/queries/needs/needs";
import { supplierName } from "../../../server/queries/settling/invoices";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, idOf, notFound, page } from "../../web/page";
import { PeriodFields } from "./asked-parts";
import { recordActs } from "./record-acts";
import { RecordDots } from "./record-dots";
import { PlanWithPart, RecordSlip } from "./record-slip";
import { type FigureWords, figureWords, movedBy } from "./record-words";

export const loader = page("see insight", ({ db, params, url, day, hour, person }) => {
  const id = idOf(params.id);
  const name = supplierName(db, id);
  if (name === null) throw notFound("There is no such supplier.");
  const asked = recordAsked(url.searchParams, day);
  const record = readSupplierRecord(db, id, asked);
  const measured = record.now.days && Math.round(record.now.days.mean);
  const differs = measured !== null && record.planned.some((p) => p.days !== measured);
  return {
    id,
    name,
    asked,
    record,
    tries: differs && may(person.roles, "keep sourcing") ? tryPlanWith(db, id, measured, usualPlan(day, hour)) : null,
  };
});
export const action = actions("keep sourcing", recordActs);

interface FigureRow {
  figure: RecordFigure;
  now: FigureWords;
  before: FigureWords;
}

/** How a supplier did: their loads as dots, and each figure with what it comes from. */
export default function RecordPage() {
  const { id, name, asked, record, tries } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt("promised");
  const rows = RECORD_FIGURES.map(
    (figure): FigureRow => ({
      figure,
      now: figureWords(figure, record.now, w.locale),
      before: figureWords(figure, record.before, w.locale),
    }),
  );
  const here = rows.find((r) => r.figure === at) ?? rows[0]!;
  const columns: SheetColumn<FigureRow>[] = [
    { key: "of", head: "Figure", gives: true, cell: (r) => r.now.name },
    {
      key: "now",
      head: "These days",
      keep: 3,
      align: "right",
      cell: (r) => <b className="figure">{r.now.text ?? "–"}</b>,
    },
    {
      key: "before",
      head: "Before",
      keep: 2,
      align: "right",
      cell: (r) => <span className="figure text-ink-2">{r.before.text ?? "–"}</span>,
    },
    {
      key: "moved",
      head: "Moved by",
      keep: 2,
      align: "right",
      cell: (r) => {
        const by = movedBy(r.figure, r.now, r.before, w.locale);
        return by && <span className={`figure ${by.worse ? "text-signal" : ""}`}>{by.text}</span>;
      },
    },
    { key: "from", head: "From", keep: 1, cell: (r) => <span className="text-ink-2">{r.now.from}</span> },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title={name}
            sub={
              <>
                <Link className="underline" to={`/suppliers/${id}`}>
                  their record
                </Link>
                , against as many days before
              </>
            }
          >
            <PeriodFields period={asked.period} />
            <ButtonLink to={`/suppliers/${id}/record.pdf?from=${asked.period.from}&to=${asked.period.until}`} reload>
              For a talk, PDF
            </ButtonLink>
          </SheetHead>
          {record.loads.length === 0 ? (
            <Empty title="Nothing came in these days">Choose other days, or wait for what is ordered.</Empty>
          ) : (
            <RecordDots loads={record.loads} from={asked.period.from} until={asked.period.until} />
          )}
          <Sheet
            label="Figures"
            columns={columns}
            rows={rows}
            keyOf={(r) => r.figure}
            at={here.figure}
            onAt={setAt}
            empty={null}
          />
        </>
      }
      slip={
        <>
          <RecordSlip record={record} figure={here.figure} from={here.now.from} />
          {tries && here.figure === "days" && <PlanWithPart supplier={id} planned={record.planned} tries={tries} />}
        </>
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(record.now.loads, "load")}</b>
          </span>
          <span>
            received <b className="figure">{w.amount(record.now.received)}</b>
          </span>
          <span>
            <Link className="underline" to="/claims">
              {count(record.claims.count, "claim")} open
            </Link>
            {record.claims.count > 0 && (
              <>
                {" "}
                over <b className="figure">{w.amount(record.claims.home)}</b>
              </>
            )}
          </span>
        </TallyLine>
      }
    />
  );
}
