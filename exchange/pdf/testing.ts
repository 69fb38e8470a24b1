import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

/** The words on each page of a PDF, as a reader finds them; for tests. */
export async function wordsOn(pdf: Uint8Array): Promise<string[]> {
  const opened = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= opened.numPages; n++) {
    const { items } = await (await opened.getPage(n)).getTextContent();
    pages.push(
      items
        .map((i) => ("str" in i ? i.str : ""))
        .join(" ")
        .replace(/\s+/g, " "),
    );
  }
  await opened.loadingTask.destroy();
  return pages;
}
