import { join } from "node:path";
import Database from "better-sqlite3";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready, settled } from "./house";

let house: House;
let page: Page;
beforeAll(async () => {
  house = await openHouse();
  page = await house.as("Ines");
});
afterAll(() => house.close());

interface Placed {
  id: number;
  number: string;
  lines: number;
}
/** An order that its supplier has and whose days are still to come; some of which nothing is known of, unless it is said. */
function placed(states = "'With supplier'"): Placed {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const found = db
    .prepare<[], Placed>(
      `SELECT o.id, o.number, count(l.id) AS lines FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id
       WHERE o.state IN (${states}) AND o.kind <> 'blanket' AND l.open = 1 AND NOT EXISTS (SELECT 1 FROM answer a JOIN answer_line w ON w.answer = a.id WHERE a.purchase_order = o.id AND w.state = 'waits')
       GROUP BY o.id HAVING min(l.due) > '2026-11-24' ORDER BY o.id LIMIT 1`,
    )
    .get();
  db.close();
  if (!found) throw new Error("The demo has no such order.");
  return found;
}

/** The supplier's own window, at the private link of an order. */
async function supplierOf(order: Placed): Promise<Page> {
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("button", { name: "Make a new link" }).click();
  const link = await page.getByText(/\/order\/[\w-]{20,}/).innerText();
  const supplier = await house.visitor();
  await supplier.goto(/http\S+/.exec(link)![0]);
  await supplier.getByRole("button", { name: "Confirm all as ordered" }).waitFor();
  return supplier;
}

describe("a supplier's private link", () => {
  it("confirms all in one act, and the order is confirmed", async () => {
    const order = placed();
    const supplier = await supplierOf(order);
    await supplier.getByRole("button", { name: "Confirm all as ordered" }).click();
    await supplier.getByRole("status").getByText("We have your answer").waitFor();
    await accessible(supplier, "an order that was answered");
    await go(page, house, `/orders/${order.id}`);
    await page.getByText("Confirmed", { exact: true }).first().waitFor();
  });

  it("splits a line on a phone; the buyer takes it with one key from the answers, and the supplier sees it agreed", async () => {
    const order = placed();
    const supplier = await supplierOf(order);
    await supplier.setViewportSize({ width: 390, height: 800 });
    await supplier.getByRole("button", { name: "Something differs" }).click();
    await supplier
      .getByRole("button", { name: /^Change/ })
      .first()
      .click();
    await supplier.getByLabel(/^How many/).fill("1");
    await supplier.getByLabel("On which day").fill("2026-12-28");
    await supplier.getByRole("button", { name: "Split: another part" }).click();
    await supplier
      .getByLabel(/^How many/)
      .last()
      .fill("one");
    await supplier.getByRole("button", { name: "Send the answer" }).click();
    await supplier.getByText("This is not a number.").waitFor();
    await supplier.getByText("Say on which day").waitFor();
    await accessible(supplier, "an answer that is marked where it is wrong");
    // What is typed outlives the page.
    await supplier.reload();
    await expect
      .poll(() =>
        supplier
          .getByLabel(/^How many/)
          .last()
          .inputValue(),
      )
      .toBe("one");
    await supplier
      .getByLabel(/^How many/)
      .last()
      .fill("1");
    await supplier.getByLabel("On which day").last().fill("2026-12-30");
    await supplier.getByRole("button", { name: "Send the answer" }).click();
    await supplier.getByText("we are looking at it").first().waitFor();

    await go(page, house, `/answers?order=${order.id}`);
    const row = page.getByRole("row", { name: new RegExp(`line 1 of ${order.number}`) });
    await row.waitFor();
    await accessible(page, "answers to decide");
    await page.getByRole("img", { name: /as it stands.*as they say: 1 on .*28 Dec, 1 on .*30 Dec/ }).waitFor();
    await page.keyboard.press("y");
    await row.waitFor({ state: "detached" });
    await supplier.reload();
    await supplier.getByText("agreed", { exact: true }).first().waitFor();
  });
});

