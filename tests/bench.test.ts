import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readText } from "../exchange/mail/read-text";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const cell = (page: Page, need: string, supplier: string) =>
  page
    .getByRole("row", { name: new RegExp(`^${need}`) })
    .first()
    .getByRole("button", { name: new RegExp(`^${supplier}`) });
const chosen = async (page: Page, need: string, supplier: string) =>
  (await cell(page, need, supplier).getAttribute("aria-pressed")) === "true";
const kept = (page: Page) =>
  page.waitForResponse((r) => r.url().includes("/choose") && r.request().method() === "POST");
const landed = async (page: Page) =>
  (await page.getByRole("contentinfo").innerText()).match(/€([\d,.]+)\s+landed/)?.[1];
const proved = (page: Page, way: string) =>
  page
    .getByRole("article", { name: way })
    .getByText(/^proved/)
    .waitFor();

describe("the Bench", () => {
  it("takes the needs that are ticked, and shows what each would cost where", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?group=none&sort=item");
    const ticks = page.getByRole("checkbox", { name: /Steel plate, 8 mm|Cutless bearing/ });
    await ticks.first().check();
    await page
      .getByRole("contentinfo")
      .getByText(/1 ticked/)
      .waitFor();
    await page.getByLabel("On which bench").selectOption("Slip season consumables");
    await page.getByRole("button", { name: /^Lay out/ }).click();
    await page.waitForURL(/\/bench\/1$/);
    await page.getByText(/^12 needs laid out/).waitFor();
    await accessible(page, "the grid");
  });

  it("moves a choice with the arrow keys; every total follows, and it is there after a reload", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    const before = await landed(page);
    expect(await chosen(page, "Hydraulic oil, grade 46", "Tern")).toBe(true);
    const saved = kept(page);
    await page.keyboard.press("ArrowRight");
    expect(await chosen(page, "Hydraulic oil, grade 46", "Quillmere")).toBe(true);
    expect(await landed(page)).not.toBe(before);
    await saved;
    await page.reload();
    await ready(page);
    expect(await chosen(page, "Hydraulic oil, grade 46", "Quillmere")).toBe(true);
    expect(await cell(page, "Hydraulic oil, grade 46", "Tern").getAttribute("aria-label")).toMatch(/chosen before/);
  });

  it("keeps the choices of two people, and tells who was quicker", async () => {
    const ines = await house.as("Ines");
    const sunniva = await house.as("Sunniva");
    await go(ines, house, "/bench/1");
    await go(sunniva, house, "/bench/1");
    // Each another row: both are kept.
    const one = kept(ines);
    await cell(ines, "Gearbox oil", "Quillmere").click();
    await one;
    const other = kept(sunniva);
    await cell(sunniva, "Coolant", "Tern").click();
    await other;
    await expect.poll(() => chosen(ines, "Coolant", "Tern"), { timeout: 10_000 }).toBe(true);
    expect(await chosen(ines, "Gearbox oil", "Quillmere")).toBe(true);
    // The same row: the second is told, and nothing of the first is lost.
    await sunniva.route("**/tick*", (r) => r.abort());
    const first = kept(ines);
    await cell(ines, "Stern tube grease", "Quillmere").click();
    await first;
    await cell(sunniva, "Stern tube grease", "Fairlead").click();
    await sunniva
      .getByRole("alert")
      .getByText("Ines Rathmore changed this row meanwhile: it is at Quillmere Oils now.")
      .waitFor();
    await expect.poll(() => chosen(sunniva, "Stern tube grease", "Quillmere")).toBe(true);
  });

  it("works out the ways to place, explains what one saves, and takes it", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    for (const way of ["Lowest landed cost", "All in time", "Fewest orders"]) await proved(page, way);
    await page.getByRole("button", { name: "What it moves: Lowest landed cost" }).click();
    const moves = page.getByRole("table", { name: "What lowest landed cost moves" });
    await moves.getByRole("row", { name: /this plan/ }).waitFor();
    await page.getByRole("button", { name: "Take it: Lowest landed cost" }).click();
    const way = page.getByRole("article", { name: "Lowest landed cost" });
    await way.getByText("in the grid").waitFor();
    expect(await landed(page)).toBe(/([\d,]+\.\d\d)/.exec(await way.innerText())?.[1]);
    const sum = page.getByRole("table", { name: "The grid against the preferred suppliers" });
    await sum.getByRole("row", { name: /this plan/ }).waitFor();
    expect(await sum.getByRole("row").count()).toBeGreaterThan(3);
  });

  it("locks a choice, so that plans keep it, and splits a need by hand", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    await page
      .getByRole("row", { name: /^Gearbox oil/ })
      .first()
      .click();
    await cell(page, "Gearbox oil", "Fairlead").click();
    await page.keyboard.press("w");
    await page.getByRole("table", { name: "At Fairlead Engine Spares" }).waitFor();
    await page.keyboard.press("l");
    await page
      .getByText(/GBX-090 .* locked/)
      .first()
      .waitFor();
    expect(await cell(page, "Gearbox oil", "Quillmere").isDisabled()).toBe(true);
    await page.getByRole("button", { name: "Ways to place these" }).click();
    await proved(page, "Lowest landed cost");
    await page.getByRole("button", { name: "Take it: Lowest landed cost" }).click();
    await page.getByRole("article", { name: "Lowest landed cost" }).getByText("in the grid").waitFor();
    expect(await chosen(page, "Gearbox oil", "Fairlead")).toBe(true);

    await page
      .getByRole("row", { name: /^Hydraulic oil/ })
      .first()
      .click();
    await page.keyboard.press("s");
    const parts = page.getByRole("group", { name: /How much goes where/ });
    for (const entry of await parts.getByRole("textbox").all()) await entry.fill("");
    await parts.getByLabel("Tern & Tallow Lubricants").fill("200");
    await page.getByText("400 L go nowhere yet.").waitFor();
    await parts.getByLabel("Quillmere Oils").fill("400");
    await page.getByRole("button", { name: "Keep the split" }).click();
    await expect.poll(() => cell(page, "Hydraulic oil", "Quillmere").getAttribute("aria-label")).toMatch(/for 400 L/);
    expect(await cell(page, "Hydraulic oil", "Tern").getAttribute("aria-label")).toMatch(/for 200 L/);
  });

  it("sets a supplier up where one is missing, and the grid has them at once", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    await page
      .getByRole("row", { name: /^Deck paint, green/ })
      .first()
      .click();
    await page.keyboard.press("w");
    await page.getByRole("button", { name: "Add a supplier…" }).click();
    await page.getByRole("combobox", { name: /^Supplier/ }).selectOption({ label: "Brannock Anode Works" });
    await page.getByLabel("Lead days").fill("4");
    await page.getByLabel(/^Price in EUR/).fill("13.90");
    await page.getByRole("button", { name: "Add the supplier" }).click();
    await page.getByRole("columnheader", { name: /Brannock Anode Works/ }).waitFor();
    await cell(page, "Deck paint, green", "Brannock").waitFor();
  });

  it("shows every order before it is written, at the cost of the grid, and writes them once", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    const cost = await landed(page);
    await page.getByRole("button", { name: /^Look at \d+ orders/ }).click();
    await page.waitForURL(/\/bench\/1\/write/);
    await ready(page);
    expect(await landed(page)).toBe(cost);
    const oil = page.getByRole("region", { name: /Quillmere Oils, Tarn Quay/ });
    await oil.getByText(/signed by|nobody has to sign/).waitFor();
    const write = page.getByRole("button", { name: /^Write \d+ orders/ });
    const orders = Number(/\d+/.exec(await write.innerText())?.[0]);
    await write.dblclick();
    await page.waitForURL(/\/bench$/);
    await ready(page);
    await page.getByText(`0 benches, ${orders + 2} drafts`).waitFor();
  });

  it("moves a line from one draft to another supplier", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench");
    await page
      .getByRole("row", { name: /Fairlead Engine Spares.*Tarn Quay/ })
      .first()
      .dblclick();
    await page.waitForURL(/\/orders\/\d+/);
    await ready(page);
    const from = page.url();
    const move = page.getByRole("combobox", { name: /^(This|Its) line/ });
    await move.selectOption({ label: "Quillmere Oils, a new order" }).catch(() => move.selectOption({ index: 1 }));
    await page.getByRole("button", { name: "Move", exact: true }).first().click();
    await page.waitForURL((url) => url.href !== from && /\/orders\/\d+/.test(url.pathname));
    await page
      .getByText(/Gearbox oil/)
      .first()
      .waitFor();
  });
});

