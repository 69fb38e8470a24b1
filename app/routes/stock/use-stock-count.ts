import { useCallback, useRef, useState } from "react";
import { useSubmit } from "react-router";
import { binWords } from "../../../core/stock/bins";
import { readScan } from "../../../exchange/gs1/scan";
import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";
import { problemAt } from "../../ui/field";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import type { CountWord } from "./count-acts";
import { type CountTextsOfStock, countable, NOTHING_TYPED, scannedPlace, sentCounts, wrongCount } from "./count-texts";

/** Counting what lies there: what is typed is kept on this device until it is handed in. */
export function useStockCount(
  count: { id: number; version: number },
  lines: readonly PlaceSeen[],
  problems: readonly { field: string; says: string }[] | undefined,
  onAt: (key: string) => void,
) {
  const submit = useSubmit();
  const busy = useBusy();
  // One version for all: others may hand in meanwhile, and what is typed here stays.
  const kept = useLocalDraft<CountTextsOfStock>(`wharf.stock-count.${count.id}`, 1);
  const typed = kept.draft ?? NOTHING_TYPED;
  const latest = useRef(typed);
  latest.current = typed;
  const keep = kept.put;
  const put = useCallback(
    (next: CountTextsOfStock | null) => {
      latest.current = next ?? NOTHING_TYPED;
      keep(next);
    },
    [keep],
  );
  const [bin, setBin] = useState<string | null>(null);
  const [heard, setHeard] = useState<string | null>(null);
  const key = useSubmissionKey(count.version);
  const sent = useRef<ReturnType<typeof sentCounts>>({ rows: [], found: [] });
  const type = (line: number, text: string) =>
    put({ ...latest.current, rows: { ...latest.current.rows, [line]: text } });
  const now = sentCounts(typed, lines);
  const wrong = [...now.rows, ...now.found].some((r) => wrongCount(r.counted) !== null);
  const hear = (code: string) => {
    if (!code.trim()) return;
    const scanned = readScan(code);
    if (!scanned.ok) return setHeard(scanned.says);
    const place = lines.find((l) => l.bin !== "" && l.bin.toLowerCase() === code.trim().toLowerCase());
    if (place) {
      setBin(place.bin);
      onAt(String(place.id));
      return setHeard(`In bin ${place.bin}`);
    }
    const line = scannedPlace(lines, latest.current, bin, scanned.value);
    if (!line) return setHeard(`“${code.trim().slice(0, 40)}” is not on this list: add it as found.`);
    onAt(String(line.id));
    setHeard(`${line.name}, ${binWords(line.bin)}`);
    setTimeout(() => document.querySelector<HTMLInputElement>(`[data-place="${line.id}"]`)?.select());
  };
  const handIn = () => {
    if (busy || wrong || now.rows.length + now.found.length === 0) return;
    sent.current = now;
    void submit(
      { do: "hand in" satisfies CountWord, ...now, key: `${key()}${now.rows.length}-${now.found.length}` },
      { method: "post", encType: "application/json" },
    );
  };
  const problemOf = (line: number) => {
    const index = sent.current.rows.findIndex((r) => r.line === line);
    return index < 0 ? undefined : problemAt(problems, `rows.${index}.counted`);
  };
  const foundProblem = (i: number) => problems?.find((p) => p.field.startsWith(`found.${i}.`))?.says;
  return { typed, put, type, wrong, hear, heard, handIn, busy, now, problemOf, foundProblem, countable };
}
