import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const heading = (page: Page, name: string | RegExp) => page.getByRole("heading", { level: 1, name }).waitFor();
const open = async (page: Page, load: string | RegExp) => {
  await go(page, house, "/dock");
  await page.getByRole("navigation", { name: "Coming in" }).getByRole("link", { name: load }).first().click();
  await heading(page, "Count sheet");
};
const take = (page: Page) => page.getByRole("button", { name: /^Take into stock/ }).click();

describe("a count that is not as ordered", () => {
  it("is judged by its tolerances while one counts, says why, and what is beyond waits", async () => {
    const page = await house.as("Tobias");
    await open(page, /Puffin Safety Supplies/);
    const jackets = page.getByLabel("Counted Lifejacket, adult, in each");
    await jackets.fill("12");
    await page.getByText("as ordered").first().waitFor();
    await jackets.fill("13");
    await page.getByRole("button", { name: "1 over, waits for Ines Rathmore" }).click();
    const sum = page.getByRole("dialog", { name: "What may be kept" });
    await sum.getByText("over, by house").waitFor();
    await sum.getByRole("row", { name: /in whole units\s+30/ }).waitFor();
    await page.keyboard.press("Escape");
    await page.getByLabel("Counted Hand flare, red, in box").fill("2");
    await page.getByLabel("Lot of Hand flare, red", { exact: true }).fill("PF-118");
    await page.getByLabel("Keeps until, Hand flare, red", { exact: true }).fill("1 Nov 2026");
    await page.getByLabel("Keeps until, Hand flare, red", { exact: true }).press("Tab");
    await page.getByText("expired 23 days ago").waitFor();
    await page.getByLabel("Counted Lifebuoy with light, in each").fill("5");
    await page.getByRole("button", { name: "not good: Lifebuoy with light" }).click();
    await page.getByLabel("Not good of Lifebuoy with light, in each").fill("1");
    await page.getByLabel("What is wrong with Lifebuoy with light").selectOption("damaged");
    await page.getByLabel("The delivery note says, pieces").fill("22");
    await page.getByText("The note says 22 pieces, and 21 came.").waitFor();
    await accessible(page, "a count sheet with lots, faults and totals");
    await take(page);
    await page.getByText("It expired 23 days ago: count it as spoilt or expired.").waitFor();
    await page.getByLabel("Keeps until, Hand flare, red", { exact: true }).fill("1 Nov 2029");
    await page.getByLabel("Keeps until, Hand flare, red", { exact: true }).press("Tab");
    await take(page);
    await page
      .getByRole("status")
      .getByText(/The note says 22 pieces/)
      .waitFor();
    await page.getByLabel("Why the count says otherwise").fill("one flare short in the case");
    // Nothing of it is lost on the way.
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("Lot of Hand flare, red", { exact: true }).inputValue()).toBe("PF-118");
    await take(page);
    await heading(page, /^Receipt D26-/);
    await page.getByText("lot PF-118 · keeps until 1 Nov 2029").waitFor();
    const aside = page.getByRole("region", { name: "Set aside" });
    await aside.getByText("1 each of Lifejacket, adult: more than may be kept").waitFor();
    await aside.getByText("1 each of Lifebuoy with light: damaged").waitFor();
    await accessible(page, "a receipt with goods set aside");
  });

  it("is decided by the buyer, who finds it on Today: kept, or sent back with a paper", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/today");
    await page.getByRole("link", { name: /Puffin Safety Supplies, 26-\d+: goods set aside/ }).click();
    await heading(page, "Set aside");
    await page.getByRole("row", { name: /Lifejacket, adult/ }).click();
    await page.keyboard.press("y");
    await page.getByLabel("Why, for the books").fill("we need it in spring");
    await page.getByRole("button", { name: "Take into stock" }).click();
    await page.getByRole("row", { name: /Lifejacket, adult/ }).waitFor({ state: "detached" });
    await page.getByRole("row", { name: /Lifebuoy with light/ }).click();
    await page.keyboard.press("b");
    await page.getByLabel("Why, for them to read").fill("The lamp is broken.");
    await accessible(page, "goods set aside");
    await page.getByRole("button", { name: "Send back" }).click();
    await page.getByRole("row", { name: /Lifebuoy with light/ }).waitFor({ state: "detached" });
    await page.getByRole("link", { name: "Returns" }).click();
    await page.getByRole("row", { name: /Puffin Safety Supplies.*goods instead.*open since today/s }).waitFor();
    await accessible(page, "returns");
    const href = await page.getByRole("link", { name: /^Paper B26-/ }).getAttribute("href");
    const pdf = await page.request.get(`${house.url}${href}`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
    // The line is open again, for what is to come instead.
    const dock = await house.as("Tobias");
    await open(dock, /Puffin Safety Supplies/);
    await dock.getByLabel("Counted Lifebuoy with light, in each").waitFor();
  });
});