describe("asking for prices", () => {
  it("goes to suppliers with a link of their own, is answered without an account, and becomes a price", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?group=none&sort=item");
    await page
      .getByRole("checkbox", { name: /^Bow shackle/ })
      .first()
      .check();
    await page
      .getByRole("contentinfo")
      .getByText(/1 ticked/)
      .waitFor();
    await page.getByRole("button", { name: /^Lay out/ }).click();
    await page.waitForURL(/\/bench\/\d+$/);
    await ready(page);
    await page.getByRole("link", { name: "Ask for prices" }).click();
    await page.waitForURL(/\/ask$/);
    await ready(page);
    await page.getByRole("button", { name: "Ask 2 suppliers" }).click();
    await page.waitForURL(/\/quotes\/\d+$/);
    await ready(page);
    const request = page.url();
    await page.getByText("0 of 2 answered").waitFor();
    await accessible(page, "a request");

    // The link stands in the mail that was written to the outbox.
    const folder = join(house.folder, "outbox");
    const letter = readdirSync(folder).sort().at(-1)!;
    const link = /\/quote\/([\w-]+)/.exec(readText(readFileSync(join(folder, letter))))![1]!;
    const supplier = await house.visitor();
    await go(supplier, house, `/quote/${link}`);
    await accessible(supplier, "what a supplier fills in");
    const look = () => supplier.getByRole("button", { name: "Check what we understand" }).click();
    await look();
    await supplier.getByText("Give a price for one line at least").waitFor();
    await supplier.getByLabel(/^Price in/).fill("9.5.0");
    await look();
    await supplier.getByText(/is not a number/).waitFor();
    expect(await supplier.getByLabel(/^Price in/).inputValue()).toBe("9.5.0");
    await supplier.getByLabel(/^Price in/).fill("7,250");
    await supplier.getByLabel("Days to deliver").fill("4");
    await look();
    await supplier.getByText("Nothing is sent yet.").waitFor();
    await supplier.getByText("7,250.00").waitFor();
    await supplier.getByRole("button", { name: "Change it" }).click();
    await supplier.getByLabel(/^Price in/).fill("7.52");
    await look();
    await supplier.getByText("7.52").waitFor();
    await supplier.getByRole("button", { name: "Send it so" }).click();
    await supplier.getByText("you can correct it until we use it").waitFor();
    await supplier.getByRole("button", { name: "Correct it" }).click();
    await supplier.getByRole("button", { name: "We cannot supply any of this" }).click();
    await supplier.getByText("You told us that you cannot supply any of this.").waitFor();
    await supplier.reload();
    await ready(supplier);
    await supplier.getByRole("button", { name: "Correct it" }).click();
    await supplier.getByLabel(/^Price in/).fill("7.25");
    await look();
    await supplier.getByRole("button", { name: "Send it so" }).click();
    await supplier.getByText("you can correct it until we use it").waitFor();
    await supplier.reload();
    await supplier.getByText("7.25").waitFor();
    await supplier.goto(`${house.url}/quote/nothing-of-ours`);
    await supplier.getByText("This link does not lead to a request of ours.").waitFor();

    await page.goto(request);
    await ready(page);
    await page.getByText("1 of 2 answered").waitFor();
    await page.getByRole("checkbox", { name: /^Accept .* for Bow shackle/ }).check();
    await page.getByRole("button", { name: "Accept 1 price" }).click();
    await page.getByText("accepted by Ines Rathmore").waitFor();
    await page.getByRole("link", { name: "To the bench" }).click();
    await page.waitForURL(/\/bench\/\d+$/);
    await ready(page);
    await page.keyboard.press("w");
    await page
      .getByRole("rowheader", { name: /^quote Q26-/ })
      .or(page.getByText(/price list/))
      .first()
      .waitFor();
  });
});