it("what was heard is written down, refused with a reason, and stands as it did", async () => {
  const order = placed();
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("button", { name: "Write down what they said…" }).click();
  await page.getByLabel("Who said it").fill("Elspeth");
  await page.getByLabel("What", { exact: true }).selectOption("line");
  await page.getByLabel("On", { exact: true }).fill("2026-12-31");
  await page.getByRole("button", { name: "Keep the answer" }).click();
  await page.getByRole("link", { name: "1 line waits to be decided" }).click();
  await ready(page);
  await page.getByLabel("Why not, for them to read").fill("The yard waits for it.");
  await page.getByRole("button", { name: "Refuse it" }).click();
  await page.getByRole("heading", { name: "Nothing to decide" }).waitFor();
  await go(page, house, `/orders/${order.id}`);
  await settled(page);
  await page.getByText("refused by Ines Rathmore, “The yard waits for it.”").waitFor();
  expect(await page.getByText("With supplier").count()).toBeGreaterThan(0);
});

it("a shortage has ways out: the one that is chosen is taken in one act, and a proposal is agreed to on the private page", async () => {
  await go(page, house, "/answers");
  await page.getByRole("row", { name: /Hand flare/ }).click();
  const ways = page.getByRole("radiogroup", { name: "Ways out" });
  await ways.getByRole("radio", { name: /3 each from Skellan/ }).waitFor();
  await page.getByRole("row", { name: /job 2307, Whimbrel waits/ }).waitFor();
  await page.getByRole("button", { name: "job 2307, Whimbrel waits" }).click();
  await page
    .getByRole("table", { name: /Hand flare.* on Sat 12 Dec/ })
    .first()
    .waitFor();
  await accessible(page, "an answer with its ways out");
  await page.getByRole("button", { name: /^Take it, 3 each from / }).click();
  await page.getByRole("link", { name: "a transfer" }).waitFor();
  await page.getByRole("row", { name: /Hand flare, red line/ }).waitFor({ state: "detached" });

  const order = placed();
  const supplier = await supplierOf(order);
  await supplier.getByRole("button", { name: "Something differs" }).click();
  await supplier
    .getByRole("button", { name: /^Change/ })
    .first()
    .click();
  await supplier.getByLabel("On which day").fill("2027-01-20");
  await supplier.getByRole("button", { name: "Send the answer" }).click();
  await supplier.getByText("we are looking at it").first().waitFor();
  await go(page, house, `/answers?order=${order.id}`);
  await page.getByRole("row", { name: new RegExp(`of ${order.number}`) }).waitFor();
  await page.keyboard.press("c");
  await page.getByLabel("On", { exact: true }).first().fill("2026-12-15");
  await page.getByLabel("A word to them").fill("The refit begins on the 16th.");
  await page.getByRole("button", { name: "Propose it" }).click();
  await page.getByRole("heading", { name: "Nothing to decide" }).waitFor();
  await supplier.reload();
  await supplier.getByText(/Our proposal: .*15 Dec/).waitFor();
  await accessible(supplier, "a proposal on the private page");
  await supplier.getByRole("button", { name: "Agree to it" }).click();
  await supplier.getByRole("status").getByText("We have your answer").waitFor();
  await go(page, house, `/orders/${order.id}/versions`);
  await page.getByRole("row", { name: /15 Dec/ }).waitFor();
});

it("an answer comes as a file, by upload and from another program; the same one is kept once", async () => {
  const order = placed("'With supplier', 'Confirmed'");
  const ubl = "urn:oasis:names:specification:ubl:schema:xsd";
  const file = `<OrderResponse xmlns="${ubl}:OrderResponse-2" xmlns:cac="${ubl}:CommonAggregateComponents-2" xmlns:cbc="${ubl}:CommonBasicComponents-2">
    <cbc:ID>S-1</cbc:ID><cbc:IssueDate>2026-11-24</cbc:IssueDate><cac:OrderReference><cbc:ID>${order.number}</cbc:ID></cac:OrderReference>
    <cac:OrderLine><cac:LineItem><cbc:ID>1</cbc:ID><cac:Delivery><cac:PromisedDeliveryPeriod><cbc:EndDate>2027-02-10</cbc:EndDate></cac:PromisedDeliveryPeriod></cac:Delivery></cac:LineItem></cac:OrderLine></OrderResponse>`;
  const bring = async () => {
    await page.getByRole("button", { name: "Take in an answer that came as a file…" }).click();
    await page.getByLabel("The file, XML").setInputFiles({
      name: "response.xml",
      mimeType: "application/xml",
      buffer: Buffer.from(file),
    });
    await page.getByRole("button", { name: "Take it in" }).click();
  };
  await go(page, house, "/answers");
  await bring();
  await page.getByRole("row", { name: new RegExp(`line 1 of ${order.number}`) }).waitFor();
  await bring();
  await page.getByRole("alert").getByText("was kept already").waitFor();

  const other = placed("'With supplier', 'Confirmed'");
  const headers = { origin: house.url, "content-type": "application/json" };
  const sent = await page.request.post(`${house.url}/answers`, {
    headers,
    data: { order: other.number, lines: [{ position: 1, parts: [{ quantity: "", day: "2027-02-01" }] }] },
  });
  expect([sent.status(), (await sent.json()).wait.length]).toEqual([200, 1]);
  const waiting = await (await page.request.get(`${house.url}/answers.csv?state=waits`)).text();
  expect(waiting).toMatch(new RegExp(`${other.number},.*2027-02-01`));
  const open = await (await page.request.get(`${house.url}/open-lines.json`)).json();
  expect(open.some((r: { order: string }) => r.order === other.number)).toBe(true);
});

