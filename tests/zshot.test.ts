import { mkdirSync } from "node:fs";
import { it } from "vitest";
import { go, openHouse, settled, accessible } from "./house";
it("shots", async () => {
  mkdirSync("/tmp/w9", { recursive: true });
  const house = await openHouse();
  const page = await house.as("Sunniva");
  let n = 0;
  for (const path of (process.env.SHOTS ?? "").split(" ")) {
    await go(page, house, path);
    await settled(page);
    await page.waitForTimeout(400);
    await page.screenshot({ path: `/tmp/w9/s${n++}.png` });
    await accessible(page, path);
  }
  await house.close();
});