describe("an open count", () => {
  it("takes whatever is scanned, with one hand, and says what changed while two devices counted", async () => {
    const page = await house.as("Tobias", { width: 390, height: 844 });
    await go(page, house, "/open-count");
    const scan = page.getByLabel(/^Scan or type/);
    const heard = page.getByRole("status").first();
    // Faster than the house answers: none is lost.
    for (const code of ["FLT-AIR", "FLT-AIR", "flt-air", "FLT-AIR", "BRG-6310"]) {
      await scan.fill(code);
      await scan.press("Enter");
    }
    await heard.getByText(/^Bearing, deep groove 6310: one more, for 26-/).waitFor();
    const filters = page.getByLabel(/^Counted Air filter/);
    expect(await filters.inputValue()).toBe("4");
    for (const [code, says] of [
      ["NOPE-1", "“NOPE-1” is not on any order that is to come."],
      ["4006381333932", "The check digit of 4006381333932 does not fit: it was read wrongly."],
      ["ENG-TUR", "Turbocharger cartridge: nothing of it is to come to Tarn Quay."],
    ] as const) {
      await scan.fill(code);
      await scan.press("Enter");
      await heard.getByText(says).waitFor();
    }
    await accessible(page, "an open count on a handheld");
    await page.reload();
    await ready(page);
    expect(await filters.inputValue()).toBe("4");
    const other = await house.as("Tobias");
    await open(other, /Halvard Filtration/);
    await other.getByLabel(/^Counted Air filter/).fill("3");
    await take(other);
    await heading(other, /^Receipt D26-/);
    await take(page);
    await page.getByText(/^26-\d+ was counted or changed by somebody else meanwhile/).waitFor();
    await page.getByText(/^Air filter.* was counted or changed by somebody else/).waitFor();
    expect(await filters.inputValue()).toBe("4");
    await filters.fill("1");
    await page.getByText("as ordered").first().waitFor();
    await take(page);
    await page.getByText(/^In stock:/).waitFor();
    expect(await page.getByRole("link", { name: /^D26-/ }).count()).toBe(2);
    await page.reload();
    await ready(page);
    await page.getByText("Nothing counted yet").waitFor();
  });

  it("is not needed for loads that came whole: they are ticked", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/dock");
    const boxes = page.getByRole("checkbox", { name: / came whole$/ });
    const before = await boxes.count();
    await boxes.nth(0).check();
    await boxes.nth(before - 1).check();
    await page.getByRole("button", { name: "Take 2 loads in as ordered" }).click();
    await page.getByRole("button", { name: /loads? in as ordered/ }).waitFor({ state: "detached" });
    expect(await boxes.count()).toBe(before - 2);
    await accessible(page, "what is coming in");
  });
});

describe("what the stock is worth", () => {
  it("is seen by accounts with its sum and the journal, and by no dock hand", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/values");
    await page.getByRole("row", { name: /Turbocharger cartridge/ }).click();
    await page
      .getByRole("complementary")
      .getByRole("row", { name: /on average/ })
      .waitFor();
    await accessible(page, "the stock by value");
    await page.getByRole("button", { name: "Journal" }).click();
    const trial = page.getByRole("table", { name: "Trial balance" });
    const [, debit, credit] = await trial.getByRole("row", { name: /^all/ }).locator("th, td").allInnerTexts();
    expect(debit).toBe(credit);
    await accessible(page, "the journal");
    await page.getByRole("button", { name: "Received, not invoiced" }).click();
    await page
      .getByRole("row", { name: /Puffin Safety Supplies/ })
      .first()
      .waitFor();
    const dock = await house.as("Tobias");
    const answer = await dock.request.get(`${house.url}/values`);
    expect(answer.status()).toBe(403);
  });
});

