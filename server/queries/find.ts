import type { SupplierId } from "../../core/ids";
import { may } from "../../core/people/roles";
import type { Person } from "../acts/desk";
import { type Db, sql } from "../db/open";

export interface Found {
  kind: string;
  code: string;
  name: string;
  href: string;
  id: number;
  unit?: string;
  about?: string;
}

/** Text for LIKE, in which nothing that was typed is a wildcard. */
export const escaped = (text: string) => text.replace(/[\\%_]/g, (c) => `\\${c}`);

/** Items by our code, name, GTIN or a supplier's code; what begins with the text comes first. */
export function findItems(db: Db, text: string, most = 8): Found[] {
  const t = escaped(text);
  return sql<{ id: number; code: string; name: string; unit: string; kind: string }>(
    db,
    `SELECT i.id, i.code, i.name, u.name AS unit, i.kind FROM item i JOIN unit u ON u.code = i.unit
     WHERE i.active = 1 AND (i.code LIKE @begins ESCAPE '\\' OR i.name LIKE @within ESCAPE '\\' OR i.gtin = @text
       OR i.id IN (SELECT item FROM sourcing WHERE their_code LIKE @begins ESCAPE '\\'))
     ORDER BY (i.code LIKE @begins ESCAPE '\\') DESC, (i.name LIKE @begins ESCAPE '\\') DESC, i.name LIMIT @most`,
  )
    .all({ begins: `${t}%`, within: `%${t}%`, text, most })
    .map((i) => ({
      kind: "item",
      code: i.code,
      name: i.name,
      href: `/items/${i.id}`,
      id: i.id,
      unit: i.unit,
      about: i.kind === "stocked" ? i.unit : i.kind,
    }));
}

/** Whatever this person may open, by number, code or name. */
export function findAll(db: Db, person: Person, text: string): Found[] {
  const { roles } = person;
  const begins = `${escaped(text)}%`;
  const within = `%${escaped(text)}%`;
  const found: Found[] = [];
  if (may(roles, "see orders")) {
    const orders = sql<{ id: number; number: string; supplier: string; state: string }>(
      db,
      `SELECT o.id, o.number, s.name AS supplier, o.state FROM purchase_order o JOIN supplier s ON s.id = o.supplier
       WHERE o.number LIKE ? ESCAPE '\\' ORDER BY o.id DESC LIMIT 6`,
    ).all(begins);
    for (const o of orders)
      found.push({
        kind: `order, ${o.state.toLowerCase()}`,
        code: o.number,
        name: o.supplier,
        href: `/orders/${o.id}`,
        id: o.id,
      });
  }
  if (may(roles, "ask") || may(roles, "see all requisitions")) {
    const all = may(roles, "see all requisitions") ? 1 : 0;
    const papers = sql<{ id: number; number: string; reason: string; state: string }>(
      db,
      `SELECT id, number, reason, state FROM requisition WHERE (number LIKE ? ESCAPE '\\' OR reason LIKE ? ESCAPE '\\') AND (asker = ? OR (? AND state <> 'Draft'))
       ORDER BY id DESC LIMIT 6`,
    ).all(begins, within, person.id, all);
    for (const r of papers)
      found.push({
        kind: `requisition, ${r.state.toLowerCase()}`,
        code: r.number ?? "draft",
        name: r.reason,
        href: `/requisitions/${r.id}`,
        id: r.id,
      });
  }
  if (may(roles, "see dock") && !may(roles, "see orders")) {
    const loads = sql<{ id: number; number: string; supplier: string }>(
      db,
      `SELECT o.id, o.number, s.name AS supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier
       WHERE o.number LIKE ? ESCAPE '\\' AND o.stage = 'placed' AND o.kind <> 'blanket' AND (? IS NULL OR o.store = ?) ORDER BY o.id DESC LIMIT 6`,
    ).all(begins, person.store, person.store);
    for (const o of loads)
      found.push({ kind: "load", code: o.number, name: o.supplier, href: `/dock/${o.id}`, id: o.id });
  }
  if (may(roles, "see dock")) {
    const receipts = sql<{ id: number; number: string; supplier: string }>(
      db,
      `SELECT r.id, r.number, s.name AS supplier FROM receipt r JOIN purchase_order o ON o.id = r.purchase_order JOIN supplier s ON s.id = o.supplier
       WHERE r.number LIKE ? ESCAPE '\\' OR r.delivery_note LIKE ? ESCAPE '\\' ORDER BY r.id DESC LIMIT 4`,
    ).all(begins, begins);
    for (const r of receipts)
      found.push({ kind: "receipt", code: r.number, name: r.supplier, href: `/receipts/${r.id}`, id: r.id });
  }
  found.push(...findItems(db, text));
  if (may(roles, "see suppliers")) {
    const suppliers = sql<{ id: SupplierId; code: string; name: string }>(
      db,
      "SELECT id, code, name FROM supplier WHERE active = 1 AND (code LIKE ? ESCAPE '\\' OR name LIKE ? ESCAPE '\\') ORDER BY name LIMIT 5",
    ).all(begins, within);
    for (const s of suppliers)
      found.push({ kind: "supplier", code: s.code, name: s.name, href: `/suppliers/${s.id}`, id: s.id });
  }
  return found;
}
