import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { OrderLineId, StoreId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { readScan, type Scanned } from "../../../exchange/gs1/scan";
import type { OpenLine } from "../../../server/queries/receiving/open-count";
import { useWriting } from "../../ui/locale";
import { useLocalDraft } from "../../ui/use-local-draft";
import { countingOf, heardLines, type PartTexts, partsCounted, stepped, withoutPart, withPart } from "./counting";
import { changedMeanwhile, heardOpen, NOTHING_OPEN, type OpenCount, withLines } from "./open-counting";
import { useKnownLines } from "./use-known-lines";

interface Found {
  lines: OpenLine[];
  says?: string | null;
}
async function find(query: Record<string, string>): Promise<Found> {
  const answer = await fetch(`/open-count/find?${new URLSearchParams(query)}`, {
    headers: { Accept: "application/json" },
  });
  if (!answer.ok) throw new Error(String(answer.status));
  return (await answer.json()) as Found; // our own data route
}

/** What of a scan this device knows by itself: of what should come soon. */
const knownOf = (known: readonly OpenLine[], scanned: Scanned): Found => ({
  lines: heardLines(known, scanned),
  says: "No connection, and this device does not know the code: what should come within three weeks is here.",
});

/** Where an open count is kept on this device. */
export const openCountName = (store: StoreId) => `wharf.open-count.${store}`;

/** Counting over all orders of a store: what scans found and what was counted, kept on this device until it is taken in. */
export function useOpenCount(store: StoreId) {
  const { today } = useWriting();
  const kept = useLocalDraft<OpenCount>(openCountName(store), 1);
  const open = kept.draft ?? NOTHING_OPEN;
  const latest = useRef(open);
  latest.current = open;
  const keep = useCallback(
    (next: OpenCount | null) => {
      latest.current = next ?? NOTHING_OPEN;
      kept.put(next);
    },
    [kept.put],
  );
  const [at, setAt] = useState<OrderLineId | null>(null);
  /** What was scanned last; touching a line by hand does not move it. */
  const [last, setLast] = useState<OrderLineId | null>(null);
  const [heard, setHeard] = useState<string | null>(null);
  const [which, setWhich] = useState<{ scanned: Scanned; lines: OpenLine[] } | null>(null);
  const [changed, setChanged] = useState<string[]>([]);
  const counting = useMemo(() => countingOf(open.lines, open.count, today), [open, today]);

  /** How the lines stand now; what changed of those that were counted is said. */
  const refresh = useCallback(async () => {
    const { lines } = latest.current;
    if (lines.length === 0) return;
    const now = await find({ store: String(store), lines: lines.map((l) => l.line).join(",") }).catch(() => null);
    if (!now) return;
    setChanged(changedMeanwhile(latest.current, now.lines));
    keep(withLines(latest.current, now.lines));
  }, [store, keep]);
  // A count that was left and is gone on with is held against what stands now.
  const begun = kept.draft !== null;
  useEffect(() => {
    if (begun) void refresh();
  }, [begun, refresh]);

  const { latest: known, known: work } = useKnownLines(store);
  // Scans may come faster than the server answers: one waits for the other, and none is lost.
  const queue = useRef<Promise<void>>(Promise.resolve());
  const count = async (scanned: Scanned, code: string, chosen?: number | null) => {
    let answer = heardOpen(latest.current, scanned, today, { asked: chosen !== undefined, chosen });
    let says: string | null = null;
    if (answer.kind === "ask") {
      const found = await find({ store: String(store), code }).catch(() => knownOf(known.current, scanned));
      says = found.says ?? null;
      keep(withLines(latest.current, found.lines));
      answer = heardOpen(latest.current, scanned, today, { asked: true, chosen });
    }
    if (answer.kind === "which") return setWhich({ scanned, lines: answer.lines });
    if (answer.kind === "refused") return setHeard(says ?? answer.says);
    if (answer.kind !== "counted") return;
    keep(answer.open);
    const line = answer.open.lines.find((l) => l.line === (answer.kind === "counted" ? answer.line : 0));
    setAt(line?.line ?? null);
    setLast(line?.line ?? null);
    setHeard(answer.says);
    document.getElementById(`count-${answer.line}`)?.scrollIntoView({ block: "nearest" });
  };
  const hear = (code: string) => {
    if (!code.trim()) return;
    const scanned = readScan(code);
    if (!scanned.ok) return setHeard(scanned.says);
    queue.current = queue.current.then(() => count(scanned.value, code.trim()));
  };
  const choose = (item: number | null) => {
    if (!which) return;
    const { scanned } = which;
    setWhich(null);
    queue.current = queue.current.then(() => count(scanned, "", item));
  };
  const set = (line: OrderLineId, index: number, part: Partial<PartTexts>) => {
    setAt(line);
    keep({ ...latest.current, count: withPart(latest.current.count, line, index, part) });
  };
  const step = (line: OrderLineId, index: number, by: number) =>
    set(line, index, { count: stepped(partsCounted(latest.current.count, line)[index]?.count, by * ONE) });
  const another = (line: OrderLineId) => set(line, partsCounted(latest.current.count, line).length, { count: "" });
  const remove = (line: OrderLineId, index: number) =>
    keep({ ...latest.current, count: withoutPart(latest.current.count, line, index) });
  const note = (text: string) => keep({ ...latest.current, count: { ...latest.current.count, note: text } });
  return {
    open,
    counting,
    at,
    last,
    setAt,
    heard,
    which,
    choose,
    changed,
    refresh,
    hear,
    set,
    step,
    another,
    remove,
    note,
    keep,
    work,
  };
}
