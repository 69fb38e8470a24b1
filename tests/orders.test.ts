import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const kept = (page: Page) => page.waitForResponse((r) => r.url().includes("/keep") && r.request().method() === "POST");
const rows = (page: Page) => page.getByRole("table", { name: "Lines" }).getByRole("row");
const total = async (page: Page) => /total\s*([€£]?[\d,.]+)/.exec(await page.getByRole("contentinfo").innerText())?.[1];

/** Begins a one-off order to a supplier; the page of its draft is open then. */
async function begin(page: Page, supplier: string): Promise<void> {
  await go(page, house, "/orders/new");
  await page.getByLabel("Supplier", { exact: true }).selectOption({ label: supplier });
  await page.getByRole("button", { name: "Begin the order" }).click();
  await page.waitForURL(/orders\/\d+$/);
  await ready(page);
}
async function type(page: Page, code: string, quantity: string): Promise<void> {
  const done = kept(page);
  await page.getByPlaceholder(/code or name/).fill(code);
  await page.getByLabel("Quantity of the new line").fill(quantity);
  await page.getByLabel("Quantity of the new line").press("Enter");
  await done;
}

describe("an order that is written by hand", () => {
  it("is typed like a spreadsheet: code, quantity, Enter; priced, dated and summed as one goes", async () => {
    const page = await house.as("Ines");
    await begin(page, "Tern & Tallow Lubricants");
    await type(page, "HYD-046", "5");
    await page.getByLabel("Line 1: quantity in drum").waitFor();
    // The next is typed while the line before it is still being kept.
    let letGo: () => void = () => {};
    const held = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    await page.route("**/keep", async (route) => {
      await held;
      await route.continue();
    });
    await page.getByPlaceholder(/code or name/).fill("GRS-STB");
    await page.getByLabel("Quantity of the new line").fill("4");
    await page.getByLabel("Quantity of the new line").press("Enter");
    await page.getByPlaceholder(/code or name/).fill("GBX-090");
    letGo();
    await page.getByLabel(/^Line 2: quantity/).waitFor();
    await page.unrouteAll({ behavior: "wait" });
    await expect.poll(() => page.getByLabel("Quantity of the new line").inputValue()).toBe("");
    expect(await page.getByPlaceholder(/code or name/).inputValue()).toBe("GBX-090");
    await page.getByPlaceholder(/code or name/).fill("");
    expect(await page.getByRole("contentinfo").innerText()).toMatch(/2 lines/);
    const before = await total(page);
    const saved = kept(page);
    await page.getByLabel("Line 1: quantity in drum").fill("8");
    await saved;
    await expect.poll(() => total(page)).not.toBe(before);
    // What was typed is there after a reload.
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("Line 1: quantity in drum").inputValue()).toBe("8");
    await accessible(page, "a draft with two lines");
  });

  it("takes rows pasted from a spreadsheet, or none of them where one is wrong", async () => {
    const page = await house.as("Ines");
    await begin(page, "Tern & Tallow Lubricants");
    const paste = (text: string) =>
      page.getByPlaceholder(/code or name/).evaluate((entry, pasted) => {
        const data = new DataTransfer();
        data.setData("text", pasted);
        entry.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
      }, text);
    await paste("HYD-046\t5\nNOBODY\t3");
    await page.getByText(/We know no such item/).waitFor();
    expect(await rows(page).count()).toBe(1); // the head alone
    await paste("code\tquantity\nHYD-046\t5\nGRS-STB\t4\nGBX-090\t2");
    await page.getByText("3 lines added.").waitFor();
    expect(await rows(page).count()).toBe(4);
    // A line is moved with the keys.
    const moved = kept(page);
    await page.getByRole("button", { name: "Move line 3" }).press("ArrowUp");
    await moved;
    await expect.poll(() => rows(page).nth(2).innerText()).toMatch(/GBX-090/);
  });

  it("holds goods in words and a charge, spread over the goods; loads, a note and a budget", async () => {
    const page = await house.as("Ines");
    await begin(page, "Tern & Tallow Lubricants");
    await type(page, "HYD-046", "5");
    await page.getByLabel("Kind of the new line").selectOption("charge");
    await page.getByPlaceholder("in your words").fill("Freight");
    await page.getByLabel(/^Price of the new line/).fill("95");
    let done = kept(page);
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await done;
    await page.getByLabel("Line 2: quantity in each").focus();
    done = kept(page);
    await page.getByLabel("How it counts").selectOption("value");
    await done;
    await page.getByLabel("Line 1: quantity in drum").focus();
    await page.getByRole("heading", { name: "What the line costs with its charges" }).waitFor();
    await page.getByText("More on this line").click();
    done = kept(page);
    await page.getByRole("button", { name: "Split into two loads" }).click();
    await done;
    await page.getByText("2 loads", { exact: true }).waitFor();
    done = kept(page);
    await page.getByLabel("Budget line").selectOption({ label: "REFIT, Winter refits" });
    await done;
    await page.getByText("this paper").waitFor();
    done = kept(page);
    await page.getByLabel("Comes to").selectOption({ label: "Holm Slip" });
    await done;
    await rows(page)
      .getByText(/to Holm Slip/)
      .waitFor();
  });

  it("is held with a reason, and let go on", async () => {
    const page = await house.as("Ines");
    await begin(page, "Tern & Tallow Lubricants");
    await type(page, "HYD-046", "5");
    // The slip grows with its line; what stands below it is clicked once it has.
    await page.getByLabel("Line 1: quantity in drum").waitFor();
    await page.getByRole("contentinfo").getByText("1 line", { exact: true }).waitFor();
    await page.waitForLoadState("networkidle");
    await page.getByRole("button", { name: "Hold it back…" }).click();
    await page.getByLabel("What it waits for").fill("the survey of Marram");
    await page.getByRole("button", { name: "Hold it", exact: true }).click();
    await page.getByText("the survey of Marram").waitFor();
    expect(await page.getByRole("button", { name: /Send to sign-off|Clear it/ }).isDisabled()).toBe(true);
    await page.getByRole("button", { name: "Let it go on" }).click();
    await page.getByText("the survey of Marram").waitFor({ state: "detached" });
  });

  it("begins from a standing list, with today's prices", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders/new");
    await page.getByRole("button", { name: "Make an order from Galley, every fortnight" }).click();
    await page.waitForURL(/orders\/\d+$/);
    await expect.poll(() => rows(page).count()).toBe(4);
  });

  it("says its terms for itself alone, or for good", async () => {
    const page = await house.as("Ines");
    await begin(page, "Halvard Filtration");
    await page.keyboard.press("h");
    const done = kept(page);
    await page.getByLabel("Pay within").fill("10");
    await done;
    await page.getByText("For this order alone: payment.").waitFor();
    await page.getByRole("button", { name: "Keep it in their record for good" }).click();
    await page.getByText("For this order alone").waitFor({ state: "detached" });
    expect(await page.getByLabel("Pay within").inputValue()).toBe("10");
    await type(page, "FLT-F10", "1");
    const moved = kept(page);
    await page.getByLabel("All lines by").fill("2027-01-15");
    await moved;
    await expect.poll(() => page.getByLabel("Line 1: wanted by").inputValue()).toBe("15 Jan 2027");
    await accessible(page, "the head of an order");
  });
});

