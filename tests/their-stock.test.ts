import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse({ suppliers: true });
});
afterAll(() => house.close());

const stock = (page: Page) => page.getByRole("complementary").getByRole("article");

describe("what suppliers have, and their price for us", () => {
  it("is asked for with one key while an order is written, and taken over with another", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders/new");
    await page.getByLabel("Supplier", { exact: true }).selectOption({ label: "Tern & Tallow Lubricants" });
    await page.getByRole("button", { name: "Begin the order" }).click();
    await page.waitForURL(/orders\/\d+$/);
    await ready(page);
    await page.getByPlaceholder(/code or name/).fill("HYD-046");
    await page.getByLabel("Quantity of the new line").fill("6");
    await page.getByLabel("Quantity of the new line").press("Enter");
    const price = page.getByLabel(/^Line 1: price/);
    await price.waitFor();
    await page.getByRole("button", { name: "Ask what they have" }).waitFor();
    await page.getByRole("heading", { level: 1 }).click();
    await page.keyboard.press("k");
    const said = stock(page).filter({ hasText: "Tern & Tallow" });
    await said.getByText("Kelpholm depot").waitFor();
    expect(await said.innerText()).toMatch(/ours, price list, from 5/);
    const theirs = /theirs[^\n]*\n?\s*([\d,.]+)/.exec(await said.innerText())![1];
    await accessible(page, "a draft with what its supplier has");
    await page.keyboard.press("t");
    await said.getByText(/taken over, until 24 Nov/).waitFor();
    expect(await price.inputValue()).toBe(theirs);
    await page.locator("#sheet").getByText("their word, from 6").waitFor();
    await page.reload();
    await ready(page);
    expect(await price.inputValue()).toBe(theirs);
  });

  it("is asked of all who sell it on a bench, where a price that is taken over chooses its supplier", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/bench/1");
    await page.getByRole("row", { name: /Coolant/ }).click();
    await page.getByRole("button", { name: "The chosen need" }).click();
    await page.getByRole("button", { name: "Ask what they have" }).click();
    const tallow = stock(page).filter({ hasText: "Tern & Tallow" });
    await tallow.getByRole("button", { name: "Take their price over" }).click();
    await tallow.getByText(/taken over/).waitFor();
    await page.getByRole("heading", { name: "At Tern & Tallow Lubricants" }).waitFor();
    await page.getByRole("complementary").getByText("their word, from 1").first().waitFor();
  });

  it("comes from an address in the supplier's record, which nobody on the way may listen to", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/suppliers/11");
    await page.getByRole("heading", { name: "Saltby Fasteners" }).waitFor();
    await page.getByText("They are not asked by program.").waitFor();
    await page.getByText("Change where they answer").click();
    await page.getByLabel("Address", { exact: true }).fill("http://stock.saltby.example/ask");
    await page.getByLabel("Token", { exact: true }).fill("abc-123");
    await page
      .getByRole("group")
      .filter({ hasText: "Change where they answer" })
      .getByRole("button", { name: "Keep" })
      .click();
    await page.getByText("An address begins with https://, so that nobody on the way reads the token.").waitFor();
    await page.getByLabel("Address", { exact: true }).fill("https://stock.saltby.example/ask");
    await page
      .getByRole("group")
      .filter({ hasText: "Change where they answer" })
      .getByRole("button", { name: "Keep" })
      .click();
    await page.getByText("They answer at https://stock.saltby.example/ask, to our token.").waitFor();
  });
});
