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
/** An order that its supplier has and whose days are still to come. */
function placed(): Placed {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const found = db
    .prepare<[], Placed>(
      `SELECT o.id, o.number, count(l.id) AS lines FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id
       WHERE o.state = 'With supplier' AND l.open = 1
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
