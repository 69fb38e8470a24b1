import { Link } from "react-router";
import type { RecordFigure } from "../../../core/insight/record";
import { count } from "../../../core/text";
import type { PlannedOtherwise } from "../../../server/acts/insight/plan-with";
import type { SupplierRecordPage } from "../../../server/queries/insight/record";
import { SlipForm } from "../../parts/slip-form";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { RecordWord } from "./record-acts";
import { FIGURE_NAMES } from "./record-words";

/** The rows behind a figure, what counts against them first. */
export function RecordSlip({
  record,
  figure,
  from,
}: {
  record: SupplierRecordPage;
  figure: RecordFigure;
  from: string;
}) {
  const w = useWriting();
  const rows = record.rows[figure];
  return (
    <>
      <SlipHead over={from} title={FIGURE_NAMES[figure]} />
      {rows.length === 0 ? (
        <p className="text-ink-2">Nothing of this in these days.</p>
      ) : (
        <table className="w-full text-xs">
          <caption className="sr-only">Behind it</caption>
          <tbody>
            {rows.map((r, i) => (
              <tr key={i} className="border-b border-rule-2">
                <th scope="row" className="py-1 text-left font-normal">
                  <Link className="hover:underline" to={r.href}>
                    {r.words}
                  </Link>
                  {r.day && <span className="block text-2xs text-ink-3">{w.day(r.day, false)}</span>}
                </th>
                <td className={`pl-2 text-right ${r.against ? "text-signal" : "text-ink-2"}`}>
                  {r.minor !== null && (
                    <span className="figure block">
                      {r.minor > 0 && "+"}
                      {w.money(r.minor)}
                    </span>
                  )}
                  {r.minor === null && r.says}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

/** Planning with the days that were measured, and what that would change. */
export function PlanWithPart({
  supplier,
  planned,
  tries,
}: {
  supplier: number;
  planned: SupplierRecordPage["planned"];
  tries: PlannedOtherwise;
}) {
  const usual = planned[0];
  const lines: [string, string][] = [
    ["items planned with other days now", String(tries.items)],
    ["needs that would appear", String(tries.appear)],
    ["needs to be ordered on another day", String(tries.moved)],
    ["needs that would go", String(tries.go)],
  ];
  return (
    <SlipPart title={`Plan with ${count(tries.days, "day")}${usual ? ` instead of ${usual.days}` : ""}`}>
      <dl className="border border-rule bg-sheet px-2.5 py-1.5 text-xs">
        {lines.map(([label, value]) => (
          <div key={label} className="flex justify-between gap-3 py-0.5">
            <dt>{label}</dt>
            <dd className="figure font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      <SlipForm<RecordWord>
        does="plan"
        fields={{ supplier, days: tries.days }}
        label={`Plan all of their items with ${count(tries.days, "day")}`}
        send="Plan with it"
      >
        <p className="text-xs text-ink-2">
          {count(tries.items, "item")} of theirs get these days from order to arrival. What is ordered stays as it is.
        </p>
      </SlipForm>
    </SlipPart>
  );
}