describe("a wrong count", () => {
  it("is undone on its receipt, in part and whole, and the load is expected again", async () => {
    const page = await house.as("Tobias");
    await open(page, /Tern & Tallow Lubricants/);
    await page.getByRole("button", { name: "Rest as ordered" }).click();
    await take(page);
    await heading(page, /^Receipt D26-/);
    await page.getByRole("cell", { name: "Hydraulic oil", exact: false }).first().waitFor();
    await page.keyboard.press("u");
    const slip = page.getByRole("complementary");
    const [first, second] = [slip.getByLabel(/^Hydraulic oil/), slip.getByLabel(/grease/i)];
    await second.fill("0");
    await first.fill("9");
    await slip.getByLabel("Why, for the books").fill("counted the neighbour's drums");
    await slip.getByRole("button", { name: "Undo it" }).click();
    await slip.getByText("Only 4 of it is not undone yet.", { exact: false }).waitFor();
    await accessible(page, "a receipt that is being undone");
    await first.fill("1");
    await slip.getByRole("button", { name: "Undo it" }).click();
    await page
      .getByRole("region", { name: "Undone" })
      .getByText(/^U26-\d+, .*counted the neighbour/)
      .waitFor();
    await slip.getByLabel("Why, for the books").fill("all of it was theirs");
    await slip.getByRole("button", { name: "Undo it" }).click();
    await page.getByRole("button", { name: "Undo it" }).waitFor({ state: "detached" });
    await open(page, /Tern & Tallow Lubricants/);
    await page.getByLabel(/^Counted Hydraulic oil/).waitFor();
  });
});

describe("tolerances", () => {
  it("are kept by a lead, value by value, and a buyer keeps those of a line alone", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/tolerances");
    await page.getByRole("button", { name: "Another tolerance" }).click();
    await page.getByLabel("Holds for", { exact: true }).selectOption("item");
    await page.getByLabel("Item, by code").fill("LIF-NONE");
    await page.getByLabel("Over", { exact: true }).fill("10");
    await page.getByRole("button", { name: "Set it" }).click();
    await page.getByText("There is no such item.").waitFor();
    await page.getByLabel("Item, by code").fill("LIF-ADU");
    await page.getByRole("button", { name: "Set it" }).click();
    await page.getByRole("row", { name: /Lifejacket, adult.*10 %/s }).waitFor();
    await accessible(page, "tolerances");
    const ines = await house.as("Ines");
    await go(ines, house, "/tolerances");
    await ines.getByRole("row", { name: /Lifejacket, adult/ }).click();
    expect(await ines.getByRole("button", { name: "Keep it" }).isDisabled()).toBe(true);
  });
});

describe("what the supplier says of a load", () => {
  it("fills the count: a despatch advice with its lots, a delivery note as a file; what is not ours is named", async () => {
    const page = await house.as("Tobias");
    await open(page, /Tern & Tallow/);
    const number = (await page.locator("h1 + p .code").innerText()).trim();
    const file = page.getByLabel("the note from a file");
    await file.setInputFiles({
      name: "da.xml",
      mimeType: "application/xml",
      buffer: Buffer.from(despatch("26-1", "1")),
    });
    await page.getByText("There is no order 26-1 of ours.").waitFor();
    await file.setInputFiles({
      name: "da.xml",
      mimeType: "application/xml",
      buffer: Buffer.from(despatch(number, "2")),
    });
    await page.getByText("DA-77 is announced now: count by it, or by hand.").waitFor();
    await page.getByRole("button", { name: "count as announced" }).click();
    expect(await page.getByLabel("Number of the delivery note").inputValue()).toBe("DA-77");
    expect(await page.getByLabel("The delivery note says, pieces").inputValue()).toBe("2");
    await page.getByText("1 of").first().waitFor();
    await file.setInputFiles({ name: "note.csv", mimeType: "text/csv", buffer: Buffer.from("line,quantity\n1,1\n") });
    await page.getByText("1 part is counted by the file. Look at it.").waitFor();
    await page.getByText("The note says 2 pieces, and 1 came.").waitFor();
    await file.setInputFiles({
      name: "note.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("item,quantity\nNOT-OURS,1\n"),
    });
    await page.getByText("Nothing in it is on this order.").waitFor();
    await accessible(page, "a count sheet with an announced load");
    await go(page, house, "/dock");
    await page
      .getByText(/announced for/)
      .first()
      .waitFor();
  });
});

const despatch = (order: string, quantity: string) => `<?xml version="1.0"?>
<DespatchAdvice xmlns="urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2"
  xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <cbc:ID>DA-77</cbc:ID><cbc:IssueDate>2026-11-23</cbc:IssueDate><cac:OrderReference><cbc:ID>${order}</cbc:ID></cac:OrderReference>
  <cac:Shipment><cbc:ID>1</cbc:ID><cac:Delivery><cac:EstimatedDeliveryPeriod><cbc:EndDate>2026-11-25</cbc:EndDate></cac:EstimatedDeliveryPeriod></cac:Delivery></cac:Shipment>
  <cac:DespatchLine><cbc:ID>1</cbc:ID><cbc:DeliveredQuantity>${quantity}</cbc:DeliveredQuantity>
  <cac:OrderLineReference><cbc:LineID>1</cbc:LineID></cac:OrderLineReference><cac:Item/></cac:DespatchLine>
</DespatchAdvice>`;
