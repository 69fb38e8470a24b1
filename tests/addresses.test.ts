import { join } from "node:path";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

/** Whatever stands in an address, it is no fault of ours. */
const PAGES =
  "today me counts requisitions requisitions/1 requisitions/open-lines items items/rows items/1 items/1/movements items/slip find needs needs/rows needs/slip needs/tick needs/review needs/review/slip needs.csv needs.json needs/bring needs/sort-out bench bench/1 bench/1/write bench/1/ask quotes/1 bench/1/fill-up round round/known transfers transfers/1 jobs jobs/1 jobs/new with-suppliers answers answers/does their-stock answers.csv open-lines.csv open-lines.json chase chase/preview overdue overdue.csv orders/1/versions orders/1/try-change orders orders/rows orders.csv orders.xlsx orders/1 orders/1/look orders/1/lines orders/1/lines.csv orders/new blankets budgets marks papers batches sign-off sign-off.csv sign-off/order/1/slip ladders ladders.json departments dock dock/1 open-count values labels label-layouts consigned consigned.csv consigned/register refills agreements agreements/1 settle settle/new settle/1 claims payables books books/journal.csv books/audit.xml pay-lists pay-lists/new pay-lists/1 statements statements/1 statements/1/uses.csv stow shelves bins stock-papers stock-counts set-aside returns tolerances suppliers suppliers/1 suppliers/1/record insight insight/why insight/suppliers insight/stops insight/ahead insight/ahead-of insight/ahead.csv insight/ahead.json insight/stock insight/stock-of insight/stock.csv insight/stock.json insight/prices insight/lists insight/moved-prices insight/paid-of insight/papers insight/breakdown.csv insight/breakdown.json items/new outbox".split(
    " ",
  );
const PARTS =
  "agreement answer asOf at before by cols columns count cut end ended find from in is-category is-item is-month is-store is-supplier group held id item key kind known language late leave line mark most need of on order rows orders page prices rates run show sort source state store than supplier text ticked to up upTo version view week writer".split(
    " ",
  );
const VALUES = [
  "x",
  "1e400",
  "-1",
  "0x10",
  "NaN",
  "1,".repeat(3_000),
  "__proto__",
  "\u0000",
  "\uFFFE\uD800",
  "9".repeat(40),
  "2026-02-31",
  "%",
  "'\"<",
];

/** Values with which pages are drawn, too. */
const DRAWN = ["x", "\u0000"];

describe("an address", () => {
  it("that nobody wrote in earnest is answered or refused, and never a fault", async () => {
    const page = await house.as("Sunniva");
    const faults: string[] = [];
    for (const [round, value] of VALUES.entries()) {
      // Drawn pages have one value in all their parts; else each part has another, so that seven rounds do for thirteen.
      if (round > 6 && !DRAWN.includes(value)) continue;
      const of = (i: number) => (DRAWN.includes(value) ? value : VALUES[(round + i * 2) % VALUES.length]!);
      const all = new URLSearchParams(PARTS.map((p, i) => [p, of(i)])).toString().slice(0, 12_000);
      await Promise.all(
        PAGES.map(async (path) => {
          // Drawing a page takes longer than working it out: most values are only worked out.
          const asked = path.includes(".") || DRAWN.includes(value) ? path : `${path}.data`;
          const answer = await page.request.get(`${house.url}/${asked}?${all}`);
          if (answer.status() >= 500) faults.push(`${path}?…=${value.slice(0, 12)}: ${answer.status()}`);
        }),
      );
    }
    for (const id of ["0", "x", "1e400", "99999999999999999999", "-1", "1.5", "%00", "__proto__"])
      await Promise.all(
        PAGES.filter((p) => /\/1(\/|$)/.test(p)).map(async (path) => {
          const asked = path.includes(".") || id === "x" ? path : `${path}.data`;
          const answer = await page.request.get(`${house.url}/${asked.replace(/\/1(?=[/.]|$)/, `/${id}`)}`);
          if (answer.status() >= 500) faults.push(`${path} with ${id}: ${answer.status()}`);
        }),
      );
    expect(faults).toEqual([]);
  });

  it.each([
    "//elsewhere.example/x",
    "/\\elsewhere.example",
    "/%0A/x",
    "/\n/elsewhere.example",
    "https://elsewhere.example",
    "/%09/x",
    "javascript:alert(1)",
    "",
  ])("is gone to after signing in only where it is ours: %j", async (to) => {
    const answer = await fetch(`${house.url}/sign-in?${new URLSearchParams({ to })}`, {
      method: "POST",
      redirect: "manual",
      headers: { origin: house.url, "content-type": "application/x-www-form-urlencoded" },
      body: "as=1",
    });
    expect(answer.status).toBe(302);
    const gone = new URL(answer.headers.get("location")!, house.url);
    expect([gone.origin, gone.pathname.startsWith("//")]).toEqual([house.url, false]);
  });

  it("is answered under the house's own name alone", async () => {
    const { request } = await import("node:http");
    const asked = (host: string) =>
      new Promise<number>((resolve, reject) => {
        const r = request(`${house.url}/sign-in`, { headers: { host } }, (res) => {
          res.resume();
          resolve(res.statusCode!);
        });
        r.on("error", reject);
        r.end();
      });
    expect([await asked("elsewhere.example"), await asked("localhost")]).toEqual([421, 200]);
  });
});

it("a product that is too large for money is refused with a sentence, and nothing of it is kept", async () => {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const draft = db
    .prepare<[], { id: number; version: number; line: number; net: number }>(
      "SELECT o.id, o.version, o.net, min(l.id) AS line FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id WHERE o.state = 'Draft' AND o.kind = 'one-off' GROUP BY o.id LIMIT 1",
    )
    .get()!;
  const page = await house.as("Ines");
  const answer = await page.request.post(`${house.url}/orders/${draft.id}/keep`, {
    headers: { origin: house.url },
    data: {
      key: "a-product-too-large",
      version: draft.version,
      lines: [{ line: draft.line, quantity: "100000000", price: "999999999" }],
    },
  });
  expect([answer.status(), await answer.json()]).toEqual([
    422,
    { ok: false, problems: [{ field: "", says: expect.stringMatching(/more than can be kept exactly/) }] },
  ]);
  expect(db.prepare("SELECT version, net FROM purchase_order WHERE id = ?").get(draft.id)).toEqual({
    version: draft.version,
    net: draft.net,
  });
  db.close();
});

describe("strangers", () => {
  const post = (path: string, body: BodyInit, type = "application/x-www-form-urlencoded") =>
    fetch(house.url + path, {
      method: "POST",
      redirect: "manual",
      headers: { origin: house.url, "content-type": type },
      body,
      duplex: "half",
    } as RequestInit);

  it("send small forms only, counted as they come", async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(control) {
        sent += 64_000;
        if (sent > 40_000_000) control.close();
        else control.enqueue(new Uint8Array(64_000).fill(97));
      },
    });
    const answer = await post("/sign-in", endless as never).catch(() => null);
    expect(answer === null || answer.status === 413).toBe(true);
    expect(sent).toBeLessThan(40_000_000);
    expect((await post("/sign-in", new URLSearchParams({ login: "x", password: "y".repeat(70_000) }))).status).toBe(
      413,
    );
    expect((await post("/quote/none", "a=1")).status).toBe(404);
  });

  it("find nothing where the house was set up", async () => {
    expect((await fetch(`${house.url}/first-run`)).status).toBe(404);
    expect((await post("/first-run", "code=1&company=Mine&login=me&password=long+enough+it+is")).status).toBe(404);
  });
});