it("a placed order is changed: it says what that does, and the next version says what was before", async () => {
  const order = placed("'With supplier', 'Confirmed'");
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("button", { name: /^Change what we ask of line 1/ }).click();
  await page.getByLabel("On", { exact: true }).first().fill("2027-01-12");
  await page.getByLabel("Why").fill("The yard is full until then.");
  await page.getByRole("button", { name: "See what it does" }).click();
  await page.getByText(/Nobody waits longer for it|it does this/).waitFor();
  await accessible(page, "a change of a placed order");
  await page.getByRole("button", { name: "Change it", exact: true }).click();
  await page.getByRole("button", { name: "See what it does" }).waitFor({ state: "detached" });
  await page.getByRole("link", { name: /^\d versions$/ }).click();
  await ready(page);
  await page.getByText("The yard is full until then.").waitFor();
  await page.getByRole("row", { name: /12 Jan 2027/ }).waitFor();
  await accessible(page, "versions of an order");
  const xml = await (await page.request.get(`${house.url}/orders/${order.id}/order.xml`)).text();
  expect(xml).toMatch(/<cbc:SequenceNumberID>[23]<\/cbc:SequenceNumberID>/);
});

it("suppliers are asked for a word: one letter to each, and who was asked stands beside the order", async () => {
  await go(page, house, "/chase");
  await accessible(page, "what needs a word");
  await page.getByText("These were due and are not here yet.").waitFor();
  await page.getByRole("button", { name: "Tick all not asked lately" }).click();
  await page.getByRole("button", { name: /^Send \d+ letters$/ }).click();
  await page
    .getByRole("status")
    .getByText(/letters about .* in the outbox/)
    .waitFor();
  await expect.poll(() => page.getByRole("row", { name: /never/ }).count()).toBe(0);
  const file = await (await page.request.get(`${house.url}/overdue.csv`)).text();
  expect(file).toContain("days_late");
});

it("a calendar shows what is expected, until its link is ended", async () => {
  await go(page, house, "/me");
  await page.getByRole("button", { name: "Make a link" }).click();
  const address = await page.getByText(/\/arrivals\/[\w-]{20,}\.ics/).innerText();
  const link = /http\S+\.ics/.exec(address)![0];
  const calendar = await page.request.get(link);
  expect(calendar.headers()["content-type"]).toContain("text/calendar");
  expect(await calendar.text()).toContain("BEGIN:VEVENT");
  await page.getByRole("button", { name: "End the link for all stores" }).click();
  await page.getByRole("button", { name: "End the link for all stores" }).waitFor({ state: "detached" });
  expect((await page.request.get(link)).status()).toBe(404);
});

