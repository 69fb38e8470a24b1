import { z } from "zod";
import type { StoreId, SupplierId } from "../../../core/ids";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, Region, TickBox, WeekdayList } from "../fields";

const Hour = z.string().transform((s, ctx): number | null => {
  if (s.trim() === "") return null;
  const hour = Number(s);
  if (/^\d{1,2}$/.test(s.trim()) && hour >= 1 && hour <= 23) return hour;
  ctx.addIssue({ code: "custom", message: "A full hour from 1 to 23." });
  return z.NEVER;
});

const SupplierDays = z.object({
  supplier: Id,
  delivers: WeekdayList,
  leadKind: z.enum(["calendar", "working"], "Choose calendar or working days."),
  region: Region,
  cutOff: Hour,
  buyer: orNone(Id),
});

/** When a supplier works and delivers, and who looks after them. */
export function keepSupplierDays(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(SupplierDays, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (
      v.buyer &&
      !sql(
        tx.db,
        "SELECT 1 FROM person p JOIN person_role r ON r.person = p.id WHERE p.id = ? AND p.active = 1 AND r.role IN ('buyer', 'purchasing lead')",
      ).get(v.buyer)
    )
      return refuse("buyer", "This person is not a buyer.");
    const before = sql(tx.db, "SELECT delivers, lead_kind, region, cut_off, buyer FROM supplier WHERE id = ?").get(
      v.supplier,
    );
    if (!before) return refuse("", "There is no such supplier.");
    sql(tx.db, "UPDATE supplier SET delivers = ?, lead_kind = ?, region = ?, cut_off = ?, buyer = ? WHERE id = ?").run(
      v.delivers,
      v.leadKind,
      v.region,
      v.cutOff,
      v.buyer,
      v.supplier,
    );
    tx.record("supplier.days-changed", `supplier ${v.supplier}`, { before, after: v });
    return done({ supplier: v.supplier });
  });
}

/** When a store takes goods in, and whether whoever counts them sees what is expected. */
export function keepStoreDays(desk: Desk, raw: unknown): Done<{ store: StoreId }> {
  const input = checked(z.object({ store: Id, receives: WeekdayList, region: Region, blind: TickBox }), raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep settings", (tx) => {
    const before = sql(tx.db, "SELECT receives, region, blind FROM store WHERE id = ?").get(v.store);
    if (!before) return refuse("", "There is no such store.");
    sql(tx.db, "UPDATE store SET receives = ?, region = ?, blind = ? WHERE id = ?").run(
      v.receives,
      v.region,
      v.blind ? 1 : 0,
      v.store,
    );
    tx.record("store.days-changed", `store ${v.store}`, { before, after: v });
    return done({ store: v.store });
  });
}
