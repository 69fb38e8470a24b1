import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import type { Act } from "../../../core/people/roles";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, text } from "../fields";

export interface View {
  id: number;
  name: string;
  address: string;
}
const SHEETS = ["needs", "review", "orders", "insight"] as const;
type SheetName = (typeof SHEETS)[number];
/** Whoever sees a sheet may keep ways to look at it. */
const SEES = {
  needs: "see needs",
  review: "see needs",
  orders: "see orders",
  insight: "see insight",
} as const satisfies Record<SheetName, Act>;

export const readViews = (db: Db, person: PersonId, sheet: SheetName): View[] =>
  sql<View>(db, "SELECT id, name, address FROM sheet_view WHERE person = ? AND sheet = ? ORDER BY name").all(
    person,
    sheet,
  );

/** Keeps how a sheet stands under a name: filters, grouping, order and columns. The same name again replaces it. */
export function keepView(desk: Desk, raw: unknown): Done<{ view: number }> {
  const input = checked(
    z.object({ sheet: z.enum(SHEETS), name: text(40, 1, "Give the view a name."), address: z.string().max(3000) }),
    raw,
  );
  if (!input.ok) return input;
  const { sheet, name, address } = input.value;
  return once(desk, SEES[sheet], (tx) => {
    const { view } = sql<{ view: number }>(
      tx.db,
      `INSERT INTO sheet_view (person, sheet, name, address) VALUES (?, ?, ?, ?)
       ON CONFLICT (person, sheet, name) DO UPDATE SET address = excluded.address RETURNING id AS view`,
    ).get(desk.person.id, sheet, name, address)!;
    tx.record("view.kept", `person ${desk.person.id}`, { sheet, name, address });
    return done({ view });
  });
}

export function dropView(desk: Desk, raw: unknown): Done<{ view: number }> {
  const input = checked(z.object({ view: Id }), raw);
  if (!input.ok) return input;
  const of = sql<{ sheet: SheetName }>(desk.db, "SELECT sheet FROM sheet_view WHERE id = ?").get(input.value.view);
  return once(desk, SEES[of?.sheet ?? "needs"], (tx) => {
    const row = sql<{ name: string }>(tx.db, "DELETE FROM sheet_view WHERE id = ? AND person = ? RETURNING name").get(
      input.value.view,
      desk.person.id,
    );
    if (!row) return refuse("", "This view is gone already.");
    tx.record("view.dropped", `person ${desk.person.id}`, row);
    return done({ view: input.value.view });
  });
}
