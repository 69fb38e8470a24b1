/** A PDF that is shown in the browser, under a name by which it is saved. */
export const pdfAnswer = (name: string, pdf: Buffer): Response =>
  new Response(new Uint8Array(pdf), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": `inline; filename="${name}.pdf"` },
  });
