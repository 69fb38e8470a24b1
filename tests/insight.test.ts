import { join } from "node:path";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { wordsOn } from "../exchange/pdf/testing";
import { openToRead } from "../server/db/company-file";
import { accessible, go, type House, openHouse, settled } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const heading = (page: Page, name: string | RegExp) => page.getByRole("heading", { level: 1, name }).waitFor();

/** A figure as the page writes it, in hundredths. */
const minor = (text: string) =>
  Number(
    text
      .replace(/[^\d.−-]/g, "")
      .replace("−", "-")
      .replace(".", ""),
  );

describe("where the money went", () => {
  it("is broken down by keys alone, down to the papers of a cell, whose sum it is", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/today");
    await page.getByRole("link", { name: "Insight" }).click();
    await heading(page, "Where the money went");
    await page.getByLabel("And across").selectOption("quarter");
    const table = page.getByRole("table", { name: "Breakdown by supplier" });
    await table.getByRole("columnheader", { name: "Q3 2026" }).waitFor();
    await page.getByRole("heading", { level: 1 }).click();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowLeft");
    const slip = page.getByRole("complementary", { name: "Slip" });
    const papers = slip.getByRole("table", { name: "Papers behind it" });
    await papers.waitFor();
    await settled(page);
    const row = await table.locator("tr[aria-current=true] th").innerText();
    await slip.getByRole("heading", { level: 2, name: row }).waitFor();
    const said = await slip.locator("b.figure").first().innerText();
    expect(minor(await papers.locator("tfoot td").last().innerText())).toBe(minor(said));
    const rows = await papers.locator("tbody tr td:last-child").allInnerTexts();
    expect(rows.map(minor).reduce((a, b) => a + b, 0)).toBe(minor(said));
    await accessible(page, "a breakdown by quarter");
    await slip.getByRole("button", { name: "Only this" }).click();
    await page.getByRole("button", { name: `Not only supplier ${row}` }).waitFor();
    await settled(page);
    await slip.getByRole("link", { name: /^D26-/ }).first().click();
    await heading(page, /^Receipt D26-/);
  });

  it("is kept by name, and leaves as a file with the same total", async () => {
    const page = await house.as("Halden");
    await go(page, house, "/insight?rows=category&of=ordered");
    const total = await page
      .getByRole("table", { name: "Breakdown by category" })
      .locator("tfoot td")
      .first()
      .innerText();
    await page.getByLabel("Name of the view").fill("By category");
    await page.getByRole("button", { name: "Keep" }).click();
    await page.getByRole("button", { name: "By category", exact: true }).waitFor();
    await page.getByLabel("Send By category by e-mail").selectOption("month");
    await page.getByRole("button", { name: "Share the view By category" }).click();
    await page.getByRole("button", { name: "Share no more the view By category" }).waitFor();
    expect(await page.getByLabel("Send By category by e-mail").inputValue()).toBe("month");
    const pdf = await page.request.get(`${house.url}/insight/breakdown.pdf?rows=category&of=ordered&columns=quarter`);
    expect((await wordsOn(await pdf.body())).join(" ")).toContain(total);
    // Whoever it is shared with opens it, and has it as it is.
    const other = await house.as("Runa");
    await go(other, house, "/insight");
    await other.getByRole("button", { name: /^By category by Halden/ }).click();
    await other.getByRole("table", { name: "Breakdown by category" }).waitFor();
    expect(await other.getByRole("button", { name: "Forget the view By category" }).count()).toBe(0);
    const csv = await (await page.request.get(`${house.url}/insight/breakdown.csv?rows=category&of=ordered`)).text();
    const [head, ...lines] = csv.replace("\uFEFF", "").trim().split(/\r?\n/);
    expect(head).toBe("category,category_key,value_eur");
    expect(lines.map((l) => minor(l.split(",").at(-1)!)).reduce((a, b) => a + b, 0)).toBe(minor(total));
  });

  it("says why it changed: a stair that adds up", async () => {
    const page = await house.as("Runa");
    await go(page, house, "/insight/why?by=supplier");
    await heading(page, "Why it changed");
    const steps = await page.getByRole("figure").getByRole("listitem").locator("span.figure").allInnerTexts();
    const [from, ...rest] = steps.map(minor);
    const to = rest.pop()!;
    expect(rest.length).toBeGreaterThan(2);
    expect(rest.reduce((a, b) => a + b, from!)).toBe(to);
    await accessible(page, "why it changed");
  });
});

