import { Link } from "react-router";
import { parseDay } from "../../core/calendar/day";
import type { PaperAround } from "../../server/queries/papers/around";
import { SlipPart } from "../ui/frame-parts";
import { useWriting } from "../ui/locale";

const STOPS: readonly PaperAround["stop"][] = ["asked for", "agreed before", "ordered", "came"];
/** So many papers of one stop are drawn; the page of the paper itself has the others. */
const MOST = 8;

/** The way of a need from paper to paper, as a small drawing: stops below each other on one line, each paper a link. */
export function PapersAround({ papers, here }: { papers: readonly PaperAround[]; here: string }) {
  const w = useWriting();
  const stops = STOPS.map((stop) => ({ stop, of: papers.filter((p) => p.stop === stop) })).filter((s) => s.of.length);
  if (papers.length < 2) return null;
  return (
    <SlipPart title="Its way, from paper to paper">
      <ol className="border-l-2 border-ink pl-4">
        {stops.map(({ stop, of }) => (
          <li key={stop} className="relative pb-2 last:pb-0">
            <span aria-hidden="true" className="absolute top-1.5 -left-[21px] size-2 border-2 border-ink bg-sheet" />
            <span className="text-xs text-ink-3">{stop}</span>
            <ul>
              {of.slice(0, MOST).map((p) => (
                <li key={p.href} className="flex items-baseline justify-between gap-3">
                  {p.href === here ? (
                    <b aria-current="page">{p.label}</b>
                  ) : (
                    <Link className="underline" to={p.href}>
                      {p.label}
                    </Link>
                  )}
                  <span className="text-xs text-ink-2">
                    {parseDay(p.state) ? w.day(p.state, false) : p.state.toLowerCase()}
                  </span>
                </li>
              ))}
              {of.length > MOST && <li className="text-xs text-ink-3">and {of.length - MOST} more</li>}
            </ul>
          </li>
        ))}
      </ol>
    </SlipPart>
  );
}
