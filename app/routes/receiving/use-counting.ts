import { useRef, useState } from "react";
import type { OrderLineId } from "../../../core/ids";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { useLocalDraft } from "../../ui/use-local-draft";
import { countName } from "./count-name";
import { type CountedTexts, countingOf, heardLine, restOf, stepped } from "./counting";

/** What was counted and not taken in yet, as typed, by line. */
interface Count {
  counted: CountedTexts;
  note: string;
}
const NOTHING: Count = { counted: {}, note: "" };

/** Counting one load: what is typed, stepped and scanned, kept on this device until it is taken in. */
export function useCounting(sheet: CountSheet) {
  const kept = useLocalDraft<Count>(countName(sheet), sheet.version);
  const { counted, note } = kept.draft ?? NOTHING;
  // Two keystrokes may come before one drawing: each goes on from the last.
  const latest = useRef(kept.draft ?? NOTHING);
  latest.current = kept.draft ?? NOTHING;
  const put = (part: Partial<Count>) => {
    latest.current = { ...latest.current, ...part };
    kept.put(latest.current);
  };
  const [at, setAt] = useState<number | null>(null);
  const [heard, setHeard] = useState<string | null>(null);

  const counting = countingOf(sheet.lines, counted);
  const { open } = counting;
  const set = (line: OrderLineId, text: string) => {
    setAt(line);
    put({ counted: { ...latest.current.counted, [line]: text } });
  };
  const step = (line: OrderLineId, by: number) => set(line, stepped(latest.current.counted[line], by));
  const hear = (code: string) => {
    if (!code.trim()) return;
    const line = heardLine(open, code);
    if (!line) {
      setHeard(`“${code.trim().slice(0, 40)}” is not on this order, or is all in.`);
      return;
    }
    step(line.line, 1);
    setHeard(`${line.name}: one more`);
    document.getElementById(`count-${line.line}`)?.scrollIntoView({ block: "nearest" });
  };
  const rest = () => put({ counted: restOf(open) });
  return { kept, counted, note, at, heard, put, setAt, set, step, hear, rest, counting };
}
