import { z } from "zod";
import { parseDecimal } from "../../../core/numbers/decimal";
import { CODE_KINDS, LABEL_FIELDS, LABEL_KINDS, type LabelLayout, sheetFault } from "../../../core/stock/label";
import { sql } from "../../db/open";
import { readLabelLayout } from "../../queries/stock/label-layouts";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, orNone, TickBox, text, Version, Whole } from "../fields";

/** Millimetres as typed, with one place; kept in tenths. */
const Millimetres = (least: number, most: number) =>
  z
    .string("A number is missing.")
    .max(12)
    .transform((s, ctx): number => {
      const parsed = parseDecimal(s, 1);
      if (parsed.ok && parsed.value >= least * 10 && parsed.value <= most * 10) return parsed.value;
      ctx.addIssue({ code: "custom", message: parsed.ok ? `From ${least} to ${most} mm.` : parsed.says });
      return z.NEVER;
    });

const Field = z.object({ field: z.enum(LABEL_FIELDS), size: Whole(4, 72), bold: TickBox });

export const LabelFields = z.object({
  kind: z.enum(LABEL_KINDS, "Choose what the label is for."),
  width: Millimetres(10, 210),
  height: Millimetres(8, 297),
  code: z.enum(CODE_KINDS, "Choose what is scanned."),
  fields: z.array(Field).max(LABEL_FIELDS.length, "Each field stands on a label once."),
  /** Sheets of labels; else a roll. */
  sheet: z
    .object({
      width: Millimetres(50, 330),
      height: Millimetres(50, 490),
      left: Millimetres(0, 100),
      top: Millimetres(0, 100),
      columns: Whole(1, 20),
      rows: Whole(1, 60),
      gapX: Millimetres(0, 50),
      gapY: Millimetres(0, 50),
    })
    .nullable()
    .default(null),
});

/** A layout as it is typed, checked as a whole. */
export function checkedLayout(raw: unknown): Done<LabelLayout> {
  const input = checked(LabelFields, raw);
  if (!input.ok) return input;
  const { fields, code } = input.value;
  if (new Set(fields.map((f) => f.field)).size < fields.length)
    return refuse("fields", "Each field stands on a label once.");
  if (fields.length === 0 && code === "none") return refuse("fields", "Nothing would stand on it.");
  const fault = sheetFault(input.value);
  return fault ? refuse("sheet", fault) : input;
}

export const KeepLabel = z.object({
  layout: orNone(Id).default(null),
  version: Version.default(0),
  name: text(60, 2, "A layout needs a name."),
});

/** Makes a layout of labels, or changes one. */
export function keepLabel(desk: Desk, raw: unknown): Done<{ layout: number }> {
  const input = checked(KeepLabel, raw);
  if (!input.ok) return input;
  const look = checkedLayout(raw);
  if (!look.ok) return look;
  const { layout: id, version, name } = input.value;
  const { kind, ...layout } = look.value;
  return once(desk, "keep labels", (tx) => {
    const twin = sql<{ id: number }>(tx.db, "SELECT id FROM label_layout WHERE name = ?").get(name);
    if (twin && twin.id !== id) return refuse("name", "Another layout has this name.");
    const before = id === null ? null : readLabelLayout(tx.db, id);
    if (id !== null && !before) return refuse("", "There is no such layout any more.");
    if (before && before.version !== version)
      return stale("Somebody else changed this layout meanwhile. Load the page again.");
    const json = JSON.stringify(layout);
    const kept =
      id ??
      Number(
        sql(tx.db, "INSERT INTO label_layout (name, kind, layout) VALUES (?, ?, ?)").run(name, kind, json)
          .lastInsertRowid,
      );
    if (id !== null)
      sql(tx.db, "UPDATE label_layout SET name = ?, kind = ?, layout = ?, version = version + 1 WHERE id = ?").run(
        name,
        kind,
        json,
        id,
      );
    tx.record("label.kept", `label layout ${kept}`, { before, name, kind, layout });
    return done({ layout: kept });
  });
}

/** Takes a layout away. */
export function dropLabel(desk: Desk, raw: unknown): Done<{ dropped: true }> {
  const input = checked(z.object({ layout: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "keep labels", (tx) => {
    const before = readLabelLayout(tx.db, input.value.layout);
    if (!before) return refuse("", "There is no such layout any more.");
    sql(tx.db, "DELETE FROM label_layout WHERE id = ?").run(before.id);
    tx.record("label.dropped", `label layout ${before.id}`, { before });
    return done({ dropped: true });
  });
}
