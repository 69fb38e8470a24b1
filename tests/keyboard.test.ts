import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const press = async (page: Page, ...keys: string[]) => {
  for (const k of keys) await page.keyboard.press(k);
};
const heading = (page: Page, name: string | RegExp) => page.getByRole("heading", { level: 1, name }).waitFor();
/** Presses Tab until what is asked for has the focus. */
const tabTo = async (page: Page, name: RegExp) => {
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press("Tab");
    const label = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement;
      return at.getAttribute("aria-label") ?? (at as HTMLInputElement).labels?.[0]?.textContent ?? at.textContent ?? "";
    });
    if (name.test(label)) return;
  }
  throw new Error(`Tab never came to ${name}`);
};

it("the whole way from a wish to the shelf, without a mouse", async () => {
  // Joss asks for four sensors: below the first limit, so nobody signs.
  const joss = await house.at("Joss", "/today");
  await press(joss, "g", "n");
  await heading(joss, "What I asked for");
  await ready(joss);
  await press(joss, "n");
  await heading(joss, "New requisition");
  await ready(joss);
  await tabTo(joss, /^For which store/);
  await joss.keyboard.type("Tarn");
  await tabTo(joss, /^Needed by/);
  await joss.keyboard.type("18122026");
  await tabTo(joss, /^What for/);
  await joss.keyboard.type("Cooling alarm of Thrift");
  await tabTo(joss, /^Line 1: item/);
  await joss.keyboard.type("SNS-TMP");
  await joss.getByRole("option", { name: /Temperature sensor/ }).waitFor();
  await press(joss, "Enter", "Tab");
  await joss.keyboard.type("4");
  await joss
    .getByRole("status")
    .filter({ hasText: /^kept$/ })
    .waitFor();
  await tabTo(joss, /^Hand in/);
  await press(joss, "Enter");
  await heading(joss, /^Requisition R26-/);
  await joss.locator("main").getByText("Open", { exact: true }).waitFor();
  const requisition = (await joss.getByRole("heading", { level: 1 }).innerText()).replace("Requisition ", "");

  // Ines finds the row, ticks it, and writes, clears and places the order.
  const ines = await house.at("Ines", "/today");
  await press(ines, "g", "n");
  await heading(ines, "What has to be bought");
  await ready(ines);
  const row = ines.locator("tr[aria-current=true]");
  for (let i = 0; i < 60 && !(await row.innerText()).includes(requisition); i++) await press(ines, "ArrowDown");
  expect(await row.innerText()).toContain("Temperature sensor");
  await press(ines, " ");
  await ines.getByRole("contentinfo").getByText("1 ticked").waitFor();
  await press(ines, "e");
  await ines.keyboard.type("5");
  await press(ines, "Enter", "o");
  await heading(ines, /^Draft \d+/);
  await ready(ines);
  expect(await ines.getByLabel(/^Line 1: quantity/).inputValue()).toBe("5");
  await press(ines, "o");
  await ines.locator("main").getByText("Cleared", { exact: true }).waitFor();
  await press(ines, "p");
  await ines.locator("div:has(> h1)").getByText("With supplier", { exact: true }).waitFor();
  const order = (await ines.getByRole("heading", { level: 1 }).innerText()).replace("Order ", "");

  expect(await ines.locator("main").innerText()).toContain("Tarn Quay store");

  // Tobias counts it in.
  const tobias = await house.at("Tobias", "/today");
  await press(tobias, "/");
  await tobias.keyboard.type("SNS-TMP");
  await tobias.getByRole("option", { name: /Temperature sensor/ }).waitFor();
  await press(tobias, "Escape");
  await press(tobias, "g", "d");
  await heading(tobias, "Coming in");
  for (let i = 0; i < 30; i++) {
    const before = tobias.url();
    await press(tobias, "j");
    await tobias.waitForURL((url) => url.href !== before);
    await heading(tobias, "Count sheet");
    await ready(tobias);
    if (await tobias.locator("main").getByText(order).count()) break;
  }
  await tobias.locator("main").getByText(order).waitFor();
  await press(tobias, "c");
  await tobias.keyboard.type("SNS-TMP");
  await press(tobias, "Enter", "Escape", "r");
  await tobias.getByText("as ordered", { exact: true }).waitFor();
  await press(tobias, "t");
  await heading(tobias, /^Receipt D26-/);
  await tobias.getByRole("cell", { name: "5 each" }).first().waitFor();
});

describe("what is done before a page hears it", () => {
  /** Opens a page whose scripts come late; `early` happens before them. */
  async function slowly(name: string, path: string, early: (page: Page) => Promise<void>): Promise<Page> {
    const page = await house.as(name);
    let go: () => void = () => {};
    const held = new Promise<void>((resolve) => {
      go = resolve;
    });
    await page.route("**/assets/*.js", async (route) => {
      await held;
      await route.continue();
    });
    await page.goto(house.url + path, { waitUntil: "commit" });
    await page.getByRole("heading", { level: 1 }).waitFor();
    await early(page);
    go();
    await ready(page);
    return page;
  }

  it("is done once it does: keys, ticks and what was typed", async () => {
    const ines = await slowly("Ines", "/needs", async (page) => {
      for (const key of ["ArrowDown", "ArrowDown", "ArrowDown", " "]) await page.keyboard.press(key);
      await page.getByRole("checkbox").nth(0).click();
    });
    await ines.getByRole("contentinfo").getByText("2 ticked").waitFor();
    expect(await ines.locator("tr[aria-current=true]").getAttribute("aria-rowindex")).toBe("5");

    const joss = await house.as("Joss");
    await joss.goto(`${house.url}/requisitions`);
    await ready(joss);
    await joss.getByRole("button", { name: "New requisition" }).click();
    await heading(joss, "New requisition");
    const path = new URL(joss.url()).pathname;
    const again = await slowly("Joss", path, async (page) => {
      await page.getByLabel("What for").fill("Ramp hinge of Dunlin");
    });
    await again.getByText("kept", { exact: true }).waitFor();
    await again.reload();
    expect(await again.getByLabel("What for").inputValue()).toBe("Ramp hinge of Dunlin");
  });

  it("goes on from where the last key led, however fast they come", async () => {
    const ines = await house.as("Ines");
    await ines.goto(`${house.url}/orders`);
    await ready(ines);
    await ines.evaluate(() => {
      const press = (key: string) =>
        document.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
      for (let i = 0; i < 12; i++) press("ArrowDown");
      press("Enter");
    });
    await heading(ines, /^(Order|Draft|Blanket)/);
    const opened = new URL(ines.url()).pathname;
    await ines.goBack();
    await heading(ines, "Orders");
    await ines.locator("tr[aria-rowindex='14']").click();
    await ines.keyboard.press("Enter");
    await heading(ines, /^(Order|Draft|Blanket)/);
    expect(new URL(ines.url()).pathname).toBe(opened);
  });
});
