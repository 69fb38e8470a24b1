import Database from "better-sqlite3";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type House, openHouse } from "./house";

/** Where money is kept, but for what an asker types and is told of their own papers. */
const PRICES: Record<string, readonly string[]> = {
  price_break: ["price"],
  supplier: ["order_minimum", "freight", "freight_free_from"],
  order_line: ["price"],
  purchase_order: ["net", "home_net", "total", "freight", "home_freight"],
  quote_answer: ["price"],
};
const ALL: typeof PRICES = {
  ...PRICES,
  item: ["reference_cost"],
  requisition_line: ["estimate"],
  budget: ["amount"],
  signing: ["amount"],
};

/** Makes all money three times as much: the same house, in which only money is another. */
const dearer = (money: typeof PRICES, rules: boolean) => (file: string) => {
  const db = new Database(file);
  for (const [table, columns] of Object.entries(money))
    db.exec(`UPDATE ${table} SET ${columns.map((c) => `${c} = ${c} * 3`).join(", ")}`);
  if (rules) {
    for (const name of db
      .prepare("SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = 'rulebook'")
      .pluck()
      .all())
      db.exec(`DROP TRIGGER ${name}`);
    for (const { version, rules: text } of db
      .prepare<[], { version: number; rules: string }>("SELECT version, rules FROM rulebook")
      .all())
      db.prepare("UPDATE rulebook SET rules = ? WHERE version = ?").run(
        text.replace(/"upTo":(\d+)/g, (_, n) => `"upTo":${Number(n) * 3}`),
        version,
      );
  }
  db.close();
};

/** What somebody who may not see it could read money from: every address, with the ids that there are. */
function addresses(file: string): string[] {
  const db = new Database(file, { readonly: true });
  /** Some of each kind of paper, from the oldest to the newest. */
  const ids = (table: string, most = 16): number[] => {
    const all = db.prepare<[], number>(`SELECT id FROM ${table} ORDER BY id`).pluck().all();
    const step = Math.max(1, all.length / most);
    return all.filter((_, i) => Math.floor(i / step) !== Math.floor((i - 1) / step));
  };
  const each = (table: string, ...paths: string[]) =>
    ids(table).flatMap((id) => paths.map((p) => p.replace(":id", String(id))));
  const found = [
    ...[
      "today",
      "me",
      "counts",
      "requisitions",
      "requisitions/open-lines",
      "items",
      "find?q=oil",
      "find?q=26",
      "round",
      "round/known?store=1",
    ],
    ...[
      "transfers",
      "jobs",
      "dock",
      "needs",
      "orders",
      "bench",
      "sign-off",
      "budgets",
      "suppliers",
      "with-suppliers",
      "ladders",
    ],
    ...each("requisition", "requisitions/:id", "sign-off/requisition/:id/slip"),
    ...each(
      "purchase_order",
      "orders/:id",
      "orders/:id/look",
      "orders/:id/lines",
      "orders/:id/paper.pdf",
      "orders/:id/order.xml",
      "dock/:id",
      "sign-off/order/:id/slip",
    ),
    ...each("receipt", "receipts/:id"),
    ...each("transfer", "transfers/:id"),
    ...each("job", "jobs/:id"),
    ...each("item", "items/:id", "items/:id/movements", "items/slip?id=:id", "items/:id/suppliers-to-add"),
  ];
  db.close();
  return found;
}

async function read(page: Page, house: House, path: string): Promise<{ status: number; text: string }> {
  const answer = await page.request.get(`${house.url}/${path}`);
  const text = (await answer.text())
    .replaceAll(house.url, "")
    .replace(/nonce="[^"]*"/g, "")
    // When the clock of this house reminded somebody, or let a paper climb: the two do not open in the same minute.
    .replace(/\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z/g, "")
    .replace(/24 Nov \d\d:\d\d/g, "")
    .replace(/[\w+/=-]{40,}/g, ""); // hashes and the like
  return { status: answer.status(), text };
}

describe.each([
  // The yard manager and the buyer see money; whoever counts on the dock sees none, also in what they are told of.
  ["Tobias", "a dock hand", ALL, true],
  ["Joss", "a requester", PRICES, false],
])("%s, %s", (name, _role, money, rules) => {
  let cheap: House;
  let dear: House;
  let paths: string[];
  beforeAll(async () => {
    // Both are told of every paper that was handed in.
    const told = (file: string) => {
      const db = new Database(file);
      db.prepare(
        "INSERT OR IGNORE INTO requisition_watcher (requisition, person) SELECT r.id, p.id FROM requisition r, person p WHERE p.name LIKE ? AND r.asker <> p.id",
      ).run(`${name}%`);
      db.close();
    };
    cheap = await openHouse({ before: told });
    dear = await openHouse({
      before: (file) => {
        told(file);
        dearer(money, rules)(file);
        paths = addresses(file);
      },
    });
  });
  afterAll(async () => {
    await cheap.close();
    await dear.close({ holds: false });
  });

  it("reads the same on every page, whatever anything costs", async () => {
    const [one, other] = [await cheap.as(name), await dear.as(name)];
    const leaks: string[] = [];
    let opened = 0;
    for (const path of paths) {
      const [a, b] = await Promise.all([read(one, cheap, path), read(other, dear, path)]);
      if (a.status === 200) opened++;
      if (a.text !== b.text) leaks.push(`${path}: ${difference(a.text, b.text)}`);
    }
    expect(leaks).toEqual([]);
    expect(opened).toBeGreaterThan(50);
  });
});

function difference(a: string, b: string): string {
  let at = 0;
  while (a[at] === b[at]) at++;
  return `${a.slice(Math.max(0, at - 60), at + 30)} | ${b.slice(at, at + 30)}`;
}
