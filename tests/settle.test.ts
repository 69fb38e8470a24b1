import { join } from "node:path";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { statusReportXml } from "../exchange/iso20022/credit-transfer";
import { accessible, go, type House, openHouse, ready, settled } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const one = <T>(text: string, ...values: unknown[]): T => {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const value = db
    .prepare(text)
    .pluck()
    .get(...values) as T;
  db.close();
  return value;
};
const stateOf = (number: string) => one<string>("SELECT state FROM invoice WHERE number = ? ORDER BY id DESC", number);

describe("an invoice", () => {
  it("is entered with its number alone where it agrees, and matches at once; twice it is refused", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/settle");
    await accessible(page, "invoices");
    await page.keyboard.press("e");
    await page.waitForURL(/settle\/new$/);
    await ready(page);
    await page.getByLabel("Our order").fill("26-1695");
    await page.getByLabel("Our order").press("Enter");
    await page.getByRole("heading", { level: 1, name: "Invoice of Brannock Anode Works" }).waitFor();
    await settled(page);
    await accessible(page, "entering an invoice");
    await page.getByLabel("Their number").fill("BR 0771");
    await page.getByRole("button", { name: /Enter it/ }).click();
    await page.waitForURL(/settle\/\d+$/);
    await page.getByText("Matched").first().waitFor();
    expect(stateOf("BR 0771")).toBe("Matched");
    await page
      .getByRole("table", { name: /Booking/ })
      .getByText("received, not invoiced")
      .waitFor();
    // The same number, spelt otherwise.
    await go(page, house, "/settle/new?order=26-1683");
    await page.getByLabel("Their number").fill("lre/26/0771");
    await page.getByRole("button", { name: /Enter it/ }).click();
    await page
      .getByRole("alert")
      .or(page.getByText(/is here already/))
      .first()
      .waitFor();
    expect(one("SELECT count(*) FROM invoice WHERE supplier = (SELECT id FROM supplier WHERE code = 'LRE')")).toBe(1);
    // What was typed is still there after a reload.
    await page.reload();
    await ready(page);
    await expect.poll(() => page.getByLabel("Their number").inputValue()).toBe("lre/26/0771");
  });

  it("that bills what is not here is asked about on the dock, without a price", async () => {
    // Lifejackets are billed of which the rest is still to come.
    const petra = await house.as("Petra");
    await go(petra, house, "/settle/new?order=26-1668");
    await petra.getByLabel("Their number").fill("P-8902");
    await petra.getByLabel(/^They bill of Lifejacket, adult/).fill("30");
    await petra.getByRole("button", { name: /Enter it/ }).click();
    await petra.waitForURL(/settle\/\d+$/);
    const page = await house.as("Tobias");
    expect((await page.goto(`${house.url}/settle`))!.status()).toBe(403);
    await go(page, house, "/today");
    await page.getByText("12 each of Lifejacket, adult billed, not counted in").waitFor();
    expect(await page.locator("main").innerText()).not.toMatch(/€\s?\d/);
  });

  it("that bills a drum too many shows why it differs to the cent, and is claimed with a key", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/today");
    await page.getByText("Invoice LRE/26/771 of Longreach Electrics").waitFor();
    await go(page, house, "/settle");
    await page.getByRole("link", { name: /TT-40117/ }).click();
    await page.getByRole("heading", { level: 1, name: "Invoice TT-40117" }).waitFor();
    await ready(page);
    await accessible(page, "the match");
    const stair = page.getByRole("figure");
    for (const figure of ["3,873.84", "+624.00", "−32.50", "+118.30", "4,583.64"])
      await stair.getByText(figure).waitFor();
    await page.keyboard.press("l");
    await page.getByLabel("A word to them").fill("A drum fewer came than you billed.");
    await page.getByRole("button", { name: "Claim it" }).click();
    await expect.poll(() => stateOf("TT-40117")).toBe("Matched");
    await page.getByRole("link", { name: /^Claim L26-/ }).waitFor();
    expect(one("SELECT sum(minor) FROM posting WHERE role = 'claims' AND minor = 74100")).toBe(74100);
  });

  it("that is dearer is accepted by the buyer, with why", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/settle");
    await page.getByRole("link", { name: /LRE\/26\/771/ }).click();
    await page.getByRole("button", { name: "Accept it" }).click();
    await page.getByText(/nobody has to sign so much/).waitFor();
    await page.getByLabel("Why").fill("Copper went up");
    await page.getByRole("button", { name: "Accept it" }).click();
    await expect.poll(() => stateOf("LRE/26/771")).toBe("Matched");
  });

  it("is taken off by accounts with why, and its order is not invoiced again", async () => {
    const page = await house.as("Petra");
    await go(page, house, `/settle/${one<number>("SELECT id FROM invoice WHERE number = 'BR 0771'")}`);
    await page.getByRole("button", { name: "Take this invoice off" }).click();
    await page.getByLabel("Why").fill("It is the other yard's");
    await page.getByRole("button", { name: "Take it off" }).click();
    await expect.poll(() => stateOf("BR 0771")).toBe("Taken off");
    await page.getByText("Taken off: It is the other yard's").waitFor();
  });
});

