import { createHash } from "node:crypto";
import { Big, roundToInteger } from "../core/numbers/decimal";
import { netPrice, priceText, unitPrice } from "../core/numbers/money";
import { type Db, sql } from "../server/db/open";
import type { SupplierBook } from "../server/standins/supplier";

type Simulated = SupplierBook["suppliers"][number];

/** Suppliers of the demo whose systems can be asked: one that is well, one that counts its stock now and then, one that is slow. */
const ANSWERING: Record<
  string,
  Pick<Simulated, "delayMs" | "failsEvery" | "hangsEvery" | "answersAfter" | "depots">
> = {
  TTL: {
    delayMs: 300,
    failsEvery: 0,
    hangsEvery: 0,
    answersAfter: 60,
    depots: [
      { depot: "KEL", name: "Kelpholm depot", days: 2 },
      { depot: "MAIN", name: "Tallow Mill", days: 6 },
    ],
  },
  QUO: {
    delayMs: 150,
    failsEvery: 3,
    hangsEvery: 0,
    answersAfter: null,
    depots: [{ depot: "Q1", name: "Quillmere", days: 4 }],
  },
  FES: {
    delayMs: 900,
    failsEvery: 0,
    hangsEvery: 2,
    answersAfter: 120,
    depots: [
      { depot: "E", name: "East hall", days: 9 },
      { depot: "A", name: "Airfreight desk", days: 3 },
    ],
  },
};

const tokenOf = (code: string) => `demo-${code.toLowerCase()}-token`;

/** Their records say where they are asked; the port is set when the demo opens. */
export function askable(db: Db): void {
  for (const code of Object.keys(ANSWERING))
    sql(db, "INSERT INTO stock_service (supplier, address, token) SELECT id, ?, ? FROM supplier WHERE code = ?").run(
      `http://127.0.0.1:1/stock/${code}`,
      tokenOf(code),
      code,
    );
}

/** What these suppliers have and ask for it: near their price lists, by chance of each article's own code. */
export const supplierBook = (db: Db): SupplierBook => ({
  suppliers: Object.entries(ANSWERING).map(([code, how]) => ({
    code,
    token: tokenOf(code),
    currency: sql<{ currency: string }>(db, "SELECT currency FROM supplier WHERE code = ?").get(code)!.currency,
    mail: sql<{ mail: string }>(
      db,
      "SELECT c.mail FROM supplier_contact c JOIN supplier s ON s.id = c.supplier WHERE s.code = ? AND c.for_orders = 1 ORDER BY c.id LIMIT 1",
    ).get(code)!.mail,
    ...how,
    articles: Object.fromEntries(articlesOf(db, code, how.depots)),
  })),
});

function articlesOf(db: Db, code: string, depots: Simulated["depots"]): [string, Simulated["articles"][string]][] {
  const sold = sql<{ theirs: string; standing: number; price: number }>(
    db,
    `SELECT c.their_code AS theirs, c.standing_discount AS standing, (SELECT p.price FROM price_break p WHERE p.sourcing = c.id ORDER BY p.from_quantity, p.valid_from DESC LIMIT 1) AS price
     FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE s.code = ? AND c.their_code <> '' ORDER BY c.their_code`,
  ).all(code);
  return sold
    .filter((s) => s.price !== null)
    .map(({ theirs, standing, price }) => {
      const dice = createHash("sha256").update(`${code}/${theirs}`).digest();
      const part = new Big(96 + (dice[0]! % 6)).div(100);
      const net = netPrice(unitPrice(price), standing, 0).times(part).times(100);
      return [
        theirs,
        {
          price: priceText(roundToInteger(net) * 10_000),
          stock: Object.fromEntries(depots.map((d, i) => [d.depot, String(i === 0 ? dice[1]! % 30 : dice[2]! % 80)])),
          next: { quantity: String(10 + (dice[3]! % 40)), days: depots[0]!.days + 7 },
        },
      ];
    });
}
