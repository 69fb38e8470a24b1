import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe("the link in an e-mail", () => {
  it("asks to sign in, shows what decides, and signs once", async () => {
    const outbox = join(house.folder, "outbox");
    const text = (name: string) =>
      readFileSync(join(outbox, name), "utf8")
        .replace(/=\r?\n/g, "")
        .replace(/=3D/g, "=");
    const toMaud = () =>
      existsSync(outbox)
        ? readdirSync(outbox)
            .filter((name) => name.includes("26-1680"))
            .map(text)
            .find((mail) => /^To: Maud/m.test(mail) && mail.includes("/sign-off/link/"))
        : undefined;
    await expect.poll(toMaud).toBeTruthy();
    const path = /\/sign-off\/link\/[\w-]+/.exec(toMaud()!)![0];
    const page = await house.visitor();
    await page.goto(`${house.url}${path}`);
    await page.getByRole("button", { name: /^Maud/ }).click();
    await page.getByRole("heading", { level: 1, name: "Norrvik Rope & Rigging" }).waitFor();
    await accessible(page, "the page of a link");
    await page.getByRole("button", { name: /^Sign €/ }).click();
    await page.waitForURL(`${house.url}/sign-off`);
    await go(page, house, path);
    await page.getByText("This link was used already; each works once.").waitFor();
    const halden = await house.as("Halden");
    await halden.goto(`${house.url}${path}`);
    await halden.getByText("This link was sent to somebody else.").waitFor();
  });
});

describe("the stop where papers are signed", () => {
  it("shows what is bought, against what was paid and the budgets, without opening the paper", async () => {
    const page = await house.as("Maud");
    await go(page, house, "/sign-off");
    const slip = page.getByRole("complementary", { name: "Slip" });
    await page
      .getByRole("row", { name: /^order|order 26-/ })
      .first()
      .click();
    await slip.getByRole("heading", { name: /What is bought|dearest of/ }).waitFor();
    await slip
      .getByText(/above the last|below the last|the same as the last/)
      .first()
      .waitFor();
    await accessible(page, "sign-off with its slip");
  });

  it("is where one signs with a key and sends back with a reason", async () => {
    const page = await house.as("Maud");
    await go(page, house, "/sign-off");
    const waits = async () =>
      Number(/(\d+) papers? waits? for you/.exec(await page.locator("main").innerText())?.[1] ?? 0);
    const before = await waits();
    await page.getByRole("button", { name: "Send it back…" }).click();
    await page.getByRole("button", { name: "Send back", exact: true }).click();
    await page.getByText("Say why, so that the writer knows what to change.").waitFor();
    await page.getByLabel("Why, so that the writer knows what to change").fill("Too much at once");
    await page.getByRole("button", { name: "Send back", exact: true }).click();
    await expect.poll(waits).toBe(before - 1);
    await expect.poll(() => page.getByRole("button", { name: /^Sign/ }).isEnabled()).toBe(true);
    await page.locator("h1").click();
    await page.keyboard.press("y");
    await expect.poll(waits).toBe(before - 2);
  });
  it("is where one asks, is answered, hands over, and signs several that were looked at", async () => {
    const halden = await house.as("Halden");
    await go(halden, house, "/sign-off");
    const rows = halden.getByRole("row", { name: /order 26-|requisition R26-/ });
    const number = /26-\d+/.exec(await rows.first().innerText())![0];
    await halden.getByRole("button", { name: "Ask the writer…" }).click();
    await halden.getByLabel("Your question").fill("Which vessel is it for?");
    await halden.getByRole("button", { name: "Ask", exact: true }).click();
    await halden.getByText("not answered yet").waitFor();
    const writer = await house.as("Ines");
    await go(writer, house, "/today");
    await writer.getByRole("link", { name: new RegExp(`asks about .*${number}`) }).click();
    await writer.getByRole("button", { name: "Answer…" }).click();
    await writer.getByLabel(/^Answer to/).fill("For Marram.");
    await writer.getByRole("button", { name: "Answer", exact: true }).click();
    await writer.getByText("For Marram.").waitFor();
    await go(halden, house, "/sign-off");
    await halden.getByText("For Marram.").waitFor();
    await halden.getByRole("button", { name: "Hand it over…" }).click();
    await halden.getByLabel("Who signs instead").selectOption({ label: "Sunniva Brack" });
    await halden.getByRole("button", { name: "Hand it over", exact: true }).click();
    await expect.poll(() => halden.getByRole("row", { name: new RegExp(`${number}[^]*you`) }).count()).toBe(0);
  });

  it("lets its writer take a paper back, and carries on what has hardly changed", async () => {
    const ines = await house.as("Ines");
    await go(ines, house, "/with-suppliers?cut=place");
    await ines.getByRole("row", { name: /26-1680/ }).dblclick(); // Maud signed it by her link
    await ines.waitForURL(/orders\/\d+/);
    await ines.getByRole("button", { name: "Change it" }).click();
    await ines.getByText("carries on as signed").waitFor();
    await ines.getByRole("button", { name: "Clear it to be placed" }).click();
    await ines.getByText("Hardly more than was signed, so nobody had to sign again.").waitFor();
  });

  it("works on a phone", async () => {
    const page = await house.as("Sunniva", { width: 390, height: 844 }); // to whom one was handed over
    await go(page, house, "/sign-off");
    await page.getByRole("button", { name: /^Sign €/ }).waitFor();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await accessible(page, "sign-off on a phone");
  });
});
