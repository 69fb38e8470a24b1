import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

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
});
