import { copyFileSync, mkdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, expect, it } from "vitest";
import { go, type House, openHouse, ready } from "./house";

let house: House;
let open = true;
afterEach(async () => {
  if (open) await house.close({ holds: false });
});

/** The cookie of somebody of the demo. */
async function cookieOf(person: number): Promise<string> {
  const answer = await fetch(`${house.url}/sign-in`, {
    method: "POST",
    redirect: "manual",
    headers: { origin: house.url, "content-type": "application/x-www-form-urlencoded" },
    body: `as=${person}`,
  });
  return answer.headers
    .getSetCookie()
    .map((c) => c.split(";")[0])
    .join("; ");
}

it("an order is placed though the outbox cannot be written: that is said, and it is tried again", async () => {
  house = await openHouse();
  open = true;
  rmSync(join(house.folder, "outbox"), { recursive: true, force: true });
  writeFileSync(join(house.folder, "outbox"), "no folder");
  const page = await house.as("Ines");
  await go(page, house, "/orders?state=Cleared&sort=number");
  await page
    .getByRole("row", { name: /Cleared/ })
    .first()
    .dblclick();
  await page.waitForURL(/orders\/\d+$/);
  await ready(page);
  const order = page.url();
  await page.getByRole("button", { name: /^Place the order/ }).click();
  await page.getByText("e-mail waits").waitFor();
  await page.getByRole("link", { name: /^waits to be e-mailed/ }).waitFor();
  rmSync(join(house.folder, "outbox"));
  mkdirSync(join(house.folder, "outbox"));
  // The next message takes what waits with it.
  await page.getByRole("button", { name: "Send it by e-mail again…" }).click();
  await page.getByRole("button", { name: "Send it again" }).click();
  await expect.poll(() => page.getByRole("link", { name: /^e-mailed/ }).count()).toBe(2);
  await page.goto(order);
  await page.getByText(/, e-mailed$/).waitFor();
});

it("nothing is taken while the company's file is gone, and it goes on when it is back", async () => {
  house = await openHouse();
  open = true;
  const file = join(house.folder, "wharf-tally.db");
  renameSync(file, `${file}.away`);
  const answer = await fetch(`${house.url}/sign-in`);
  expect([answer.status, await answer.text()]).toEqual([
    503,
    expect.stringMatching(/was deleted while the server runs/),
  ]);
  expect((await fetch(`${house.url}/health`)).status).toBe(503);
  renameSync(`${file}.away`, file);
  expect((await fetch(`${house.url}/health`)).status).toBe(200);
});

it("stopping lets what is being answered end", async () => {
  house = await openHouse();
  const cookie = await cookieOf(2);
  const paths = [
    "orders.xlsx",
    "needs.csv",
    "files/usage/save.csv",
    "orders.csv",
    "orders/1/paper.pdf",
    "orders.xlsx",
    "needs.json",
    "items",
  ];
  const asked = paths.map((path) => fetch(`${house.url}/${path}`, { headers: { cookie } }));
  // They are being answered: what is asked after them was heard after them, and what nobody heard cannot be let end.
  for (let i = 0; i < 2; i++) await fetch(`${house.url}/health`);
  open = false;
  const closing = house.close();
  const answers = await Promise.allSettled(asked.map(async (a) => (await (await a).arrayBuffer()).byteLength));
  await closing;
  expect(answers.map((a) => a.status)).toEqual(paths.map(() => "fulfilled"));
});

it("stopping lets a batch come to its end", async () => {
  house = await openHouse();
  open = true;
  const page = await house.as("Ines");
  await go(page, house, "/orders?state=With supplier&sort=number");
  await page.getByRole("button", { name: "Papers" }).click();
  await page.getByRole("button", { name: /^Print \d+ papers/ }).click();
  await page.waitForURL(/batches\/\d+$/);
  const file = join(house.folder, "wharf-tally.db");
  const kept = join(house.folder, "..", `stopped-${Date.now()}.db`);
  open = false;
  await house.close({ afterwards: () => copyFileSync(file, kept) });
  const db = new Database(kept, { readonly: true });
  const batch = db
    .prepare("SELECT ended, (SELECT count(*) FROM batch_order WHERE state <> 'done') AS left FROM batch")
    .get();
  db.close();
  rmSync(kept);
  expect(batch).toEqual({ ended: expect.stringMatching(/^20/), left: 0 });
});

it("one key serves one act: a page that sends it for another is told so, and nothing is stored", async () => {
  house = await openHouse();
  open = true;
  const cookie = await cookieOf(1);
  const send = async (quantity: string) => {
    const body = new FormData();
    body.set("kind", "needs");
    body.set("file", new File([`item,store,quantity\nHYD-046,TQ,${quantity}\n`], "needs.csv"));
    const answer = await fetch(`${house.url}/exchange/import`, {
      method: "POST",
      headers: { cookie, origin: house.url, "idempotency-key": "one-and-the-same" },
      body,
    });
    return [answer.status, await answer.json()] as [
      number,
      { ok: boolean; added?: number; problems?: { says: string }[] },
    ];
  };
  const [first, again, other] = [await send("3"), await send("3"), await send("4")];
  expect(first).toMatchObject([200, { ok: true, added: 1 }]);
  expect(again).toEqual(first);
  expect(other).toMatchObject([422, { ok: false, problems: [{ says: expect.stringMatching(/under the same key/) }] }]);
});
