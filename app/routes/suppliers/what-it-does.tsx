import { useState } from "react";
import { Link } from "react-router";
import type { Effect, Lows, Wait } from "../../../core/suppliers/effects";
import { unitWords } from "../../../core/text";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";

type Writing = ReturnType<typeof useWriting>;
const days = (n: number) => (n === 1 ? "1 day" : `${n} days`);

function waitWords({ quantity, until, days: n }: Wait, unit: string, w: Writing): string {
  if (quantity === 0) return "not at all";
  const so = `for ${w.quantity(quantity)} ${unitWords(quantity, unit)}`;
  return until === null ? `${so}, of which some comes from nowhere` : `${so} until ${w.day(until)}, ${days(n ?? 0)}`;
}

function lowWords(l: Lows, unit: string, w: Writing): string {
  if (l.belowZero) return `short from ${w.day(l.belowZero)}`;
  if (l.belowPoint) return `below reorder point from ${w.day(l.belowPoint)}`;
  return `${w.quantity(l.lowest)} ${unitWords(l.lowest, unit)} or more`;
}

/** An effect in words: of what, before and after. */
export function effectWords(e: Effect, w: Writing): { what: string; before: string; after: string } {
  if (e.kind === "waits")
    return {
      what: `${e.claim.label} waits`,
      before: waitWords(e.before, e.claim.unit, w),
      after: waitWords(e.after, e.claim.unit, w),
    };
  if (e.kind === "stock")
    return {
      what: `${e.pair.item}, ${e.pair.store}`,
      before: lowWords(e.before, e.pair.unit, w),
      after: lowWords(e.after, e.pair.unit, w),
    };
  const text = (f: typeof e.before) => Object.values(w.figure(f)).filter(Boolean).join(" ");
  return { what: e.what, before: text(e.before), after: text(e.after) };
}

/** Everything that taking an answer does, before and after; each opens its two sums. */
export function WhatItDoes({ effects, when = "Taken" }: { effects: readonly Effect[]; when?: string }) {
  const w = useWriting();
  const [open, setOpen] = useState<number | null>(null);
  if (effects.length === 0)
    return (
      <p className="text-ink-2">
        Nobody waits longer for it, stock falls no lower and no sooner, and nothing costs more or less.
      </p>
    );
  return (
    <table className="w-full border border-rule bg-sheet text-xs">
      <thead>
        <tr className="border-b border-rule text-left text-ink-2">
          <th className="px-2.5 py-1 font-normal">{when}, it does this</th>
          <th className="px-2.5 py-1 font-normal">as it stands</th>
          <th className="px-2.5 py-1 font-normal">with it</th>
        </tr>
      </thead>
      <tbody>
        {effects.map((e, i) => {
          const { what, before, after } = effectWords(e, w);
          return [
            <tr key={what} className="border-b border-rule-2 last:border-0">
              <th scope="row" className="px-2.5 py-1 text-left font-normal">
                <button
                  type="button"
                  aria-expanded={open === i}
                  className="text-left underline decoration-rule underline-offset-2 hover:decoration-ink"
                  onClick={() => setOpen(open === i ? null : i)}
                >
                  {what}
                </button>
              </th>
              <td className="figure px-2.5 py-1 text-ink-2">{before}</td>
              <td className={`figure px-2.5 py-1 font-semibold ${e.worse ? "text-signal" : ""}`}>{after}</td>
            </tr>,
            open === i && (
              <tr key={`${what}, worked out`} className="border-b border-rule-2 bg-field">
                <td colSpan={3} className="px-2.5 py-2">
                  <div className="grid gap-3 sm:grid-cols-2">
                    {e.sums.map((sum, k) => (
                      <div key={k === 0 ? "before" : "after"}>
                        <p className="mb-1 text-2xs text-ink-3">{k === 0 ? "as it stands" : "with it"}</p>
                        <SumSheet sum={sum} />
                      </div>
                    ))}
                  </div>
                  {e.kind === "waits" && (
                    <p className="mt-1">
                      <Link className="underline" to={e.claim.href}>
                        Open {e.claim.label}
                      </Link>
                    </p>
                  )}
                </td>
              </tr>
            ),
          ];
        })}
      </tbody>
    </table>
  );
}
