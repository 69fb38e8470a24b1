import { useEffect, useRef, useState } from "react";
import { useRevalidator, useSubmit } from "react-router";
import type { PersonId } from "../../../core/ids";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import { useKept } from "../../ui/use-kept";
import { emptyLine, fromSheet, type RequisitionDraft, type RequisitionDraftLine, toSend } from "./draft-values";
import type { RequisitionWord } from "./requisition-acts";

/** A requisition while it is written: what is typed, kept as one types; and handing it in. */
export function useRequisitionDraft(sheet: RequisitionSheet) {
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const { head } = sheet;
  const kept = useKept<RequisitionDraft>(
    `/requisitions/${head.id}/keep`,
    head.version,
    `wharf.requisition.${head.id}.${w.person}`,
    { body: toSend, onRestored: (left) => put(left) },
  );
  const [draft, setDraft] = useState<RequisitionDraft>(() => {
    const d = fromSheet(sheet, w.home);
    return d.lines.length ? d : { ...d, lines: [emptyLine()] };
  });
  const { revalidate } = useRevalidator();
  const typed = useRef(false);
  // What it will about cost is worked out by the server, from what is kept.
  useEffect(() => {
    if (typed.current && (kept.state === "kept" || kept.state === "stale")) void revalidate();
  }, [kept.state, revalidate]);
  /** The line that was just added. */
  const [added, setAdded] = useState<string | null>(null);
  const submissionKey = useSubmissionKey(head.version);
  // Two keystrokes may come before one drawing: each goes on from the last, never from what was drawn.
  const latest = useRef(draft);
  const put = (next: RequisitionDraft) => {
    latest.current = next;
    setDraft(next);
  };
  const change = (part: (now: RequisitionDraft) => Partial<RequisitionDraft>) => {
    typed.current = true;
    const next = { ...latest.current, ...part(latest.current) };
    put(next);
    kept.keep(next);
  };
  return {
    draft,
    kept,
    busy,
    added,
    stale: kept.state === "stale",
    set: (part: Partial<RequisitionDraft>) => change(() => part),
    setLine: (id: string, part: Partial<RequisitionDraftLine>) =>
      change((now) => ({ lines: now.lines.map((l) => (l.id === id ? { ...l, ...part } : l)) })),
    addLine: () => {
      const line = emptyLine();
      setAdded(line.id);
      put({ ...latest.current, lines: [...latest.current.lines, line] });
    },
    dropLine: (id: string) => change((now) => ({ lines: now.lines.filter((l) => l.id !== id) })),
    watch: (person: PersonId, on: boolean) =>
      change((now) => ({ watchers: on ? [...now.watchers, person] : now.watchers.filter((id) => id !== person) })),
    takeTheirs: () => {
      kept.yieldTo(sheet.head.version);
      put(fromSheet(sheet, w.home));
    },
    hand: async (what: Extract<RequisitionWord, "submit" | "drop">) => {
      if (busy) return;
      if (what === "submit" && !(await kept.settle())) return;
      void submit({ do: what, version: String(kept.version()), key: submissionKey() + what }, { method: "post" });
    },
  };
}
export type WritingRequisition = ReturnType<typeof useRequisitionDraft>;
