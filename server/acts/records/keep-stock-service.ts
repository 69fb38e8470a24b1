import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import { sql } from "../../db/open";
import { wrongAddress } from "../../jobs/ask-service";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, TickBox, text } from "../fields";

const KeepService = z.object({
  supplier: Id,
  address: text(300),
  /** A new one; left empty, the one that is kept stays. */
  token: text(500),
  /** Asks without a token from now on. */
  noToken: TickBox,
});

/** Where a supplier answers what they have; no address, and nobody asks them. The token is never shown nor told to the trail. */
export function keepStockService(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(KeepService, raw);
  if (!input.ok) return input;
  const { supplier, address, token, noToken } = input.value;
  const wrong = address ? wrongAddress(address) : null;
  if (wrong) return refuse("address", wrong);
  if (/[^\x21-\x7e]/.test(token))
    return refuse("token", "A token has no blanks, and only plain letters, digits and signs.");
  return once(desk, "keep sourcing", (tx) => {
    if (!sql(tx.db, "SELECT 1 FROM supplier WHERE id = ?").get(supplier))
      return refuse("", "There is no such supplier.");
    const before = sql<{ address: string; token: string }>(
      tx.db,
      "SELECT address, token FROM stock_service WHERE supplier = ?",
    ).get(supplier);
    if (!address) sql(tx.db, "DELETE FROM stock_service WHERE supplier = ?").run(supplier);
    else {
      // A token is for the place that it was given for.
      const stays = before && new URL(before.address).origin === new URL(address).origin ? before.token : "";
      sql(
        tx.db,
        "INSERT INTO stock_service (supplier, address, token) VALUES (@supplier, @address, @token) ON CONFLICT (supplier) DO UPDATE SET address = @address, token = @token",
      ).run({ supplier, address, token: noToken ? "" : token || stays });
    }
    tx.record("supplier.stock-service", `supplier ${supplier}`, {
      before: before?.address ?? null,
      after: address || null,
    });
    return done({ supplier });
  });
}