it("a change that must be signed shows line by line what it asks for, and is made when it is signed", async () => {
  const order = placed("'With supplier', 'Confirmed', 'Confirmed in part', 'Part in'");
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("button", { name: /^Add a line to it/ }).click();
  await page.getByLabel("What", { exact: true }).selectOption("service");
  await page.getByLabel("In words").fill("Fitting on board");
  await page.getByLabel("Quantity", { exact: true }).fill("2");
  await page.getByLabel(/^Price, /).fill("640");
  await page.getByLabel("Why", { exact: true }).fill("No hands in the yard");
  await page.getByRole("button", { name: "See what it does" }).click();
  await page.getByText("It waits for signatures first; until then nothing changes.").waitFor();
  await page.getByRole("button", { name: "Add it", exact: true }).click();
  const waits = (of: Page) => of.getByRole("region", { name: "A change that waits" });
  await waits(page)
    .getByRole("row", { name: /Fitting on board.*2 each/ })
    .waitFor();
  await accessible(page, "an order whose change waits");
  expect(await page.getByRole("table", { name: "Lines" }).getByText("Fitting on board").count()).toBe(0);
  const maud = await house.as("Maud");
  await go(maud, house, `/orders/${order.id}`);
  await waits(maud).getByText("No hands in the yard").waitFor();
  await maud.getByRole("button", { name: /^Sign €/ }).click();
  await waits(maud).waitFor({ state: "detached" });
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("table", { name: "Lines" }).getByText("Fitting on board").waitFor();
  expect(await waits(page).count()).toBe(0);
});

it("the example: 50 anodes, of which 20 come on 31 December, leave a job waiting for 6, 21 days; elsewhere they cost 9.30 more", async () => {
  const osk = await house.as("Osk");
  const load = async (kind: string, text: string) => {
    const file = { name: `${kind}.csv`, mimeType: "text/csv", buffer: Buffer.from(text) };
    const answer = await osk.request.post(`${house.url}/exchange/import`, {
      headers: { origin: house.url },
      multipart: { kind, file },
    });
    expect(await answer.text()).toContain('"ok":true');
  };
  await load("items", "code,name,unit\nEXA-60,Example anode,each\n");
  await load(
    "sourcing",
    "item,supplier,their_code,unit,factor,lead_days\nEXA-60,BAW,Z-60,each,1,8\nEXA-60,SAF,S-60,each,1,10\n",
  );
  await load("prices", "item,supplier,from,price\nEXA-60,SAF,1,19.95\n");
  await load("stock", "item,store,on_hand,policy,reorder_point,lot,level\nEXA-60,TQ,4,larger of,0,10,\n");
  await load("jobs", "job,name,vessel,item,store,due,quantity\n2999,Example,Marram,EXA-60,TQ,2026-12-10,40\n");
  await load("orders", "order,supplier,store,item,quantity,required,price\nEX-1,BAW,TQ,EXA-60,50,2026-12-04,18.40\n");
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const order = db.prepare<[], { id: number }>("SELECT id FROM purchase_order WHERE brought = 'EX-1'").get()!;
  db.close();
  await go(page, house, `/orders/${order.id}`);
  await page.getByRole("button", { name: "Write down what they said…" }).click();
  await page.getByLabel("Who said it").fill("Elspeth");
  await page.getByLabel("What", { exact: true }).selectOption("line");
  await page.getByRole("button", { name: "Another part" }).click();
  await page.getByLabel(/^How many/).fill("30");
  await page.getByLabel("and then").fill("20");
  await page.getByLabel("On", { exact: true }).first().fill("2026-12-04");
  await page.getByLabel("On", { exact: true }).last().fill("2026-12-31");
  await page.getByRole("button", { name: "Keep the answer" }).click();
  await page.getByRole("link", { name: /to be decided/ }).click();
  const does = page.getByRole("region", { name: "The difference" });
  await does.getByRole("button", { name: /2999.*waits/ }).click();
  const told = (await does.innerText()).replace(/\s+/g, " ");
  expect(told).toMatch(/not at all for 6 each until Thu 31 Dec, 21 days/);
  // 4 + 50 − 40 = 14, and 4 + 30 − 40 = −6.
  await does.getByRole("button", { name: /^Example anode/ }).click();
  const sums = (await does.innerText()).replace(/\s+/g, " ");
  expect(sums).toMatch(
    /Tarn Quay 4 each \+ order \S+, Fri 4 Dec 50 each − job 2999, Marram, Thu 10 Dec 40 each = left 14 each/,
  );
  expect(sums).toMatch(
    /Tarn Quay 4 each \+ order \S+, Fri 4 Dec 30 each − job 2999, Marram, Thu 10 Dec 40 each = short −6 each/,
  );
  const ways = page.getByRole("radiogroup", { name: "Ways out" });
  const saltby = ways.getByRole("radio", { name: /Saltby/ });
  await saltby.waitFor({ state: "attached" });
  expect((await ways.innerText()).replace(/\s+/g, " ")).toMatch(/6 each from Saltby Fasteners .*? \+9\.30/);
});
