import { z } from "zod";
import { CODE_KINDS, LABEL_FIELDS, LABEL_KINDS, type LabelKind, type LabelLayout } from "../../../core/stock/label";
import { readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";

const whole = z.number().int().nonnegative();

/** How a layout is kept. */
const LayoutColumn = z.object({
  width: whole,
  height: whole,
  code: z.enum(CODE_KINDS),
  fields: z.array(z.object({ field: z.enum(LABEL_FIELDS), size: z.number(), bold: z.boolean() })),
  sheet: z
    .object({
      width: whole,
      height: whole,
      left: whole,
      top: whole,
      columns: whole,
      rows: whole,
      gapX: whole,
      gapY: whole,
    })
    .nullable(),
});

/** A layout of the house's own, with its name. */
export interface LabelLayoutRow {
  id: number;
  name: string;
  version: number;
  layout: LabelLayout;
}

const ROWS = "SELECT id, name, kind, layout, version FROM label_layout";
interface Kept {
  id: number;
  name: string;
  kind: LabelKind;
  layout: string;
  version: number;
}
const opened = ({ id, name, kind, layout, version }: Kept): LabelLayoutRow => ({
  id,
  name,
  version,
  layout: { kind, ...readColumn(LayoutColumn, layout) },
});

/** All layouts, by what they are for. */
export const readLabelLayouts = (db: Db): LabelLayoutRow[] =>
  sql<Kept>(db, `${ROWS} ORDER BY name`)
    .all()
    .map(opened)
    .sort((a, b) => LABEL_KINDS.indexOf(a.layout.kind) - LABEL_KINDS.indexOf(b.layout.kind));

export function readLabelLayout(db: Db, id: number): LabelLayoutRow | null {
  const found = sql<Kept>(db, `${ROWS} WHERE id = ?`).get(id);
  return found ? opened(found) : null;
}
