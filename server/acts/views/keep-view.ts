import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import type { Act } from "../../../core/people/roles";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, TickBox, text } from "../fields";

export const MAILED_EVERY = ["week", "month"] as const;
export type MailedEvery = (typeof MAILED_EVERY)[number];

export interface View {
  id: number;
  name: string;
  address: string;
  /** Whose it is, where it is somebody else's who shares it; null: one's own. */
  by: string | null;
  shared: boolean;
  /** How often it goes to its owner by e-mail. */
  mails: MailedEvery | null;
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

/** A person's own ways to look at a sheet, and those that others share. */
export const readViews = (db: Db, person: PersonId, sheet: SheetName): View[] =>
  sql<Omit<View, "shared"> & { shared: 0 | 1 }>(
    db,
    `SELECT v.id, v.name, v.address, iif(v.person = @person, NULL, p.name) AS "by", v.shared, iif(v.person = @person, v.mails, NULL) AS mails
     FROM sheet_view v JOIN person p ON p.id = v.person WHERE v.sheet = @sheet AND (v.person = @person OR v.shared = 1) ORDER BY v.person <> @person, v.name`,
  )
    .all({ person, sheet })
    .map((v) => ({ ...v, shared: v.shared === 1 }));

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

/** Shares a view with everybody who sees its sheet, or keeps it to oneself again. */
export function shareView(desk: Desk, raw: unknown): Done<{ view: number }> {
  const input = checked(z.object({ view: Id, shared: TickBox }), raw);
  if (!input.ok) return input;
  const { view, shared } = input.value;
  return changed(desk, view, null, (tx) => {
    sql(tx.db, "UPDATE sheet_view SET shared = ? WHERE id = ?").run(shared ? 1 : 0, view);
    return { what: shared ? "view.shared" : "view.kept to oneself" };
  });
}

/** Has a breakdown sent to its owner each Monday or on the first of each month; or not any more. */
export function mailView(desk: Desk, raw: unknown): Done<{ view: number }> {
  const input = checked(
    z.object({ view: Id, every: z.enum(["", ...MAILED_EVERY], "Each week, each month, or not.") }),
    raw,
  );
  if (!input.ok) return input;
  const { view, every } = input.value;
  if (every && !sql<{ mail: string }>(desk.db, "SELECT mail FROM person WHERE id = ?").get(desk.person.id)?.mail)
    return refuse("", "You have no e-mail address here. An administrator can add it.");
  return changed(desk, view, "insight", (tx) => {
    // What is asked for today is sent for the first time when the next week or month begins.
    sql(tx.db, "UPDATE sheet_view SET mails = ?, mailed = ? WHERE id = ?").run(
      every || null,
      every ? desk.day : null,
      view,
    );
    return { what: "view.mailed", every };
  });
}

/** Changes a view of one's own, of a sheet that one sees. */
function changed(
  desk: Desk,
  view: number,
  only: SheetName | null,
  change: (tx: Parameters<Parameters<typeof once>[2]>[0]) => { what: string; every?: string },
): Done<{ view: number }> {
  const of = sql<{ sheet: SheetName; name: string }>(
    desk.db,
    "SELECT sheet, name FROM sheet_view WHERE id = ? AND person = ?",
  ).get(view, desk.person.id);
  if (!of || (only && of.sheet !== only)) return refuse("", "This view is gone already, or is not yours.");
  return once(desk, SEES[of.sheet], (tx) => {
    const { what, ...rest } = change(tx);
    tx.record(what, `person ${desk.person.id}`, { name: of.name, ...rest });
    return done({ view });
  });
}
