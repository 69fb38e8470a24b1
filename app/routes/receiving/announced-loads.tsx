import { quantityText } from "../../../core/numbers/quantity";
import { count as counted } from "../../../core/text";
import type { AnnouncedLoadRow } from "../../../server/queries/receiving/announced";
import { Button } from "../../ui/button";
import { useWriting } from "../../ui/locale";
import type { useCounting } from "./use-counting";

/** What the supplier announced of this order: by it one can count at once, lots and all. */
export function AnnouncedLoads({
  loads,
  counting,
}: {
  loads: readonly AnnouncedLoadRow[];
  counting: ReturnType<typeof useCounting>;
}) {
  const w = useWriting();
  return (
    <ul aria-label="Announced" className="flex flex-col gap-1 pt-2">
      {loads.map((a) => {
        const pieces = a.lines.reduce((sum, l) => sum + l.quantity, 0);
        const lines = new Set(a.lines.map((l) => l.line)).size;
        const about = [
          a.arrives ? `for ${w.day(a.arrives)}` : "",
          counted(lines, "line"),
          a.packages === null ? "" : counted(a.packages, "package"),
          a.weight === null ? "" : `${w.quantity(a.weight)} kg`,
        ].filter(Boolean);
        return (
          <li key={a.id} className="flex flex-wrap items-baseline gap-x-3">
            <span>
              Announced: <b className="font-mono">{a.number}</b>, {about.join(", ")}
              {a.note && <span className="text-ink-2">, {a.note}</span>}
            </span>
            <Button
              look="plain"
              className="text-xs max-lg:min-h-12"
              onClick={() =>
                counting.note(
                  a.lines.map((l) => ({
                    line: l.line,
                    count: quantityText(l.quantity),
                    lot: l.lot,
                    expires: l.expires ?? "",
                  })),
                  {
                    note: a.number,
                    said: {
                      lines: String(lines),
                      pieces: quantityText(pieces),
                      weight: a.weight === null ? "" : quantityText(a.weight),
                    },
                  },
                )
              }
            >
              count as announced
            </Button>
          </li>
        );
      })}
    </ul>
  );
}
