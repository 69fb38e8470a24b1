import { afterAll, beforeAll, it } from "vitest";
import { go, type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close({ holds: false }));
it("shots", async () => {
  const page = await house.as("Petra");
  const shot = async (path: string, name: string) => {
    await go(page, house, path);
    await page.screenshot({ path: `/tmp/w9/${name}.png` });
  };
  await shot("/pay-lists/new?dueBy=2026-12-31", "propose");
  await shot("/pay-lists/2", "list");
  await shot("/pay-lists", "lists");
  await shot("/payables", "payables");
  const osk = await house.as("Osk");
  await go(osk, house, "/settings");
  await osk.getByRole("heading", { name: "What suppliers are paid from" }).scrollIntoViewIfNeeded();
  await osk.screenshot({ path: "/tmp/w9/settings.png" });
  await go(page, house, "/suppliers/3");
  await page.screenshot({ path: "/tmp/w9/supplier.png" });
});
