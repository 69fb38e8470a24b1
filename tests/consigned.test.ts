import { join } from "node:path";
import Database from "better-sqlite3";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const one = <T = number>(text: string): T => {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const value = db.prepare(text).pluck().get();
  db.close();
  return value as T;
};
const theirs = (code: string) =>
  one(
    `SELECT sum(y.rest) / 10000 FROM consigned_layer y JOIN item i ON i.id = y.item JOIN store s ON s.id = y.store WHERE i.code = '${code}' AND s.code = 'TQ'`,
  );
const onHand = () => one("SELECT sum(on_hand) || '/' || sum(value) FROM item_store");
const row = (page: Page, name: RegExp) =>
  page.getByRole("table", { name: "Suppliers’ goods" }).getByRole("row", { name });
const slip = (page: Page) => page.getByRole("complementary", { name: "Slip" });

describe("a supplier's goods, from the dock to the statement", () => {
  it("are registered by scanner and keyboard: their stock rises, ours does not; a note comes once", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/consigned/register");
    const before = { theirs: theirs("NUT-M12"), ours: onHand() };
    const scan = page.getByLabel("Scan or type a code of what came");
    for (const code of ["SA-8013", "NUT-M12", "NOBODY"]) {
      await scan.fill(code);
      await scan.press("Enter");
    }
    await page.getByText("“NOBODY” is not in Agreement A26-1001.").waitFor();
    const came = page.getByLabel("Nut, M12 A4: how much came, in each");
    expect(await came.inputValue()).toBe("2");
    await came.fill("800");
    // What is typed is there after a reload.
    await page.reload();
    await ready(page);
    expect(await came.inputValue()).toBe("800");
    await page.getByRole("button", { name: /^Register it/ }).click();
    await page.getByText("Type the number of their delivery note.").waitFor();
    await page.getByLabel("Number of their delivery note").fill("SF-22311");
    await accessible(page, "a delivery that is registered");
    await page.getByRole("button", { name: /^Register it/ }).click();
    await page.getByText(/^G26-\d+ is registered/).waitFor();
    expect(theirs("NUT-M12")).toBe(before.theirs + 800);
    expect(onHand()).toBe(before.ours);
    await came.fill("200");
    await page.getByLabel("Number of their delivery note").fill("sf-22311");
    await page.getByRole("button", { name: /^Register it/ }).click();
    await page.getByText(/Delivery note sf-22311 was registered already: G26-/).waitFor();
    await page.getByLabel("Number of their delivery note").fill("SF-22312");
    await came.fill("2000");
    await page.getByRole("button", { name: /^Register it/ }).click();
    const meant = page.getByRole("checkbox", { name: /would lie here, and 2400 is the most/ });
    await meant.waitFor();
    await came.fill("");
    await page.getByLabel("Number of their delivery note").fill("");
  });

  it("fill the sheet from a delivery note as a file", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/consigned/register");
    await page.getByLabel("Their delivery note or despatch advice").setInputFiles({
      name: "note.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("item,quantity\nWSH-M12,500\nSA-1794,100\nXYZ,3\n"),
    });
    await page.getByText("2 parts filled in. Look at it. Not in this agreement: XYZ.").waitFor();
    expect(await page.getByLabel("Washer, M12 A4: how much came, in each").inputValue()).toBe("500");
    expect(await page.getByLabel("Bolt, M12 by 50 A4: how much came, in each").inputValue()).toBe("100");
    await page.getByLabel("Washer, M12 A4: how much came, in each").fill("");
    await page.getByLabel("Bolt, M12 by 50 A4: how much came, in each").fill("");
  });

  it("are seen by age with what becomes ours, and used with a key: order, receipt and issue write themselves", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/consigned");
    await row(page, /BLT-M12/).click();
    await slip(page)
      .getByRole("heading", { name: /become ours on Mon 30 Nov/ })
      .waitFor();
    await accessible(page, "consigned shelves");
    const before = { theirs: theirs("BLT-M12"), ours: onHand() };
    await page.keyboard.press("u");
    await page.getByLabel("How much", { exact: true }).fill("50");
    await page.getByLabel("Job", { exact: true }).selectOption({ index: 0 });
    await page.getByRole("button", { name: "Use it", exact: true }).click();
    await expect.poll(() => theirs("BLT-M12")).toBe(before.theirs - 50);
    expect(onHand()).toBe(before.ours);
    expect(
      one<string>("SELECT o.state FROM purchase_order o WHERE o.agreement IS NOT NULL ORDER BY o.id DESC LIMIT 1"),
    ).toBe("All in");
    // The last use is taken back, in part.
    await slip(page).getByRole("button", { name: "Take it back" }).first().click();
    const back = page.getByRole("button", { name: "Take back", exact: true });
    await page.locator("form", { has: back }).getByLabel("How much", { exact: true }).fill("20");
    await back.click();
    await expect.poll(() => theirs("BLT-M12")).toBe(before.theirs - 30);
    await back.waitFor({ state: "hidden" });
    // More than anybody has is refused where it was typed.
    await page.keyboard.press("u");
    await page.getByLabel("How much", { exact: true }).fill("99999");
    await page.getByRole("button", { name: "Use it", exact: true }).click();
    await slip(page)
      .getByText(/Only .* that may be used lie here: Saltby Fasteners owns them\./)
      .waitFor();
  });

  it("are used by an engineer at a job, who sees no price", async () => {
    const page = await house.as("Joss");
    await go(page, house, `/jobs/${one("SELECT id FROM job WHERE code = '2299'")}`);
    const before = one(
      "SELECT sum(rest) / 10000 FROM consigned_layer y JOIN item i ON i.id = y.item WHERE i.code = 'BLT-M20'",
    );
    await page.getByRole("button", { name: "Use some of them for this job" }).click();
    await page
      .getByLabel("What", { exact: true })
      .selectOption({ label: "Bolt, M20 by 80 A4, Holm Slip: 200 each, 60 wanted" });
    await page.getByLabel("How much", { exact: true }).fill("12");
    await page.getByRole("button", { name: "Use it", exact: true }).click();
    await expect
      .poll(() =>
        one("SELECT sum(rest) / 10000 FROM consigned_layer y JOIN item i ON i.id = y.item WHERE i.code = 'BLT-M20'"),
      )
      .toBe(before - 12);
    await go(page, house, "/consigned");
    expect(await page.getByRole("main").innerText()).not.toMatch(/€|Worth/);
    expect(await slip(page).innerText()).not.toMatch(/Let them become ours|EUR/);
  });

  it("are asked to be refilled by letter, and promised, on their private link too", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/refills");
    const asking = page.getByRole("region", { name: "Saltby Fasteners, Tarn Quay" });
    await asking.getByLabel("Bolt, M16 by 60 A4: ask for, in each").fill("75");
    await asking.getByRole("button", { name: "Ask Saltby Fasteners" }).click();
    await asking.getByText("Bolt, M16 by 60 A4 comes in packs of 50.").waitFor();
    await asking.getByLabel("Bolt, M16 by 60 A4: ask for, in each").fill("250");
    await accessible(page, "refills");
    await asking.getByRole("button", { name: "Ask Saltby Fasteners" }).click();
    await page.getByRole("row", { name: /F26-1002/ }).waitFor();
    const letter = one<Buffer>("SELECT eml FROM mail WHERE agreement IS NOT NULL ORDER BY id DESC LIMIT 1").toString();
    const link = /their-shelf\/([\w-]+)/.exec(letter.replaceAll("=\r\n", ""))![1]!;
    const supplier = await house.visitor();
    await supplier.goto(`${house.url}/their-shelf/${link}`);
    await supplier.getByRole("heading", { name: "Your goods on our shelves" }).waitFor();
    await accessible(supplier, "a supplier's own page");
    const refill = supplier.getByText("F26-1002").locator("xpath=ancestor::div[1]");
    await refill.getByLabel("Remark").fill("with Thursday’s van");
    await refill.getByRole("button", { name: "Say so" }).click();
    await supplier.getByText("Thank you. It is kept.").waitFor();
    expect(one<string>("SELECT said FROM refill WHERE number = 'F26-1002'")).toBe("with Thursday’s van");
    // The statement that was sent is agreed to there, once.
    const statement = supplier
      .getByText(/^S26-\d+$/)
      .first()
      .locator("xpath=ancestor::div[1]");
    await statement.getByLabel("Your name").first().fill("Wenna Saltby");
    await statement.getByRole("button", { name: "I agree" }).click();
    // Statements of months before say the same of her: what is waited for is that none is sent any more.
    await expect
      .poll(() => one("SELECT count(*) FROM use_statement WHERE state = 'Sent'"), { timeout: 20_000 })
      .toBe(0);
    await supplier
      .getByText(/agreed by Wenna Saltby, paid by/)
      .first()
      .waitFor();
    expect(one("SELECT sum(p.total - s.total) FROM payable p JOIN use_statement s ON s.id = p.statement")).toBe(0);
    const xml = await supplier.request.get(
      `${house.url}/their-shelf/${link}/statements/${one("SELECT max(id) FROM use_statement")}/invoice.xml`,
    );
    expect(await xml.text()).toContain("<SelfBilledInvoice");
    expect((await supplier.request.get(`${house.url}/their-shelf/nonsense`)).status()).toBe(404);
  });

  it("are settled: a statement is made, sent, questioned and withdrawn by accounts", async () => {
    const page = await house.as("Petra");
    await go(page, house, "/statements");
    await page.getByLabel("Up to").first().fill("24 Nov 2026");
    await page.getByLabel("Up to").first().press("Tab");
    await page.getByRole("button", { name: "Make a statement" }).first().click();
    await page.getByRole("row", { name: /Made/ }).waitFor();
    await accessible(page, "use statements");
    await page.getByRole("row", { name: /Made/ }).getByRole("link").first().click();
    await ready(page);
    await page.getByRole("button", { name: "Send it", exact: true }).click();
    await page.getByRole("button", { name: "Send it again" }).waitFor();
    await accessible(page, "a use statement");
    await page.getByRole("button", { name: "Something is not right" }).click();
    await page.getByLabel("What they say").fill("two uses were taken back");
    await page.getByRole("button", { name: "Keep it" }).click();
    await page.getByText("Saltby Fasteners says: two uses were taken back").waitFor();
    await page.getByRole("button", { name: "Withdraw it" }).first().click();
    await page.getByLabel("Why").fill("made anew");
    await page.getByRole("button", { name: "Withdraw it" }).last().click();
    await page.getByText("Its uses went onto another statement.").waitFor();
  });

  it("lie here under an agreement that is written, signed like a blanket order, changed and ended", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/agreements");
    await page.getByLabel("Supplier", { exact: true }).selectOption({ label: "Brannock Anode Works" });
    await page.getByLabel("Store", { exact: true }).selectOption({ label: "Tarn Quay" });
    await page.getByRole("button", { name: "Begin it" }).click();
    await page.waitForURL(/agreements\/\d+$/);
    await ready(page);
    await page.getByRole("button", { name: "Another item" }).click();
    await page.getByLabel("Item 1", { exact: true }).fill("ANO-S60");
    await page.getByRole("option", { name: /ANO-S60/ }).click();
    await page.getByLabel("Item 1: most").fill("40");
    await page.getByLabel("Item 1: least").fill("50");
    await page.getByLabel("Item 1: price 1").fill("62.50");
    await page.getByRole("button", { name: "Keep the draft" }).click();
    await page.getByText("The most is less than the least.").waitFor();
    await page.getByLabel("Item 1: least").fill("10");
    await page.getByRole("button", { name: "Keep the draft" }).click();
    await page.getByText("Kept.", { exact: true }).waitFor();
    await accessible(page, "a draft agreement");
    await page.getByRole("button", { name: "Hand it in" }).click();
    await page.getByText("In sign-off", { exact: true }).first().waitFor();
    const approver = await house.as("Maud");
    await go(approver, house, "/sign-off");
    await approver
      .getByRole("row", { name: /Brannock Anode Works/ })
      .filter({ hasText: "A26-" })
      .click();
    // Nobody signs what they have not seen.
    await slip(approver).getByRole("heading", { name: "Brannock Anode Works" }).waitFor();
    await slip(approver)
      .getByText(/^Shaft anode/)
      .first()
      .waitFor();
    await approver.keyboard.press("y");
    await expect.poll(() => one<string>("SELECT state FROM agreement ORDER BY id DESC LIMIT 1")).toBe("Running");
    await page.reload();
    await ready(page);
    await page.getByRole("button", { name: "Change it" }).click();
    await page.getByText(/a change of another/).waitFor();
    expect(await page.getByLabel("Item 1: price 1").inputValue()).toBe("62.50");
  });
});
