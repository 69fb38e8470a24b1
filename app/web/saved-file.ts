import { notFound } from "./page";

/** A file that was attached, for the browser to save: it never runs or shows it. */
export function savedFile(file: { name: string; type: string; bytes: Buffer } | undefined): Response {
  if (!file) throw notFound("There is no such file.");
  return new Response(new Uint8Array(file.bytes), {
    headers: {
      "Content-Type": file.type,
      "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      "X-Content-Type-Options": "nosniff",
    },
  });
}
