import { inflateSync } from "node:zlib";

/**
 * A WOFF 1.0 file as the plain font that is in it (W3C WOFF 1.0, §3 and §4). Readers of fonts unpack WOFF on their own, but
 * in script and again for every paper: most of the time of a short one went there.
 */
export function plainFont(woff: Buffer): Buffer {
  const tables = woff.readUInt16BE(12);
  const power = Math.floor(Math.log2(tables));
  const head = Buffer.alloc(12 + 16 * tables);
  head.writeUInt32BE(woff.readUInt32BE(4), 0); // the flavour of the font
  head.writeUInt16BE(tables, 4);
  head.writeUInt16BE(16 * 2 ** power, 6);
  head.writeUInt16BE(power, 8);
  head.writeUInt16BE(16 * tables - 16 * 2 ** power, 10);
  const parts: Buffer[] = [head];
  let at = head.length;
  for (let i = 0; i < tables; i++) {
    const entry = 44 + 20 * i;
    const offset = woff.readUInt32BE(entry + 4);
    const packed = woff.readUInt32BE(entry + 8);
    const length = woff.readUInt32BE(entry + 12);
    const stored = woff.subarray(offset, offset + packed);
    const table = packed < length ? inflateSync(stored) : stored;
    woff.copy(head, 12 + 16 * i, entry, entry + 4); // its tag
    head.writeUInt32BE(woff.readUInt32BE(entry + 16), 16 + 16 * i); // its checksum
    head.writeUInt32BE(at, 20 + 16 * i);
    head.writeUInt32BE(length, 24 + 16 * i);
    const padded = Buffer.alloc(Math.ceil(length / 4) * 4);
    table.copy(padded);
    parts.push(padded);
    at += padded.length;
  }
  return Buffer.concat(parts);
}