describe("a table of invoices", () => {
  it("is entered beside the server, or refused with each fault at its row", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/settle/new");
    const line = one<string>(
      "SELECT s.code || ',T-1,2026-11-23,' || o.number || ',' || l.position FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier WHERE o.number = '26-1690' LIMIT 1",
    );
    const load = async (...rows: string[]) => {
      const text = ["supplier,number,date,order,line,quantity", ...rows].join("\n");
      await page
        .getByLabel(/Their invoice or credit note/)
        .setInputFiles({ name: "week.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
    };
    await load(`${line},1`, "NONE,T-2,2026-11-23,26-1690,1,1");
    await page.getByText("Line 3: There is no supplier NONE.").waitFor();
    expect(stateOf("T-1")).toBeUndefined();
    await load(`${line},1`);
    await page.getByText("1 invoice entered").waitFor();
    expect(["Matched", "Held"]).toContain(stateOf("T-1"));
  });
});

describe("what is owed", () => {
  it("is seen by age on any day, down to its papers; a claim is given up by a buyer alone", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/payables");
    await accessible(page, "payables");
    await page.getByRole("row", { name: /ES 1187.*18 days over/ }).waitFor();
    await go(page, house, "/payables?on=2026-10-20");
    await page.getByRole("row", { name: /ES 1187.*not yet due/ }).waitFor();
    expect(await page.getByRole("row", { name: /TT-40117/ }).count()).toBe(0);
    await go(page, house, "/payables");
    await page.getByRole("row", { name: /ES 1187/ }).click();
    await page.getByRole("button", { name: "Mark it paid" }).click();
    await page.getByLabel("Amount, EUR").fill("8000");
    await page.getByRole("button", { name: "It is paid" }).click();
    await page.getByText("left of €8,256.00, the rest is paid").waitFor();
    expect(stateOf("ES 1187")).toBe("Part paid");
    const paid = page.getByRole("listitem").filter({ hasText: "ES 1187" });
    await paid.getByRole("button", { name: "Take it back" }).click();
    await paid.getByLabel("Why").fill("The bank sent it back");
    await paid.getByRole("button", { name: "Take it back" }).click();
    await expect.poll(() => stateOf("ES 1187")).toBe("Matched");
    await go(page, house, "/claims");
    await accessible(page, "claims");
    expect(await page.getByRole("button", { name: /Give it up/ }).count()).toBe(0);
  });
});

describe("a pay list", () => {
  it("is written of what is proposed, released by a second person, and answered by the bank", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/pay-lists/new");
    await accessible(page, "what to pay");
    await page.getByRole("row", { name: /Eidervik Surveyors.*ES 1187.*due/ }).waitFor();
    await page.getByRole("checkbox", { name: /^Pay ES 1187/ }).uncheck();
    await page.getByText("Nothing is ticked.").waitFor();
    await page.getByRole("checkbox", { name: /^Pay ES 1187/ }).check();
    await page.getByRole("button", { name: "Write the pay list" }).click();
    await page.waitForURL(/pay-lists\/\d+$/);
    await ready(page);
    await accessible(page, "a pay list");
    // Whoever wrote it does not release so much.
    await page.getByText(/somebody else than Petra/).waitFor();
    expect(await page.getByRole("button", { name: "Release it" }).count()).toBe(0);
    const lead = await house.as("Sunniva");
    await go(lead, house, new URL(page.url()).pathname);
    await lead.getByRole("button", { name: "Release it" }).click();
    await lead.getByText("Released", { exact: true }).first().waitFor();
    expect(await lead.getByRole("button", { name: "Hand it to the bank" }).count()).toBe(0);
    await page.reload();
    await ready(page);
    const file = await page.request.get(`${page.url()}/bank.xml`);
    expect(await file.text()).toMatch(/<InstdAmt Ccy="EUR">8256.00<\/InstdAmt>/);
    await page.getByRole("button", { name: "Hand it to the bank" }).click();
    await page.getByText(/The bank has it since/).waitFor();
    const report = statusReportXml("Y26-1003", "2026-11-24T10:00:00Z", [{ reference: "Y26-1003-1", code: null }]);
    await page.getByRole("button", { name: "Take over the bank’s report" }).click();
    await page
      .getByLabel(/pain.002/)
      .setInputFiles({ name: "answer.xml", mimeType: "application/xml", buffer: Buffer.from(report) });
    await page.getByRole("button", { name: "Take it over" }).click();
    await page.getByText("The bank answered every transfer.").waitFor();
    expect(stateOf("ES 1187")).toBe("Paid");
  });
});

describe("the books", () => {
  it("are closed month by month for good, and go out as files", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/books");
    await accessible(page, "books");
    await page.getByRole("row", { name: /J26-1001/ }).waitFor();
    await page.getByRole("row", { name: /31 Oct/ }).click();
    await page.getByRole("button", { name: "Close up to 31 Oct" }).click();
    await page.getByRole("button", { name: "Close it for good" }).click();
    await page.getByRole("row", { name: /31 Oct.*J26-1002/ }).waitFor();
    const file = await page.request.get(`${house.url}/books/audit.xml?from=2026-10-01&until=2026-10-31`);
    const text = await file.text();
    const total = (side: string) => /<Total\w+>([\d.]+)</.exec(text.slice(text.indexOf(`<Total${side}>`)))?.[1];
    expect(total("Debit")).toMatch(/^\d+\.\d\d$/);
    expect(total("Debit")).toBe(total("Credit"));
    const csv = await (
      await page.request.get(`${house.url}/books/journal.csv?from=2026-10-01&until=2026-10-31`)
    ).text();
    expect(csv).toMatch(/^\ufeffentry,day,what,account_for/);
    // What was received and not invoiced is seen as it was.
    await go(page, house, "/values?cut=open&on=2026-10-15");
    await page
      .getByRole("table", { name: "Received, not invoiced, by supplier" })
      .getByText("Eidervik Surveyors")
      .waitFor();
    await accessible(page, "received, not invoiced");
  });
});
