import { useRef, useState } from "react";
import { useSubmit } from "react-router";
import type { StoreId } from "../../../core/ids";
import { readScan } from "../../../exchange/gs1/scan";
import type { Stowable } from "../../../server/queries/stock/shelves";
import { problemAt } from "../../ui/field";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import { type Stowing, type StowTexts, scannedRow, stowedRows, stowKey, stowRow } from "./stowing";

/** Putting goods of the dock away: what is ticked, and typed otherwise than proposed, kept on this device until it is sent. */
export function useStowing(
  store: StoreId,
  rows: readonly Stowable[],
  problems: readonly { field: string; says: string }[] | undefined,
) {
  const submit = useSubmit();
  const busy = useBusy();
  const kept = useLocalDraft<Stowing>(`wharf.stow.${store}`, 1);
  const typed = kept.draft ?? {};
  const latest = useRef(typed);
  latest.current = typed;
  const [at, setAt] = useState<string | null>(null);
  const [heard, setHeard] = useState<string | null>(null);
  const key = useSubmissionKey(rows);
  const sent = useRef<ReturnType<typeof stowedRows>>([]);
  const set = (row: string, part: StowTexts) => {
    setAt(row);
    const next = { ...latest.current, [row]: { ...latest.current[row], ...part } };
    latest.current = next;
    kept.put(next);
  };
  const done = rows.filter((r) => typed[stowKey(r)]?.done);
  const wrong = done.some((r) => stowRow(r, typed[stowKey(r)]).wrong);
  const all = () => {
    const next = { ...latest.current };
    for (const r of rows)
      if (!stowRow(r, next[stowKey(r)]).wrong) next[stowKey(r)] = { ...next[stowKey(r)], done: true };
    kept.put(next);
  };
  const hear = (code: string) => {
    const scanned = readScan(code);
    if (!code.trim()) return;
    if (!scanned.ok) return setHeard(scanned.says);
    const row = scannedRow(rows, latest.current, scanned.value);
    // What is no goods of the dock, while a row is at hand, is the bin into which they go.
    if (!row && at !== null && scanned.value.gtin === null) {
      set(at, { into: code.trim().slice(0, 20), done: true });
      return setHeard(`Into ${code.trim().slice(0, 20)}`);
    }
    if (!row) return setHeard(`“${code.trim().slice(0, 40)}” does not lie on the dock.`);
    set(stowKey(row), { done: true });
    const into = stowRow(row, latest.current[stowKey(row)]).into;
    setHeard(into ? `${row.name}: into ${into}` : `${row.name}: scan its bin`);
    document.getElementById(`stow-${stowKey(row)}`)?.scrollIntoView({ block: "nearest" });
  };
  const take = () => {
    if (busy || wrong || done.length === 0) return;
    sent.current = stowedRows(rows, typed);
    void submit({ store, rows: sent.current, key: `${key()}stow` }, { method: "post", encType: "application/json" });
  };
  const problemOf = (r: Stowable, field: string) => {
    const index = sent.current.findIndex((s) => stowKey(s) === stowKey(r));
    return index < 0 ? undefined : problemAt(problems, `rows.${index}.${field}`);
  };
  const trouble =
    problemAt(problems, "") ?? (problems?.length ? "Some rows need another look; they are marked." : null);
  return {
    typed,
    at,
    set,
    setAt,
    heard,
    hear,
    all,
    take,
    busy,
    done,
    wrong,
    problemOf,
    trouble,
    put: kept.put,
  };
}
