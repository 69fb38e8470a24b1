import { useEffect, useState } from "react";
import { answerOf } from "../../ui/answer-of";

export interface PreviewProblem {
  field: string;
  says: string;
}

/** Has the paper drawn a moment after the last change; the one before stays until then. */
export function usePreview(paper: unknown): {
  pdf: Uint8Array | null;
  problems: readonly PreviewProblem[];
  busy: boolean;
} {
  const [shown, setShown] = useState<{ pdf: Uint8Array | null; problems: readonly PreviewProblem[] }>({
    pdf: null,
    problems: [],
  });
  const [busy, setBusy] = useState(true);
  const body = JSON.stringify(paper);
  useEffect(() => {
    const stop = new AbortController();
    setBusy(true);
    const wait = setTimeout(async () => {
      try {
        const answer = await fetch("/papers/preview", {
          method: "POST",
          body,
          headers: { "Content-Type": "application/json" },
          signal: stop.signal,
        });
        if (answer.ok) setShown({ pdf: new Uint8Array(await answer.arrayBuffer()), problems: [] });
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
  }, [body]);
  return { ...shown, busy };
}
