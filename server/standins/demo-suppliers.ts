import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import type { Day } from "../../core/calendar/day";
import { type Db, sql } from "../db/open";
import { standInBank } from "./bank";
import { SupplierBook, standInSuppliers } from "./supplier";
import { supplierAnswers } from "./supplier-answers";

/** The file beside the demo company that says what its suppliers have. */
export const SUPPLIER_BOOK = "suppliers.json";

interface DemoSuppliers {
  close: () => Promise<void>;
}

/**
 * Opens the stand-ins of the demo: suppliers who answer what they have, at a free port of this machine, to which the demo's
 * records are pointed, and who answer the orders that they get from now on through the inbox; and a bank that executes what
 * is laid into its folder. Null where there is no book.
 */
export async function openDemoSuppliers(db: Db, folder: string, today: () => Day): Promise<DemoSuppliers | null> {
  const file = join(folder, SUPPLIER_BOOK);
  if (!existsSync(file)) return null;
  const book = SupplierBook.parse(JSON.parse(readFileSync(file, "utf8")));
  const { origin, close } = await standInSuppliers(book, today);
  const point = sql(
    db,
    "UPDATE stock_service SET address = @to WHERE address GLOB 'http://127.0.0.1:*/stock/*' AND supplier = (SELECT id FROM supplier WHERE code = @code)",
  );
  for (const { code } of book.suppliers) point.run({ code, to: `${origin}/stock/${code}` });
  const answer = supplierAnswers(book, {
    outbox: join(folder, "outbox"),
    inbox: join(folder, "inbox"),
    since: Date.now(),
  });
  const bank = standInBank({ from: join(folder, "bank"), inbox: join(folder, "inbox") });
  const desk = setInterval(() => {
    answer(Date.now(), today());
    bank(new Date().toISOString(), today());
  }, 5_000);
  desk.unref();
  return {
    close: async () => {
      clearInterval(desk);
      await close();
    },
  };
}
