import { Link } from "react-router";
import type { Difference } from "../../../core/signoff/difference";
import { count } from "../../../core/text";
import type { Decision, DecisionLine } from "../../../server/queries/signoff/decision";
import { Budgets } from "../../parts/budgets";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { Questions } from "./questions";

/** What is bought, against what was paid; when it must leave; the budgets; and what else passes a limit with it. */
export function DecisionSlip({ decision: d }: { decision: Decision }) {
  const w = useWriting();
  return (
    <>
      {(d.sendBy || d.before || d.together) && (
        <ul className="border-l-4 border-lamp bg-sheet px-3 py-2">
          {d.late > 0 ? (
            <li className="font-semibold text-signal">
              {count(d.late, "line comes", "lines come")} late already, and each day makes it later
            </li>
          ) : (
            d.sendBy && (
              <li>
                If it waits beyond <b>{w.day(d.sendBy)}</b>, it comes late
              </li>
            )
          )}
          {d.before && (
            <li>
              {w.amount(d.before.minor)} when {d.before.person}{" "}
              {d.before.what === "signed" ? "signed it" : "sent it back"}, {w.moment(d.before.at)}
            </li>
          )}
          {d.together && (
            <li className="font-semibold text-signal">
              With {count(d.together.others.length, "other order")} of the last 7 days it comes to{" "}
              {w.amount(d.together.minor)}, above {w.amount(d.together.limit)}
            </li>
          )}
        </ul>
      )}
      {d.before && d.before.changed.length > 0 && (
        <SlipPart title={`Changed since ${d.before.person} ${d.before.what === "signed" ? "signed" : "sent it back"}`}>
          <Changes changed={d.before.changed} currency={d.currency} />
        </SlipPart>
      )}
      <Questions questions={d.questions} answers={null} />
      <SlipPart title={d.more ? `The ${d.lines.length} dearest of ${d.lines.length + d.more} lines` : "What is bought"}>
        <ul className="border border-rule bg-sheet">
          {d.lines.map((l, i) => (
            <li key={i} className="border-b border-rule-2 px-2.5 py-1.5 leading-tight last:border-0">
              <div className="flex justify-between gap-3">
                <span>{l.words}</span>
                <span className="figure whitespace-nowrap">{w.money(l.minor)}</span>
              </div>
              <p className="text-xs text-ink-2">{about(l, w)}</p>
              <Prices line={l} />
            </li>
          ))}
        </ul>
      </SlipPart>
      {d.together && (
        <SlipPart title="Ordered there within 7 days">
          <ul className="border border-rule bg-sheet">
            {d.together.others.map((o) => (
              <li key={o.id} className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 last:border-0">
                <Link to={`/orders/${o.id}`} className="underline">
                  {o.number}
                </Link>
                <span className="text-xs text-ink-2">{o.state}</span>
                <span className="figure ml-auto">{w.money(o.minor)}</span>
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      <Budgets budgets={d.budgets} opens={false} />
      {d.why && <SumSheet sum={d.why} />}
    </>
  );
}

const about = (l: DecisionLine, w: ReturnType<typeof useWriting>) =>
  [
    l.quantity === null ? "" : `${w.quantity(l.quantity)} ${l.unit}`,
    l.forWhom.length ? `for ${l.forWhom.join(", ")}` : "",
    l.required ? `by ${w.day(l.required)}` : "",
  ]
    .filter(Boolean)
    .join(" · ");

/** How the price stands to the last one paid and, where it was typed, to the list. */
function Prices({ line: l }: { line: DecisionLine }) {
  const w = useWriting();
  const words = (points: number) =>
    points === 0 ? "the same as" : `${w.percent(Math.abs(points))} ${points > 0 ? "above" : "below"}`;
  const signal = (points: number) => (points > 0 ? "font-semibold text-signal" : "text-ink-2");
  return (
    <>
      {l.last && (
        <p className={`text-xs ${signal(l.last.dearer)}`}>
          {words(l.last.dearer)} the last, {l.last.supplier} {w.day(l.last.day, false)}
        </p>
      )}
      {l.list && <p className={`text-xs ${signal(l.list.dearer)}`}>typed, {words(l.list.dearer)} their list</p>}
    </>
  );
}

/** Lines as they were, struck, and as they are. */
function Changes({ changed, currency }: { changed: readonly Difference[]; currency: string }) {
  const w = useWriting();
  const of = (l: { quantity: string; minor: number }) => `${l.quantity}, ${w.amount(l.minor, currency)}`;
  return (
    <ul className="border border-rule bg-sheet">
      {changed.map((c, i) => (
        <li key={i} className="border-b border-rule-2 px-2.5 py-1 leading-tight last:border-0">
          {c.words}
          <span className="block text-xs">
            {c.was && <s className="text-ink-3">{of(c.was)}</s>} {c.now ? <b>{of(c.now)}</b> : <b>taken off</b>}
            {!c.was && " new"}
          </span>
        </li>
      ))}
    </ul>
  );
}
