import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import {
  LANGUAGE_CODES,
  PAPER_COLUMN_NAMES,
  PAPER_KINDS,
  PAPER_TEXTS,
  unknownPlaceholders,
} from "../../../core/orders/papers";
import { usualTexts } from "../../../exchange/pdf/paper-words";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id, orNone, text } from "../fields";

const Kind = z.enum(PAPER_KINDS, "There is no such kind of paper.");
const Language = z.enum(LANGUAGE_CODES, "Papers are not written in this language.");

export const KeepPaper = z.object({
  kind: Kind,
  language: Language,
  columns: z.array(z.enum(PAPER_COLUMN_NAMES, "There is no such column.")).max(20),
  prices: z.boolean(),
  above: text(1000),
  below: text(2000),
  foot: text(300),
  subject: text(150, 3, "An e-mail needs a subject."),
  message: text(4000, 10, "An e-mail needs a text."),
});

/** What is wrong with the placeholders of the texts. */
export function placeholderProblems(texts: Partial<Record<(typeof PAPER_TEXTS)[number], string>>): Problem[] {
  return PAPER_TEXTS.flatMap((field) => {
    const unknown = unknownPlaceholders(texts[field] ?? "");
    return unknown.length
      ? [{ field, says: `${unknown.map((u) => `{${u}}`).join(", ")} stands for nothing. Choose from the list beside.` }]
      : [];
  });
}

/** Keeps how a kind of paper looks, and its texts in one language. */
export function keepPaper(desk: Desk, raw: unknown): Done<{ kept: true }> {
  const input = checked(KeepPaper, raw);
  if (!input.ok) return input;
  const v = input.value;
  const problems = placeholderProblems(v);
  if (problems.length) return refuseAll(problems);
  return once(desk, "keep papers", (tx) => {
    sql(
      tx.db,
      "INSERT INTO paper_layout (kind, columns, prices) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET columns = excluded.columns, prices = excluded.prices",
    ).run(v.kind, JSON.stringify(PAPER_COLUMN_NAMES.filter((c) => v.columns.includes(c))), v.prices ? 1 : 0);
    const usual = usualTexts(v.kind, v.language);
    // What says the same as the usual texts follows them, so that it is no text of the company's own.
    if (PAPER_TEXTS.every((t) => v[t] === usual[t]))
      sql(tx.db, "DELETE FROM paper_text WHERE kind = ? AND language = ?").run(v.kind, v.language);
    else
      sql(
        tx.db,
        `INSERT INTO paper_text (kind, language, above, below, foot, subject, message) VALUES (?, ?, ?, ?, ?, ?, ?)
         ON CONFLICT DO UPDATE SET above = excluded.above, below = excluded.below, foot = excluded.foot, subject = excluded.subject, message = excluded.message`,
      ).run(v.kind, v.language, v.above, v.below, v.foot, v.subject, v.message);
    tx.record("paper.kept", `paper ${v.kind}`, v);
    return done({ kept: true });
  });
}

const MOST_BYTES = 1_000_000;
const MOST_PIXELS = 4_000_000;

/** What kind of picture the bytes are, decoded to the last row; null where they are none that prints. */
export function pictureType(bytes: Uint8Array): "image/png" | "image/jpeg" | null {
  const buffer = Buffer.from(bytes);
  try {
    if (buffer.subarray(1, 4).toString("latin1") === "PNG") {
      // The size stands in the first chunk: a small file can unfold to a huge picture.
      if (buffer.readUInt32BE(16) * buffer.readUInt32BE(20) > MOST_PIXELS) return null;
      PNG.sync.read(buffer, { checkCRC: true });
      return "image/png";
    }
    jpeg.decode(buffer, { maxResolutionInMP: MOST_PIXELS / 1e6, maxMemoryUsageInMB: 128, tolerantDecoding: false });
    return "image/jpeg";
  } catch {
    return null;
  }
}

/** Puts the company's own picture onto all papers from now on. */
export function keepLogo(desk: Desk, bytes: Uint8Array): Done<{ logo: number }> {
  if (bytes.length === 0) return refuse("logo", "Choose a picture.");
  if (bytes.length > MOST_BYTES) return refuse("logo", "At most 1 MB: a logo of 600 pixels across prints well.");
  const type = pictureType(bytes);
  if (!type)
    return refuse("logo", "This is no PNG or JPEG picture that can be printed, of at most 2000 by 2000 pixels.");
  return once(desk, "keep papers", (tx) => {
    const id = Number(
      sql(tx.db, "INSERT INTO logo (type, bytes, person, at) VALUES (?, ?, ?, ?)").run(
        type,
        Buffer.from(bytes),
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    sql(tx.db, "UPDATE company SET logo = ?").run(id);
    tx.record("logo.kept", "company", { logo: id, type, size: bytes.length });
    return done({ logo: id });
  });
}

/** Papers go out without a picture again. */
export function dropLogo(desk: Desk): Done<{ logo: null }> {
  return once(desk, "keep papers", (tx) => {
    sql(tx.db, "UPDATE company SET logo = NULL").run();
    tx.record("logo.taken-off", "company", {});
    return done({ logo: null });
  });
}

const KeepText = z.object({
  text: text(2000, 3, "What should stand there?"),
  kind: orNone(Kind),
  supplier: orNone(Id),
  language: orNone(Language).optional(),
});

/** A text that stands on every order, or on those of a kind, to a supplier, or to whoever is written to in a language. */
export function addStandingText(desk: Desk, raw: unknown): Done<{ id: number }> {
  const input = checked(KeepText, raw);
  if (!input.ok) return input;
  const v = { ...input.value, language: input.value.language ?? null };
  return once(desk, "keep papers", (tx) => {
    if (v.supplier && !sql(tx.db, "SELECT 1 FROM supplier WHERE id = ?").get(v.supplier))
      return refuse("supplier", "There is no such supplier.");
    const same = sql(
      tx.db,
      "SELECT 1 FROM standing_text WHERE kind IS @kind AND supplier IS @supplier AND language IS @language AND text = @text",
    ).get(v);
    if (same) return refuse("text", "This stands there already.");
    const { lastInsertRowid } = sql(
      tx.db,
      "INSERT INTO standing_text (kind, supplier, language, text) VALUES (@kind, @supplier, @language, @text)",
    ).run(v);
    tx.record("standing-text.added", `standing text ${lastInsertRowid}`, v);
    return done({ id: Number(lastInsertRowid) });
  });
}

/** Takes a standing text away; orders that were placed keep it. */
export function dropStandingText(desk: Desk, raw: unknown): Done<{ gone: true }> {
  const input = checked(z.object({ id: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "keep papers", (tx) => {
    const row = sql<{ text: string; kind: string | null; supplier: SupplierId | null; language: string | null }>(
      tx.db,
      "DELETE FROM standing_text WHERE id = ? RETURNING text, kind, supplier, language",
    ).get(input.value.id);
    if (!row) return refuse("", "This text is gone already.");
    tx.record("standing-text.dropped", `standing text ${input.value.id}`, row);
    return done({ gone: true });
  });
}
