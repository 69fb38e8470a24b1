import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe("a day in a field", () => {
  it("is typed as the person writes days, or picked from a month, and says where it is none", async () => {
    const page = await house.as("Joss");
    await go(page, house, "/requisitions");
    await page.getByRole("button", { name: "New requisition" }).click();
    const field = page.getByLabel("Needed by", { exact: true });
    await field.fill("15 jan 2027");
    await field.press("Tab");
    expect(await field.inputValue()).toBe("15 Jan 2027");
    await field.fill("1/2/27");
    await field.press("Tab");
    expect(await field.inputValue()).toBe("1 Feb 2027");
    await field.fill("some day");
    await field.press("Tab");
    await page.getByText(/^This is no day\. Write it like \d\d\/\d\d\/20\d\d\.$/).waitFor();
    expect(await field.inputValue()).toBe("some day");
    await field.fill("3 Feb 2027");
    await field.press("Alt+ArrowDown");
    await page.getByRole("button", { name: /Friday,? 12 February 2027/ }).waitFor();
    await accessible(page, "a month to pick from");
    await page.getByRole("button", { name: /Friday,? 12 February 2027/ }).click();
    expect(await field.inputValue()).toBe("12 Feb 2027");
    await page.getByText(/^This is no day/).waitFor({ state: "detached" });
  });

  it("is the person’s in every form: the days of an absence, and hours beside them", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/people");
    const from = page.getByLabel("From", { exact: true });
    await from.fill("815");
    await from.press("Tab");
    expect(await from.inputValue()).toBe("8:15");
  });
});

describe("a file", () => {
  it("is dropped where one may be chosen, and one of another kind is told", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/files");
    const zone = page.locator("label", { hasText: "Drop a file here" });
    const drop = (name: string) =>
      zone.evaluate((to, name) => {
        const data = new DataTransfer();
        data.items.add(new File(["code,name\nQQ,Quay\n"], name));
        to.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
      }, name);
    await drop("picture.png");
    await page.getByText("picture.png is none of .csv, .xlsx, .txt.").waitFor();
    await page.getByLabel("The file holds").selectOption("stores");
    await drop("stores.csv");
    await page.getByRole("button", { name: /^Check and load/ }).click();
    await page.getByText(/^Loaded 1 rows?: 1 new/).waitFor();
  });
});

describe("a narrow screen", () => {
  it("drops columns by importance and folds the controls, and nothing lies outside it", async () => {
    for (const [width, height] of [
      [1024, 768],
      [390, 844],
    ] as const) {
      const page = await house.as("Ines", { width, height });
      for (const path of ["/needs", "/orders", "/with-suppliers", "/sign-off", "/budgets", "/jobs", "/requisitions"]) {
        await go(page, house, path);
        const sheet = page
          .locator("main section")
          .filter({ has: page.locator("table") })
          .first();
        await expect
          .poll(async () => [path, await sheet.evaluate((s) => s.scrollWidth - s.clientWidth <= 1)])
          .toEqual([path, true]);
        expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, width]);
      }
      await go(page, house, "/needs");
      await page.getByRole("columnheader", { name: "Order by" }).waitFor();
      await page.getByRole("columnheader", { name: /^Buy/ }).waitFor();
      if (width < 768) {
        expect(await page.getByRole("combobox", { name: "Group by" }).isVisible()).toBe(false);
        await page.getByRole("button", { name: "Narrow and arrange" }).click();
        await page.getByRole("combobox", { name: "Group by" }).waitFor();
      }
      await accessible(page, `needs at ${width}`);
      await page.close();
    }
  });
});

describe("the house", () => {
  it("says to the administrator how it runs", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/house");
    await page.getByRole("heading", { level: 1, name: "The house" }).waitFor();
    await page.getByText("none known").waitFor(); // no backup was ever made of this file
    await page.getByText(/^whole at/).waitFor();
    await accessible(page, "the house");
  });
});
