import { type Done, done, refuse } from "../desk";

const MOST = 10_000_000;
/** What may be attached, told by the first bytes and not by the name; a browser never runs any of it, only saves it. */
const KINDS: { type: string; ends: RegExp; begins: number[] | null }[] = [
  { type: "application/pdf", ends: /\.pdf$/i, begins: [0x25, 0x50, 0x44, 0x46] },
  { type: "image/png", ends: /\.png$/i, begins: [0x89, 0x50, 0x4e, 0x47] },
  { type: "image/jpeg", ends: /\.jpe?g$/i, begins: [0xff, 0xd8, 0xff] },
  { type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", ends: /\.xlsx$/i, begins: [0x50, 0x4b] },
  {
    type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
    ends: /\.docx$/i,
    begins: [0x50, 0x4b],
  },
  { type: "text/csv", ends: /\.csv$/i, begins: null },
  { type: "text/plain", ends: /\.txt$/i, begins: null },
];

export interface AcceptedFile {
  name: string;
  type: string;
  bytes: Buffer;
}

/** A file that may be kept with a paper, under a name that no system trips over; or why not. */
export function acceptFile(name: string, bytes: Uint8Array): Done<AcceptedFile> {
  const kind = KINDS.find((k) => k.ends.test(name) && (k.begins === null || k.begins.every((b, i) => bytes[i] === b)));
  if (bytes.length === 0) return refuse("file", "This file is empty.");
  if (bytes.length > MOST) return refuse("file", "At most 10 MB. Make it smaller, or say where it lies.");
  if (!kind) return refuse("file", "A PDF, a picture (PNG, JPEG), a spreadsheet, a text document or a CSV file.");
  const safe = name
    .replace(/^.*[\\/]/, "")
    .replace(/[^\p{L}\p{N} ._()-]/gu, "_")
    .slice(-120);
  return done({ name: safe, type: kind.type, bytes: Buffer.from(bytes) });
}
