import { useCallback, useEffect, useRef, useState } from "react";
import { answerOf } from "../../ui/answer-of";

interface Line {
  done?: number;
  of?: number;
  pdf?: string;
  says?: string;
}

/** Prints labels: shows how far it is while they are drawn, then opens the file. */
export function usePrinting() {
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [says, setSays] = useState<string | null>(null);
  const [file, setFile] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  useEffect(() => () => void (file && URL.revokeObjectURL(file)), [file]);
  const print = useCallback(async (body: object) => {
    stop.current?.abort();
    const own = new AbortController();
    stop.current = own;
    setSays(null);
    setFile(null);
    setProgress({ done: 0, of: 1 });
    try {
      for await (const line of printed(body, own.signal)) {
        if (line.done !== undefined) setProgress({ done: line.done, of: line.of ?? 1 });
        if (line.says) setSays(line.says);
        if (line.pdf) setFile(fileOf(line.pdf));
      }
    } catch {
      if (!own.signal.aborted) setSays("The house does not answer. Try again in a while.");
    } finally {
      if (!own.signal.aborted) setProgress(null);
    }
  }, []);
  const leave = () => {
    stop.current?.abort();
    setProgress(null);
  };
  return { print, leave, progress, says, file };
}

const fileOf = (base64: string) =>
  URL.createObjectURL(new Blob([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], { type: "application/pdf" }));

/** What the house says while it draws, line by line; or why it does not. */
async function* printed(body: object, signal: AbortSignal): AsyncGenerator<Line> {
  const answer = await fetch("/labels/print", {
    method: "POST",
    headers: { "Content-Type": "application/json", Accept: "application/json" },
    body: JSON.stringify(body),
    signal,
  });
  if (!answer.ok || !answer.body) {
    const { problems } = await answerOf<{ problems?: { says: string }[] }>(answer);
    yield { says: problems?.[0]?.says ?? "The labels could not be drawn." };
    return;
  }
  const reader = answer.body.getReader();
  const letters = new TextDecoder();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    rest += letters.decode(value, { stream: !done });
    const lines = rest.split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) if (line) yield JSON.parse(line) as Line; // our own data route
    if (done) return;
  }
}
