import { Button } from "./button";
import type { Keeping } from "./use-kept";

const WORDS: Record<Keeping, string> = {
  kept: "kept",
  keeping: "keeping…",
  "waiting for the connection": "no connection: kept in this browser, sent when it is back",
  stale: "somebody else saved this meanwhile",
  "not kept": "not kept yet: see the marked fields",
};

/** Says whether what was typed is kept. */
export function KeepingNote({ state }: { state: Keeping }) {
  const bad = state === "stale" || state === "not kept" || state === "waiting for the connection";
  return (
    <span role="status" className={bad ? "font-semibold text-signal" : "text-ink-3"}>
      {WORDS[state]}
    </span>
  );
}

/** What changed meanwhile, and the choice: nothing is overwritten without it. */
export function StaleChoice({
  differences,
  onTheirs,
  onMine,
}: {
  differences: { what: string; theirs: string; mine: string }[];
  onTheirs: () => void;
  onMine: () => void;
}) {
  return (
    <section role="alert" className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/50 px-3 py-2">
      <p className="font-semibold">
        Somebody else saved this meanwhile. Nothing was overwritten; choose which to go on with.
      </p>
      {differences.length > 0 && (
        <table className="mt-2 text-xs">
          <thead>
            <tr className="text-left text-ink-2">
              <th className="pr-4 font-semibold">Where</th>
              <th className="pr-4 font-semibold">Kept now</th>
              <th className="font-semibold">Yours</th>
            </tr>
          </thead>
          <tbody>
            {differences.map((d) => (
              <tr key={d.what}>
                <td className="pr-4">{d.what}</td>
                <td className="figure pr-4">{d.theirs}</td>
                <td className="figure">{d.mine}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-2 flex gap-2">
        <Button onClick={onTheirs}>Take what is kept now</Button>
        <Button look="main" onClick={onMine}>
          Keep mine
        </Button>
      </div>
    </section>
  );
}
