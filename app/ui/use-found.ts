import { useEffect, useState } from "react";
import { answerOf } from "./answer-of";

export interface Finding {
  kind: string;
  code: string;
  name: string;
  href: string;
  id: number;
  unit?: string;
  about?: string;
}

/** What the finder's answer has for a text; the last question wins, and a lost connection finds nothing. */
export function useFound(text: string, among: "all" | "items"): { found: Finding[]; busy: boolean } {
  const [found, setFound] = useState<Finding[]>([]);
  const [busy, setBusy] = useState(false);
  const wanted = text.trim();
  useEffect(() => {
    if (wanted.length < 2) {
      setFound([]);
      return;
    }
    const stop = new AbortController();
    setBusy(true);
    const wait = setTimeout(async () => {
      try {
        const answer = await fetch(`/find?among=${among}&text=${encodeURIComponent(wanted)}`, { signal: stop.signal });
        setFound(answer.ok ? await answerOf<Finding[]>(answer) : []);
        setBusy(false);
      } catch {
        if (!stop.signal.aborted) setBusy(false);
      }
    }, 90);
    return () => {
      stop.abort();
      clearTimeout(wait);
    };
  }, [wanted, among]);
  return { found, busy };
}
