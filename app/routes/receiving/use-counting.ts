import { useMemo, useRef, useState } from "react";
import type { OrderLineId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { readScan } from "../../../exchange/gs1/scan";
import type { AnnouncedLoadRow } from "../../../server/queries/receiving/announced";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { useWriting } from "../../ui/locale";
import { useLocalDraft } from "../../ui/use-local-draft";
import { countName } from "./count-name";
import {
  type CountTexts,
  countingOf,
  heardLines,
  keptCount,
  lineForScan,
  NO_PART,
  NOTHING_COUNTED,
  type PartTexts,
  partsCounted,
  stepped,
  strangerWords,
  typedIn,
  withNote,
  withoutPart,
  withPallet,
  withPart,
  withRest,
  withScan,
} from "./counting";
import { useShown } from "./use-shown";

/** Counting one load: what is typed, stepped and scanned, kept on this device until it is taken in. */
export function useCounting(sheet: CountSheet, announced: readonly AnnouncedLoadRow[] = []) {
  const { today } = useWriting();
  const kept = useLocalDraft<CountTexts>(countName(sheet), sheet.version);
  const count = useMemo(() => (kept.draft ? keptCount(kept.draft) : NOTHING_COUNTED), [kept.draft]);
  const past = useMemo(() => (kept.past ? keptCount(kept.past) : null), [kept.past]);
  // Two keystrokes may come before one drawing: each goes on from the last.
  const latest = useRef(count);
  latest.current = count;
  const keep = (next: CountTexts | null) => {
    latest.current = next ?? NOTHING_COUNTED;
    kept.put(next);
  };
  const put = (part: Partial<CountTexts>) => keep({ ...latest.current, ...part });
  const [at, setAt] = useState<OrderLineId | null>(null);
  const [heard, setHeard] = useState<string | null>(null);

  const counting = useMemo(() => countingOf(sheet.lines, count, today), [sheet.lines, count, today]);
  const set = (line: OrderLineId, index: number, part: Partial<PartTexts>) => {
    setAt(line);
    keep(withPart(latest.current, line, index, part));
  };
  const step = (line: OrderLineId, index: number, by: number) =>
    set(line, index, { count: stepped(partsCounted(latest.current, line)[index]?.count, by * ONE) });
  const hear = (code: string) => {
    if (!code.trim()) return;
    const scanned = readScan(code);
    if (!scanned.ok) return setHeard(scanned.says);
    if (scanned.value.pallet !== null) {
      const stands = announced.flatMap((a) => a.lines).filter((l) => l.pallet === scanned.value.pallet);
      if (stands.length === 0) return setHeard(`Pallet ${scanned.value.pallet} is not announced for this order.`);
      keep(withPallet(latest.current, stands));
      return setHeard(
        `Pallet ${scanned.value.pallet}: ${stands.length === 1 ? "1 part" : `${stands.length} parts`} counted`,
      );
    }
    const found = lineForScan(heardLines(sheet.lines, scanned.value), latest.current, today);
    if (!found) return setHeard(strangerWords(scanned.value, "on this order"));
    const next = withScan(latest.current, found, scanned.value);
    setHeard(next.says);
    if (!next.ok) return;
    setAt(found.line);
    keep(next.count);
    document.getElementById(`count-${found.line}`)?.scrollIntoView({ block: "nearest" });
  };
  const rest = () => keep(withRest(latest.current, counting.open));
  const another = (line: OrderLineId) => set(line, partsCounted(latest.current, line).length, NO_PART);
  const remove = (line: OrderLineId, index: number) => keep(withoutPart(latest.current, line, index));
  // Where something is not good, or was put away, its fields stand open; elsewhere until they are closed again.
  const faulty = useShown((line) => typedIn(count, line, "faulty"));
  const binned = useShown((line) => typedIn(count, line, "bin"));
  return {
    faulty,
    binned,
    count,
    past,
    at,
    heard,
    counting,
    keep,
    put,
    setAt,
    set,
    step,
    hear,
    rest,
    note: (said: Parameters<typeof withNote>[1], more: Partial<CountTexts> = {}) =>
      keep({ ...withNote(latest.current, said), ...more }),
    another,
    remove,
  };
}
