import type { LabelGoods, LabelLayout } from "../../core/stock/label";
import type { LabelRun } from "../../exchange/labels/label-pdf";
import { inWorker } from "./crew";

/** Longer than this no labels are drawn. */
const LONGEST = 300_000;

/** A label to be looked at, drawn in a worker: one to the page, with what had no room on it. */
export async function lookAtLabel(layout: LabelLayout, of: LabelGoods, day: string): Promise<Response> {
  const run = { layout: { ...layout, sheet: null }, goods: [{ of, copies: 1 }], skip: 0, day };
  const { pdf, leftOut } = await inWorker("labels", { run });
  return new Response(new Uint8Array(pdf), {
    headers: { "Content-Type": "application/pdf", "Cache-Control": "no-store", "Left-Out": leftOut.join(",") },
  });
}

/**
 * Labels drawn in a worker, as lines of JSON: how many are done, and at last the PDF in base64, or that it failed. Whoever
 * leaves ends the worker's part in it, too.
 */
export function labelsInParts(run: LabelRun, of: number): ReadableStream<Uint8Array> {
  const stop = new AbortController();
  const line = (o: object) => Buffer.from(`${JSON.stringify(o)}\n`);
  return new ReadableStream<Uint8Array>({
    start(control) {
      const signal = AbortSignal.any([stop.signal, AbortSignal.timeout(LONGEST)]);
      control.enqueue(line({ done: 0, of }));
      inWorker("labels", { run }, { onPart: ({ done }) => control.enqueue(line({ done, of })), signal }).then(
        ({ pdf }) => {
          control.enqueue(line({ pdf: Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength).toString("base64") }));
          control.close();
        },
        () => {
          if (stop.signal.aborted) return;
          control.enqueue(line({ says: "The labels could not be drawn. Try fewer at once." }));
          control.close();
        },
      );
    },
    cancel() {
      stop.abort();
    },
  });
}
