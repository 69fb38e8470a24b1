import { useEffect, useState } from "react";
import type { Loading } from "../../server/jobs/loads";
import { answerOf } from "../ui/answer-of";
import { Button } from "../ui/button";
import { useWriting } from "../ui/locale";
import { ProgressBar } from "../ui/progress-bar";

const EVERY = 400;

/** How far a file is that was sent under this key, with a way to stop it. Shows nothing for what is done in a moment. */
export function LoadingBar({ of }: { of: string }) {
  const w = useWriting();
  const [loading, setLoading] = useState<Loading | null>(null);
  const [stopped, setStopped] = useState(false);
  useEffect(() => {
    let shown = true;
    const look = async () => {
      const answer = await fetch("/files/loading").catch(() => null);
      if (!answer?.ok || !shown) return;
      const all = await answerOf<Loading[]>(answer);
      if (shown) setLoading(all.find((l) => l.key === of) ?? null);
    };
    const timer = setInterval(look, EVERY);
    return () => {
      shown = false;
      clearInterval(timer);
    };
  }, [of]);
  const stop = () => {
    setStopped(true);
    void fetch("/files/loading", { method: "POST", body: new URLSearchParams({ of }) });
  };
  if (!loading) return null;
  const { rows } = loading;
  return (
    <div className="mx-4.5 mb-3 flex items-center gap-4 border-l-4 border-harbour bg-harbour-2/60 px-3 py-2">
      <p role="status" className="font-semibold">
        {rows
          ? `${w.quantity(rows.done * 10_000)} of ${w.quantity(rows.of * 10_000)} rows`
          : "Waiting its turn, or being read"}
      </p>
      <ProgressBar className="min-w-0 flex-1" done={rows?.done} of={rows?.of ?? 1} label="How far the file is" />
      <Button look="plain" disabled={stopped} onClick={stop}>
        {stopped ? "Stopping…" : "Stop"}
      </Button>
    </div>
  );
}
