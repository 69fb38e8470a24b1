import { inWorker } from "./crew";
import type { ToSave } from "./jobs";

/** Longer than this no file is written. */
const LONGEST = 600_000;

/** A file that a worker writes while it is sent; whoever ends the download ends the worker's part in it, too. */
export function saveInWorker(file: string, what: ToSave): ReadableStream<Uint8Array> {
  const stop = new AbortController();
  return new ReadableStream<Uint8Array>({
    start(control) {
      const signal = AbortSignal.any([stop.signal, AbortSignal.timeout(LONGEST)]);
      inWorker("save", { file, what }, { onPart: (part) => control.enqueue(part), signal }).then(
        () => control.close(),
        (fault) => {
          if (!stop.signal.aborted) control.error(fault);
        },
      );
    },
    cancel() {
      stop.abort();
    },
  });
}
