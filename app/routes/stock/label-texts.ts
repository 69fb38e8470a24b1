import { LABEL_FIELDS, type LabelField, type LabelLayout } from "../../../core/stock/label";

/** A layout as it is typed: figures are texts, and each field says whether it stands on the label. */
export interface LabelTexts {
  kind: string;
  width: string;
  height: string;
  code: string;
  fields: readonly { field: LabelField; on: boolean; size: string; bold: boolean }[];
  roll: boolean;
  sheet: Record<"width" | "height" | "left" | "top" | "columns" | "rows" | "gapX" | "gapY", string>;
}

const mm = (tenths: number) => String(tenths / 10);
const A4 = { width: 2100, height: 2970, left: 0, top: 0, columns: 3, rows: 8, gapX: 0, gapY: 0 };

/** What is kept, as it is typed: what stands on the label first, in its order. */
export function labelTexts(l: LabelLayout): LabelTexts {
  const on = l.fields.map((f) => ({ field: f.field, on: true, size: String(f.size), bold: f.bold }));
  const off = LABEL_FIELDS.filter((f) => !on.some((o) => o.field === f)).map((field) => ({
    field,
    on: false,
    size: "8",
    bold: false,
  }));
  const s = l.sheet ?? A4;
  return {
    kind: l.kind,
    width: mm(l.width),
    height: mm(l.height),
    code: l.code,
    fields: [...on, ...off],
    roll: l.sheet === null,
    sheet: {
      width: mm(s.width),
      height: mm(s.height),
      left: mm(s.left),
      top: mm(s.top),
      columns: String(s.columns),
      rows: String(s.rows),
      gapX: mm(s.gapX),
      gapY: mm(s.gapY),
    },
  };
}

/** What is sent of it. */
export const sentLabel = (t: LabelTexts) => ({
  kind: t.kind,
  width: t.width,
  height: t.height,
  code: t.code,
  fields: t.fields.filter((f) => f.on).map(({ field, size, bold }) => ({ field, size, bold })),
  sheet: t.roll ? null : t.sheet,
});

/** A field one place up or down. */
export function movedField(t: LabelTexts, index: number, by: -1 | 1): LabelTexts {
  const fields = [...t.fields];
  const [field] = fields.splice(index, 1);
  if (!field) return t;
  fields.splice(Math.max(0, Math.min(fields.length, index + by)), 0, field);
  return { ...t, fields };
}

/** A layout to begin with. */
export const NEW_LABEL: LabelLayout = {
  kind: "item",
  width: 700,
  height: 370,
  code: "bar code",
  fields: [
    { field: "name", size: 9, bold: true },
    { field: "code", size: 8, bold: false },
  ],
  sheet: null,
};
