import { Readable } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";

const TYPES = { csv: "text/csv; charset=utf-8", json: "application/json; charset=utf-8" };

/** A file that is given out part by part, under its name. */
export const fileAnswer = (
  parts: Iterable<string> | AsyncIterable<string>,
  kind: "csv" | "json",
  name: string,
): Response =>
  new Response(createReadableStreamFromReadable(Readable.from(parts, { objectMode: false })), {
    headers: { "Content-Type": TYPES[kind], "Content-Disposition": `attachment; filename="${name}.${kind}"` },
  });
