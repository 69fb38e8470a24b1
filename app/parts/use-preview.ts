import { useEffect, useState } from "react";
import { answerOf } from "../ui/answer-of";

export interface PreviewProblem {
  field: string;
  says: string;
}

/**
 * Has a paper drawn by an address of ours a moment after the last change; the one before stays until then. `leftOut`: what
 * had no room on it.
 */
export function usePreview(
  address: string,
  paper: unknown,
): {
  pdf: Uint8Array | null;
  problems: readonly PreviewProblem[];
  leftOut: readonly string[];
  busy: boolean;
} {
  const [shown, setShown] = useState<Omit<ReturnType<typeof usePreview>, "busy">>({
    pdf: null,
    problems: [],
    leftOut: [],
  });
  const [busy, setBusy] = useState(true);
  const body = JSON.stringify(paper);
  useEffect(() => {
    const stop = new AbortController();
    setBusy(true);
    const wait = setTimeout(async () => {
      try {
        const answer = await fetch(address, {
          method: "POST",
          body,
          headers: { "Content-Type": "application/json" },
          signal: stop.signal,
        });
        if (answer.ok)
          setShown({
            pdf: new Uint8Array(await answer.arrayBuffer()),
            problems: [],
            leftOut: (answer.headers.get("Left-Out") ?? "").split(",").filter(Boolean),
          });
        else {
          const { problems } = await answerOf<{ problems: PreviewProblem[] }>(answer);
          setShown((was) => ({ ...was, problems }));
        }
        setBusy(false);
      } catch {
        if (!stop.signal.aborted) setBusy(false); // no connection: what was drawn last stays
      }
    }, 400);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [address, body]);
  return { ...shown, busy };
}
