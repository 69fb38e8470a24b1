import type { PDFDocumentProxy } from "pdfjs-dist";
import worker from "pdfjs-dist/build/pdf.worker.min.mjs?url";
import { useEffect, useRef, useState } from "react";

/** Draws the pages of a PDF one beneath the other, as wide as there is room. Nothing of the viewer is loaded before it is needed. */
export function PaperView({ pdf, label }: { pdf: Uint8Array | null; label: string }) {
  const frame = useRef<HTMLDivElement>(null);
  const [fault, setFault] = useState(false);
  useEffect(() => {
    const here = frame.current;
    if (!pdf || !here) return;
    let over = false;
    let opened: PDFDocumentProxy | null = null;
    void (async () => {
      try {
        const pdfjs = await import("pdfjs-dist");
        pdfjs.GlobalWorkerOptions.workerSrc = worker;
        // The viewer takes the bytes for itself, so it gets a copy.
        opened = await pdfjs.getDocument({ data: pdf.slice(), useWasm: false, isEvalSupported: false }).promise;
        const drawn: HTMLCanvasElement[] = [];
        for (let n = 1; n <= opened.numPages; n++) {
          const sheet = await opened.getPage(n);
          const scale = (here.clientWidth / sheet.getViewport({ scale: 1 }).width) * Math.max(1.5, devicePixelRatio);
          const viewport = sheet.getViewport({ scale });
          const canvas = document.createElement("canvas");
          canvas.width = viewport.width;
          canvas.height = viewport.height;
          canvas.className = "mb-3 block w-full border border-rule bg-white";
          await sheet.render({ canvas, viewport }).promise;
          if (over) return;
          drawn.push(canvas);
        }
        here.replaceChildren(...drawn);
        setFault(false);
      } catch {
        if (!over) setFault(true);
      }
    })();
    return () => {
      over = true;
      void opened?.loadingTask.destroy();
    };
  }, [pdf]);
  return (
    <>
      {fault && (
        <p className="mb-2 font-semibold text-signal">This browser cannot show it here; it prints all the same.</p>
      )}
      <div ref={frame} role="img" aria-label={label} />
    </>
  );
}
