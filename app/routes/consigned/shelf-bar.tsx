import { addDays } from "../../../core/calendar/day";
import type { Layer } from "../../../core/consigned/layers";
import { useWriting } from "../../ui/locale";

const SOON = 7;

/**
 * A supplier's goods of one item as a bar of its deliveries by age, the oldest first, with least and most notched; under each
 * the day on which what is left of it becomes ours.
 */
export function ShelfBar({ layers, least, most }: { layers: readonly Layer[]; least: number; most: number }) {
  const w = useWriting();
  const here = layers.reduce((a, l) => a + l.left, 0);
  const end = Math.max(most, here) * 1.06 || 1;
  const at = (q: number) => `${(100 * q) / end}%`;
  let x = 0;
  const parts = layers.map((l, i) => {
    const from = x;
    x += l.left;
    const soon = l.oursOn !== null && l.oursOn <= addDays(w.today, SOON);
    return {
      ...l,
      from,
      soon,
      look: soon
        ? "bg-lamp"
        : i === 0 || (i === 1 && layers[0]!.oursOn !== null && layers[0]!.oursOn <= addDays(w.today, SOON))
          ? "bg-harbour"
          : "bg-harbour/50",
    };
  });
  const words = [
    ...parts.map(
      (p) => `${w.quantity(p.left)} of ${w.day(p.day, false)}${p.oursOn ? `, ours on ${w.day(p.oursOn, false)}` : ""}`,
    ),
    `least ${w.quantity(least)}`,
    `most ${w.quantity(most)}`,
  ].join("; ");
  return (
    <span role="img" aria-label={words} className="relative block h-8 w-full">
      <span className="absolute inset-x-0 top-[15px] border-t border-rule" />
      {parts.map((p) => (
        <span
          key={p.id}
          className={`absolute top-[5px] h-[11px] border-r border-sheet ${p.look}`}
          style={{ left: at(p.from), width: at(p.left) }}
        />
      ))}
      {[least, most].map((q, i) => (
        <span key={i} className="absolute top-[1px] h-[18px] border-l-2 border-ink" style={{ left: at(q) }} />
      ))}
      {parts
        .filter((p) => p.oursOn !== null && p.left / end > 0.13)
        .map((p) => (
          <span
            key={p.id}
            className={`absolute top-[19px] truncate text-2xs ${p.soon ? "font-semibold text-signal" : "text-ink-3"}`}
            style={{ left: at(p.from), maxWidth: at(p.left) }}
          >
            {w.day(p.oursOn!, false)}
          </span>
        ))}
    </span>
  );
}
