import { MOST_FAULTS } from "../../exchange/csv/limits";
import { Heads } from "../ui/heads";

/** Faults of a file, each with its line, its column and what would be right. */
export function Faults({
  faults,
  of = faults.length,
}: {
  faults: readonly { line: number; column: string; found: string; says: string }[];
  /** How many there are, where not all are listed. */
  of?: number;
}) {
  return (
    <table className="mx-4.5 mb-6 w-[calc(100%-36px)] border border-rule">
      <caption className="sr-only">Faults in the file</caption>
      <Heads
        heads={[
          { label: "Line", align: "right" },
          { label: "Column" },
          { label: "Found" },
          { label: "What would be right" },
        ]}
      />
      <tbody>
        {faults.slice(0, MOST_FAULTS).map((f, i) => (
          <tr key={i} className="border-b border-rule-2 align-top">
            <td className="figure px-2 py-1 text-right">{f.line}</td>
            <td className="px-2 py-1 font-mono text-xs">{f.column}</td>
            <td className="max-w-48 truncate px-2 py-1 font-mono text-xs">{f.found}</td>
            <td className="px-2 py-1">{f.says}</td>
          </tr>
        ))}
      </tbody>
      {of > MOST_FAULTS && (
        <tfoot>
          <tr>
            <td colSpan={4} className="px-2 py-1 text-ink-3">
              and {of - MOST_FAULTS} more
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}
