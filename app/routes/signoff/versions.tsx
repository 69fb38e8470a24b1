import { Link } from "react-router";
import type { Day } from "../../../core/calendar/day";
import { SlipForm } from "../../parts/slip-form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { RulesWord } from "./rules-acts";

/** Every version of the rules: each can be read as it was, and one that has not started can be taken back. */
export function Versions({
  books,
  shown,
  inForce,
  mayKeep,
}: {
  books: {
    version: number;
    starts: Day;
    kept: string;
    person: string | null;
    takenBack: string | null;
    ladders: number;
  }[];
  shown: number | null;
  inForce: number | null;
  mayKeep: boolean;
}) {
  const w = useWriting();
  if (books.length === 0) return null;
  return (
    <SlipPart title="Versions">
      <ul className="border border-rule bg-sheet">
        {books.toReversed().map((b) => (
          <li
            key={b.version}
            aria-current={b.version === shown ? "true" : undefined}
            className={`border-b border-rule-2 px-2.5 py-1 last:border-0 ${b.version === shown ? "bg-here" : ""}`}
          >
            <span className="flex justify-between gap-3">
              <Link to={`/ladders?version=${b.version}`} className={`underline ${b.takenBack ? "line-through" : ""}`}>
                Rules {b.version}
              </Link>
              <span>
                {b.version === inForce ? <b>in force</b> : b.takenBack ? "taken back" : `from ${w.day(b.starts)}`}
              </span>
            </span>
            <span className="text-xs text-ink-3">
              {b.version === inForce && `since ${w.day(b.starts)}, `}
              written {w.moment(b.kept)}
              {b.person && ` by ${b.person}`}
            </span>
            {mayKeep && b.starts > w.today && !b.takenBack && (
              <SlipForm<RulesWord>
                does="take back"
                fields={{ version: b.version }}
                label="Take it back…"
                send="Take it back"
              >
                <p className="text-xs">The rules before go on.</p>
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}