describe("blanket orders", () => {
  it("stand out where they run out or are not used up, and are called off from", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/blankets");
    await page.getByRole("row", { name: /Class survey visit.*runs out/ }).waitFor();
    await page.getByRole("row", { name: /Extinguisher refill.*not used up/ }).waitFor();
    await accessible(page, "blanket orders");
    await page.getByRole("row", { name: /Extinguisher refill/ }).dblclick();
    await page.waitForURL(/orders\/\d+$/);
    await ready(page);
    await page.getByLabel(/^Call off now/).fill("90");
    await page.getByRole("button", { name: "Write the call-off" }).click();
    await page.getByText("Only 60 each are left of the blanket order.").waitFor();
    await page.getByLabel(/^Call off now/).fill("12");
    await page.getByRole("button", { name: "Write the call-off" }).click();
    await page.getByRole("heading", { level: 1, name: /^Call-off Draft/ }).waitFor();
    await page
      .getByText(/called off from 26-/)
      .first()
      .waitFor();
  });
});

describe("all orders", () => {
  it("are found, narrowed and sorted; the slip shows their lines without leaving the list", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders");
    const head = page
      .getByRole("banner")
      .locator("..")
      .getByText(/of \d+ orders/);
    await page.getByLabel("Find in this sheet").fill("anode brannock");
    await head.waitFor();
    await page
      .getByRole("row", { name: /Brannock/ })
      .first()
      .waitFor();
    await page.getByRole("button", { name: "Before tax, home" }).click();
    await page.waitForURL(/sort=net/);
    await page.getByText("Lines", { exact: true }).last().waitFor();
    await accessible(page, "all orders");
    const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "CSV" }).click()]);
    expect(file.suggestedFilename()).toBe("orders.csv");
  });

  it("bear marks that are put by hand, and by their rules", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders?late=yes");
    await page
      .getByRole("row", { name: /Chase them/ })
      .first()
      .waitFor();
    const first = page.getByRole("checkbox").first();
    await first.check();
    await page.getByLabel("Put a mark on the ticked orders").selectOption({ label: "Large" });
    await page
      .getByRole("row", { name: /Chase them · .*Large/ })
      .first()
      .waitFor();
    const sunniva = await house.as("Sunniva");
    await go(sunniva, house, "/marks");
    await sunniva.getByRole("row", { name: /Chase them.*overdue/ }).waitFor();
    await accessible(sunniva, "marks");
  });
});

