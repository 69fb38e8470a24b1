// Draws docs/screenshots anew from the demo company: npm run pictures (after npm run build)
import { mkdirSync } from "node:fs";
import type { Page } from "playwright-core";
import { go, openHouse, ready } from "./house";
import start from "./start";

mkdirSync("docs/screenshots", { recursive: true });
await start();
const house = await openHouse();
const shoot = async (page: Page, name: string) => {
  await page.waitForLoadState("networkidle");
  await ready(page);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};

const ines = await house.as("Ines");
await shoot(ines, "today");
await go(ines, house, "/needs");
await ines.getByRole("checkbox", { name: /^Hull anode/ }).check();
await ines.getByRole("checkbox", { name: /^Shaft anode/ }).check();
await ines.getByRole("checkbox", { name: /^Gearbox oil/ }).check();
await ines.getByRole("checkbox", { name: /^Hydraulic oil/ }).check();
await ines.getByRole("row", { name: /Hydraulic oil, grade 46/ }).click();
await shoot(ines, "needs");
for (const [path, name] of [
  ["/bench", "bench"],
  ["/with-suppliers", "with-suppliers"],
] as const) {
  await go(ines, house, path);
  await shoot(ines, name);
}
await go(ines, house, "/bench");
await ines.getByRole("row", { name: /Mirren/ }).dblclick();
await ines.waitForURL(/orders/);
await shoot(ines, "order-draft");
await go(ines, house, "/with-suppliers?cut=part");
await ines.getByRole("row", { name: /Puffin/ }).dblclick();
await ines.waitForURL(/orders/);
await shoot(ines, "order");
await go(ines, house, "/outbox");
await shoot(ines, "outbox");
await go(ines, house, "/items?text=HYD");
await shoot(ines, "items");

const maud = await house.as("Maud");
await go(maud, house, "/sign-off");
await shoot(maud, "sign-off");

const joss = await house.as("Joss");
await go(joss, house, "/requisitions/2");
await shoot(joss, "requisition");
await go(joss, house, "/requisitions/6");
await shoot(joss, "requisition-draft");

const tobias = await house.as("Tobias");
await go(tobias, house, "/dock");
await tobias.getByRole("link", { name: /Puffin/ }).click();
await tobias.getByLabel(/^Counted Lifejacket/).fill("12");
await tobias.getByLabel(/^Counted Hand flare/).fill("3");
await tobias.getByLabel(/^Counted Lifebuoy/).fill("8");
await shoot(tobias, "dock");
const handheld = await house.as("Tobias", { width: 390, height: 844 });
await go(handheld, house, "/dock");
await handheld.getByRole("link", { name: /Longreach/ }).click();
await handheld.getByLabel(/^Counted Breaker/).fill("20");
await shoot(handheld, "dock-handheld");

const osk = await house.as("Osk");
await go(osk, house, "/files");
await osk.getByLabel("File", { exact: true }).setInputFiles({
  name: "items.csv",
  mimeType: "text/csv",
  buffer: Buffer.from(
    "code,name,unit,tax\nANO-20W,Hull anode 20 kg,each,20\nANO 22W,Hull anode 22 kg,each,200\nROP-060,Mooring rope 60 mm,fathom,20\n",
  ),
});
await osk.getByRole("button", { name: /^Check and load/ }).click();
await osk.getByText("Nothing was loaded").waitFor();
await shoot(osk, "files");
await house.close();