it("stands on the lead's Today with what moved most since last week, down to why", async () => {
  const page = await house.as("Sunniva");
  await go(page, house, "/today");
  const moved = page.getByRole("complementary", { name: "Slip" }).getByRole("link", { name: /most of it/ });
  expect(await moved.count()).toBe(3);
  await moved.first().click();
  await heading(page, "Why it changed");
  await page.getByText("Each item taken apart on its own, and added up.").waitFor();
});

it("says how long orders take from stop to stop, and which are the slowest", async () => {
  const page = await house.as("Halden");
  await go(page, house, "/insight/stops");
  await heading(page, "From stop to stop");
  await page.getByRole("row", { name: /^The first goods from sent/ }).click();
  const slip = page.getByRole("complementary", { name: "Slip" });
  await slip.getByRole("heading", { name: "The first goods: the slowest" }).waitFor();
  const slowest = await slip.getByRole("row").first().locator("td").innerText();
  expect(await page.getByRole("row", { name: /^The first goods from sent/ }).innerText()).toContain(slowest);
  await accessible(page, "from stop to stop");
});

it("says what lies there, how often it turns, and goes on from store to item", async () => {
  const page = await house.as("Petra");
  await go(page, house, "/insight");
  await page.getByRole("button", { name: "Stock", exact: true }).click();
  await heading(page, "What lies there");
  const table = page.getByRole("table", { name: "What lies there" });
  const slip = page.getByRole("complementary", { name: "Slip" });
  await slip.getByText("How often a year it is used up").first().waitFor();
  await slip.getByText("At the suggested reorder points").waitFor();
  await slip.getByText("As a table").click();
  const months = slip.getByRole("table", { name: "Worth at the end of each month, and used in it" });
  const last = await months.locator("tbody tr td").first().innerText();
  expect(minor(last)).toBe(minor(await slip.locator("b.figure").first().innerText()));
  expect(await table.locator("tbody tr").count()).toBe(3);
  await accessible(page, "stock by store");
  await slip.getByRole("button", { name: "Only this" }).click();
  await table.getByText("Lubricants").waitFor();
  await slip.getByRole("button", { name: "Only this" }).click();
  await page.getByRole("button", { name: "Not only category Lubricants" }).waitFor();
  await slip.getByRole("link", { name: "The item" }).waitFor();
  const file = await page.request.get(`${house.url}/insight/stock.csv${new URL(page.url()).search}`);
  expect((await file.text()).split("\r\n")[0]).toContain("item,item_key,value_eur,used_eur");
  await page.getByLabel("as it was known then").check();
  await page.getByText("as it was known then, in EUR").waitFor();
});

