import { Link } from "react-router";
import type { MovedSpend } from "../../../server/queries/insight/moved";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { CAUSE_SAYS } from "./words";

/** What moved most since last week, each with why, and down to its steps. */
export function MovedPart({ moved }: { moved: readonly MovedSpend[] }) {
  const w = useWriting();
  if (moved.length === 0) return null;
  return (
    <SlipPart title="Received in seven days, against the seven before">
      <ul className="border border-rule bg-sheet text-xs">
        {moved.map((m) => (
          <li key={m.key} className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 last:border-b-0">
            <Link
              className="hover:underline"
              to={`/insight/why?${new URLSearchParams({ by: "category", from: m.from, to: m.until, at: m.key })}`}
            >
              {m.label}
              <span className="block text-2xs text-ink-3">most of it {CAUSE_SAYS[m.cause]}</span>
            </Link>
            <span className="figure text-right">
              {m.after > m.before && "+"}
              {w.round(m.after - m.before)}
              <span className="block text-2xs text-ink-3">{w.round(m.after)}</span>
            </span>
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}