describe("the private link of an order", () => {
  it("lets its supplier read the order without an account, until it is ended", async () => {
    const ines = await house.as("Ines");
    await go(ines, house, "/with-suppliers?cut=part");
    await ines.getByRole("row", { name: /Puffin/ }).dblclick();
    await ines.waitForURL(/orders\/\d+$/);
    await ines.getByRole("button", { name: "Make a new link" }).click();
    const address = await ines.locator("b.select-all").innerText();
    const path = new URL(address).pathname;
    const supplier = await house.visitor();
    await go(supplier, house, path);
    await supplier.getByRole("heading", { name: /^Purchase order 26-/ }).waitFor();
    await supplier.getByText("a part of it has arrived").waitFor();
    await accessible(supplier, "the order as its supplier reads it");
    const paper = await supplier.request.get(`${house.url}${path}/paper.pdf`);
    expect([paper.status(), paper.headers()["content-type"]]).toEqual([200, "application/pdf"]);
    await ines.reload();
    await ines.getByText(/first read/).waitFor();
    await ines.getByRole("button", { name: /^End it/ }).click();
    await ines.getByText(/ended/).waitFor();
    await go(supplier, house, path);
    await supplier.getByRole("heading", { name: "This link does not open any more" }).waitFor();
    expect((await supplier.request.get(`${house.url}${path}/order.xml`)).status()).toBe(404);
  });
});

describe("a supplier's record", () => {
  it("is made on a page of its own, and refused where a code is taken", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/suppliers");
    await page.getByRole("link", { name: "New supplier" }).click();
    await page.getByLabel("Name").fill("Newhaven Pumps");
    await page.getByLabel("Code").fill("BAW");
    await page.getByLabel("Their e-mail address").fill("orders@newhaven.example");
    await page.getByRole("button", { name: "Make the supplier" }).click();
    await page.getByText("Another supplier has this code.").waitFor();
    expect(await page.getByLabel("Name").inputValue()).toBe("Newhaven Pumps");
    await accessible(page, "a new supplier");
    await page.getByLabel("Code").fill("NHP");
    await page.getByRole("button", { name: "Make the supplier" }).click();
    await page.getByRole("heading", { level: 1, name: "Newhaven Pumps" }).waitFor();
    await page.getByText("orders@newhaven.example").first().waitFor();
  });

  it("shows what is open, agreed and sold, and is kept part by part", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/suppliers");
    await page.getByRole("row", { name: /Eidervik/ }).dblclick();
    await page.getByRole("heading", { level: 1, name: "Eidervik Surveyors" }).waitFor();
    await page.getByRole("link", { name: "Survey visits" }).waitFor();
    await page.getByRole("button", { name: "Add somebody" }).click();
    await page.getByLabel("Name", { exact: true }).first().fill("Signe Holm");
    await page.getByLabel("E-mail").fill("signe@nowhere");
    await page.getByRole("button", { name: "Add them" }).click();
    await page.getByText("Some fields need another look.").waitFor();
    await page.getByLabel("E-mail").fill("signe@eis.example");
    await page.getByRole("button", { name: "Add them" }).click();
    await page.getByRole("button", { name: "Change Signe Holm" }).waitFor();
    await accessible(page, "a supplier's record");
    await page.getByText("Change what they ask, or block them").click();
    await page.getByLabel("Blocked, because").fill("no insurance");
    await page.getByRole("button", { name: "Keep", exact: true }).last().click();
    await page.getByText("blocked: no insurance").waitFor();
    await go(page, house, "/orders/new");
    await page.getByLabel("Supplier", { exact: true }).selectOption({ label: "Eidervik Surveyors (blocked)" });
    await page.getByRole("button", { name: "Begin the order" }).click();
    await page.getByText("Eidervik Surveyors is blocked: no insurance.").waitFor();
  });
});
