import { parseDay } from "../../../core/calendar/day";
import { freshness, freshnessWords, type LotRule, usualExpiry } from "../../../core/receiving/lot";
import { DayEntry } from "../../ui/day-entry";
import { useWriting } from "../../ui/locale";
import type { PartFields } from "./counts-line";

/** The lot or serial number of a part of a count, and until when it keeps; for the parts after the first, its own count. */
export function LotPart({ line, rule, part, index, count, problem }: PartFields & { rule: LotRule }) {
  const w = useWriting();
  const called = rule.bySerial ? "Serial number" : "Lot";
  const usual = usualExpiry(rule, w.today);
  const expires = parseDay(part.expires) ?? (part.lot || part.count ? usual : null);
  const wrong =
    problem(index, "lot") ?? problem(index, "expires") ?? (index > 0 ? problem(index, "counted") : undefined);
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        aria-label={`${called} of ${line.name}${index ? `, ${index + 1}` : ""}`}
        placeholder={rule.bySerial ? "serial number" : "lot"}
        maxLength={40}
        value={part.lot}
        onChange={(e) => count.set(index, { lot: e.target.value })}
        className="entry w-48 font-mono max-lg:h-12"
      />
      <DayEntry
        aria-label={`Keeps until, ${line.name}${index ? `, ${index + 1}` : ""}`}
        placeholder={usual ? `keeps until ${w.day(usual, false)}` : "keeps until"}
        value={part.expires}
        onDay={(day) => count.set(index, { expires: day })}
        className="w-40"
      />
      {index > 0 && (
        <>
          <input
            aria-label={`Counted ${line.name}, lot ${index + 1}, in ${line.unit}`}
            inputMode="decimal"
            maxLength={16}
            placeholder="0"
            value={part.count}
            onChange={(e) => count.set(index, { count: e.target.value })}
            className="entry w-20 text-right font-mono max-lg:h-12"
          />
          <button type="button" className="text-xs underline max-lg:min-h-12" onClick={() => count.remove(index)}>
            leave it out
          </button>
        </>
      )}
      {wrong ? (
        <span className="text-xs font-semibold text-signal">{wrong}</span>
      ) : (
        expires &&
        freshness(rule, expires, w.today) !== "fresh" && (
          <span className="text-xs font-semibold text-signal">{freshnessWords(rule, expires, w.today)}</span>
        )
      )}
    </span>
  );
}
