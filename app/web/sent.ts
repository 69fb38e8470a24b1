import { Readable } from "node:stream";
import busboy from "busboy";
import { isRecord } from "../../core/keys";

/** The most that somebody who is signed in sends at once: a file, and what stands beside it. */
export const MOST_SENT = 25_000_000;
/** The most that a form holds which anybody may send. */
export const MOST_OF_STRANGERS = 64_000;
const MOST_FIELDS = 5_000;
const MOST_FILES = 20;

/** A file that came with a form. */
export class Upload {
  constructor(
    readonly name: string,
    readonly bytes: Uint8Array<ArrayBuffer>,
  ) {}
  get size(): number {
    return this.bytes.length;
  }
}

/** What a form or a script sent: fields, with names that end in [] as lists, files, or JSON. */
export type Sent = Record<string, unknown>;

/** More was sent than is taken: it is not read to its end. */
export class TooLarge extends Error {}

/**
 * Reads a form or JSON, counting bytes as they come, whatever the request says of its length. Null where it is neither.
 * Of a field that came twice the first counts.
 */
export async function readSent(request: Request, most: number): Promise<Sent | null> {
  const type = request.headers.get("content-type") ?? "";
  if (!request.body || Number(request.headers.get("content-length") ?? 0) > most) {
    if (request.body) throw new TooLarge();
    return null;
  }
  if (type.startsWith("application/json")) return readObject(await readText(request.body, most));
  if (!/^(multipart\/form-data|application\/x-www-form-urlencoded)/i.test(type)) return null;
  return readForm(request.body, type, most);
}

/** The chunks of a body, counted. */
async function* counted(body: ReadableStream<Uint8Array>, most: number): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > most) throw new TooLarge();
    yield chunk;
  }
}

async function readText(body: ReadableStream<Uint8Array>, most: number): Promise<string> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of counted(body, most)) chunks.push(chunk);
  return Buffer.concat(chunks).toString("utf8");
}

function readObject(text: string): Sent | null {
  try {
    const read: unknown = JSON.parse(text);
    return isRecord(read) && !Array.isArray(read) ? read : null;
  } catch {
    return null;
  }
}

function readForm(body: ReadableStream<Uint8Array>, type: string, most: number): Promise<Sent | null> {
  return new Promise((resolve, reject) => {
    const fields = new Map<string, unknown>();
    const put = (name: string, value: unknown) => {
      const known = fields.get(name);
      if (!name.endsWith("[]")) fields.set(name, known ?? value);
      else if (Array.isArray(known)) known.push(value);
      else fields.set(name, [value]);
    };
    let parser: busboy.Busboy;
    try {
      parser = busboy({
        headers: { "content-type": type },
        defParamCharset: "utf8",
        limits: { fields: MOST_FIELDS, files: MOST_FILES, fieldSize: most, fieldNameSize: 200 },
      });
    } catch {
      resolve(null);
      return;
    }
    parser.on("field", put);
    parser.on("file", (name, stream, { filename }) => {
      const chunks: Buffer[] = [];
      stream.on("data", (chunk: Buffer) => chunks.push(chunk));
      stream.on("end", () => put(name, new Upload(filename ?? "", new Uint8Array(Buffer.concat(chunks)))));
    });
    for (const limit of ["fieldsLimit", "filesLimit", "partsLimit"] as const)
      parser.on(limit, () => reject(new TooLarge()));
    parser.on("error", () => resolve(null)); // it breaks off, or is no form
    parser.on("close", () => resolve(Object.fromEntries(fields)));
    const source = Readable.from(counted(body, most));
    source.on("error", (e) => {
      if (e instanceof TooLarge) reject(e);
      else resolve(null);
    });
    source.pipe(parser);
  });
}
