import { inWorker } from "./crew";
import type { ToSave } from "./jobs";

/** A file that a worker writes while it is sent; whoever ends the download ends the worker's part in it, too. */
export function saveInWorker(file: string, what: ToSave): ReadableStream<Uint8Array> {
  const stop = new AbortController();
  return new ReadableStream<Uint8Array>({
    start(control) {
      inWorker("save", { file, what }, { onPart: (part) => control.enqueue(part), signal: stop.signal }).then(
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