it("says what is still to come and what goes out for it, by week, supplier, job and budget line", async () => {
  const page = await house.as("Sunniva");
  await go(page, house, "/insight/ahead");
  await heading(page, "What is still to come");
  const table = page.getByRole("table", { name: "What is still to come" });
  const slip = page.getByRole("complementary", { name: "Slip" });
  await slip.getByRole("table", { name: "On its way" }).waitFor();
  // What is late comes to the same by week, in its papers, and by supplier.
  const late = minor(await slip.locator("b.figure").first().innerText());
  const papers = await slip.getByRole("table", { name: "On its way" }).locator("td").allInnerTexts();
  expect(papers.reduce((a, t) => a + minor(t), 0)).toBe(late);
  await slip.getByRole("table", { name: "Owed" }).waitFor();
  await accessible(page, "what is still to come by week");
  await page.getByRole("button", { name: "by supplier" }).click();
  await table.getByText("Norrvik Rope & Rigging").waitFor();
  expect(minor((await page.getByRole("contentinfo").innerText()).match(/of it late\s*(\S+)/)![1]!)).toBe(late);
  await page.getByRole("button", { name: "by job" }).click();
  await slip.getByRole("link", { name: "The job" }).waitFor();
  await page.getByRole("button", { name: "by budget line" }).click();
  await table.getByText("REFIT Winter refits").waitFor();
  await slip.getByRole("table", { name: "On its way" }).waitFor();
  const buyer = await house.as("Ines");
  await go(buyer, house, "/insight/ahead");
  await heading(buyer, "What is still to come");
  expect(await buyer.getByRole("columnheader", { name: "Out by then" }).count()).toBe(0);
});

it("prices paid are held against the least of each item, down to its receipts", async () => {
  const page = await house.as("Ines");
  await go(page, house, "/insight/prices");
  await heading(page, "Prices paid");
  const slip = page.getByRole("complementary", { name: "Slip" });
  await slip.getByRole("table", { name: /^What was paid for/ }).waitFor();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowUp");
  const said = await page.getByRole("contentinfo").innerText();
  await slip.getByRole("table", { name: /^What is asked for/ }).waitFor();
  expect(said).toMatch(/above the least of each\s*€[\d,]+\.\d\d/);
  await settled(page);
  await accessible(page, "prices paid");
  await page.getByRole("button", { name: "Lists", exact: true }).click();
  await heading(page, "Whose list went up");
  await page.getByRole("row", { name: /^Norrvik Rope & Rigging 9 9/ }).click();
  const moved = slip.getByRole("table", { name: "Prices of Norrvik Rope & Rigging that moved" });
  await moved.getByText("+4.5 %").first().waitFor();
  expect(await moved.getByRole("row").count()).toBe(9);
  await accessible(page, "price lists");
});

describe("a supplier's record", () => {
  it("shows loads and figures, opens each to its papers, and plans with what was measured", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/insight/suppliers");
    await heading(page, "Suppliers, side by side");
    await accessible(page, "suppliers side by side");
    await page
      .getByRole("table", { name: "Suppliers" })
      .getByRole("link", { name: "Veldan Steel Stockholders" })
      .click();
    await heading(page, "Veldan Steel Stockholders");
    await page.getByText(/\d+ in time, \d+ late, tolerance counted/).waitFor();
    await page.getByRole("row", { name: /^Promises moved \d+/ }).click();
    const slip = page.getByRole("complementary", { name: "Slip" });
    await slip
      .getByText(/days? later/)
      .first()
      .waitFor();
    await accessible(page, "a supplier's record");
    await page.getByRole("row", { name: /^Days from sent to here/ }).click();
    const plan = slip.getByRole("button", { name: /^Plan all of their items with \d+ days/ });
    const days = /\d+/.exec(await plan.innerText())![0];
    await plan.click();
    await slip.getByRole("button", { name: "Plan with it" }).click();
    await plan.waitFor({ state: "detached" });
    const db = openToRead(join(house.folder, "wharf-tally.db"));
    const leads = db
      .prepare<[], number>(
        "SELECT DISTINCT c.lead_days FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE s.code = 'VSS' AND c.active = 1",
      )
      .pluck()
      .all();
    db.close();
    expect(leads).toEqual([Number(days)]);
  });

  it("says plainly that nothing came, and shows nobody else what it costs", async () => {
    const page = await house.as("Runa");
    await go(page, house, "/suppliers/1/record?from=2020-01-01&to=2020-02-01");
    await page.getByRole("heading", { name: "Nothing came in these days" }).waitFor();
    const dock = await house.as("Tobias");
    await dock.goto(`${house.url}/insight`);
    await heading(dock, /not/i);
  });
});
