import { useMemo, useState } from "react";
import { placingFrom } from "../../../core/placing/choice";
import { type FillUp, type Target, targetSays, targetsOf } from "../../../core/placing/fill-up";
import { count, unitWords } from "../../../core/text";
import type { BenchSheet } from "../../../server/queries/placing/bench";
import { answerOf } from "../../ui/answer-of";
import { Button } from "../../ui/button";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import type { Grid } from "./use-bench";

interface Props {
  sheet: BenchSheet;
  grid: Grid;
  mayWrite: boolean;
  settle: () => Promise<boolean>;
  onBring: (order: string, ids: string[]) => void;
}

const nameOf = (t: Target) => `${t.order}|${t.kind}|${t.kind === "break" ? t.item : ""}`;

/** Orders that just lack their minimum, free freight or a break: what could be brought forward, and whether that pays. */
export function FillUps({ sheet, grid, mayWrite, settle, onBring }: Props) {
  const { problem } = sheet;
  const targets = useMemo(() => targetsOf(problem, placingFrom(problem.rows, grid.choices)), [problem, grid]);
  const [open, setOpen] = useState<{ name: string; fill: FillUp | null | "working" | "lost" } | null>(null);
  if (targets.length === 0 || !mayWrite) return null;
  const look = async (t: Target) => {
    const name = nameOf(t);
    setOpen({ name, fill: "working" });
    try {
      if (!(await settle())) return setOpen(null);
      const part = t.kind === "break" ? `&item=${encodeURIComponent(t.item)}` : "";
      const answer = await fetch(`/bench/${sheet.head.id}/fill-up?order=${t.order}&kind=${t.kind}${part}`);
      if (!answer.ok || answer.redirected) throw new Error("no answer");
      setOpen({ name, fill: (await answerOf<{ fill: FillUp | null }>(answer)).fill });
    } catch {
      setOpen({ name, fill: "lost" });
    }
  };
  return (
    <SlipPart title="Just under">
      <ul className="border border-rule bg-sheet">
        {targets.map((t) => (
          <li key={nameOf(t)} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
            <div className="flex items-baseline justify-between gap-2">
              <span>{targetSays(problem, t)}</span>
              {open?.name === nameOf(t) ? (
                <Button look="plain" className="min-h-0 py-0 text-xs" onClick={() => setOpen(null)}>
                  Close
                </Button>
              ) : (
                <Button look="plain" className="min-h-0 py-0 text-xs" onClick={() => void look(t)}>
                  Fill it up…
                </Button>
              )}
            </div>
            {open?.name === nameOf(t) && (
              <Proposal
                fill={open.fill}
                onBring={(ids) => {
                  setOpen(null);
                  onBring(t.order, ids);
                }}
              />
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

function Proposal({ fill, onBring }: { fill: FillUp | null | "working" | "lost"; onBring: (ids: string[]) => void }) {
  const w = useWriting();
  if (fill === "working") return <p className="mt-1 text-ink-3">looking four weeks ahead…</p>;
  if (fill === "lost") return <p className="mt-1 font-semibold text-signal">No connection. Try again in a moment.</p>;
  if (fill === null) return <p className="mt-1">It lacks nothing any more.</p>;
  if (fill.brought.length === 0)
    return <p className="mt-1 text-ink-2">Nothing that they sell falls due within four weeks.</p>;
  return (
    <div className="mt-1.5 flex flex-col gap-2">
      {!fill.closes && <p className="text-signal">All that falls due within four weeks is not enough for it.</p>}
      <table className="w-full text-xs">
        <caption className="sr-only">What could be brought forward</caption>
        <tbody>
          {fill.brought.map((b) => (
            <tr key={b.id}>
              <td className="py-0.5 pr-2">
                {b.name}
                <span className="text-ink-3"> {b.daysEarly ? `${count(b.daysEarly, "day")} early` : "needed now"}</span>
              </td>
              <td className="figure text-right whitespace-nowrap">
                {w.quantity(b.buy)} <span className="font-sans text-ink-3">{unitWords(b.buy, b.unit)}</span>
              </td>
              <td className="figure pl-2 text-right">{w.money(b.here)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <SumSheet sum={fill.sum} />
      <div>
        <Button onClick={() => onBring(fill.brought.map((b) => b.id))}>
          Bring {fill.brought.length === 1 ? "it" : `these ${fill.brought.length}`} forward
        </Button>
      </div>
    </div>
  );
}
