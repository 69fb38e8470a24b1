// Draws docs/screenshots anew from the demo company: npm run pictures (after npm run build)
import { mkdirSync } from "node:fs";
import type { Page } from "playwright-core";
import { sharedBrowser } from "./browser";
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

try {
  const ines = await house.at("Ines", "/today");
  await shoot(ines, "today");
  await go(ines, house, "/needs");
  await ines.getByRole("checkbox", { name: /^Hull anode/ }).check();
  await ines.getByRole("checkbox", { name: /^Shaft anode/ }).check();
  await ines
    .getByRole("checkbox", { name: /^Gearbox oil/ })
    .first()
    .check();
  await ines.getByRole("checkbox", { name: /^Hydraulic oil/ }).check();
  await ines
    .getByRole("row", { name: /Hydraulic oil, grade 46/ })
    .first()
    .click();
  await ines.getByText("Who can send it").waitFor();
  await ines.getByText("before tax").waitFor();
  await shoot(ines, "needs");
  await go(ines, house, "/bench/1");
  for (const way of ["Lowest landed cost", "All in time", "Fewest orders"])
    await ines
      .getByRole("article", { name: way })
      .getByText(/^proved/)
      .waitFor();
  await ines.getByRole("button", { name: "Take it: Lowest landed cost" }).click();
  await ines.getByRole("article", { name: "Lowest landed cost" }).getByText("in the grid").waitFor();
  await shoot(ines, "bench");
  for (const [path, name] of [
    ["/quotes/1", "quote"],
    ["/with-suppliers", "with-suppliers"],
    ["/set-aside", "set-aside"],
    ["/answers?at=4", "answers"],
  ] as const) {
    await go(ines, house, path);
    await shoot(ines, name);
  }
  await go(ines, house, "/with-suppliers?cut=part");
  await ines.getByRole("row", { name: /Puffin/ }).dblclick();
  await ines.waitForURL(/orders/);
  await shoot(ines, "order");
  await go(ines, house, "/suppliers/13");
  await shoot(ines, "supplier");
  await go(ines, house, "/items/8");
  await shoot(ines, "item");
  await go(ines, house, "/jobs/1");
  await shoot(ines, "job");

  const sunniva = await house.as("Sunniva");
  await go(sunniva, house, "/consigned");
  await sunniva.getByRole("row", { name: /BLT-M12/ }).click();
  await sunniva.getByRole("heading", { name: /become ours/ }).waitFor();
  await shoot(sunniva, "consigned");
  await go(sunniva, house, "/insight?columns=quarter");
  await sunniva.getByRole("table", { name: "Papers behind it" }).waitFor();
  await shoot(sunniva, "breakdown");
  await go(sunniva, house, "/insight/suppliers");
  await sunniva.getByRole("table", { name: "Suppliers" }).getByRole("link", { name: "Norrvik Rope & Rigging" }).click();
  await sunniva.getByText(/ in time, /).waitFor();
  await shoot(sunniva, "record");

  const petra = await house.as("Petra");
  await go(petra, house, "/settle");
  await petra.getByRole("link", { name: /TT-40117/ }).click();
  await petra.getByRole("heading", { name: "Held for the dock" }).waitFor();
  await ready(petra);
  await shoot(petra, "match");

  const maud = await house.as("Maud");
  await go(maud, house, "/sign-off");
  await shoot(maud, "sign-off");

  const tobias = await house.as("Tobias");
  await go(tobias, house, "/dock");
  await tobias.getByRole("link", { name: /Puffin/ }).click();
  await tobias.getByLabel(/^Counted Lifejacket/).fill("13");
  await tobias.getByLabel(/^Counted Hand flare/).fill("3");
  await tobias.getByLabel(/^Lot of Hand flare/).fill("PF-118");
  await tobias.getByLabel(/^Counted Lifebuoy/).fill("5");
  await tobias.getByRole("button", { name: "not good: Lifebuoy with light" }).click();
  await tobias.getByLabel(/^Not good of Lifebuoy/).fill("1");
  await tobias.getByLabel(/^What is wrong with Lifebuoy/).selectOption("damaged");
  await shoot(tobias, "dock");
  const walker = await house.as("Tobias", { width: 390, height: 844 });
  await go(walker, house, "/round");
  for (const [code, quantity] of [
    ["ENG-1540", "400"],
    ["TP-88", "2"],
  ] as const) {
    await walker.getByLabel("Scan or type a code").fill(code);
    await walker.keyboard.press("Enter");
    await walker.getByLabel("How many").fill(quantity);
    await walker.keyboard.press("Enter");
  }
  await walker.getByText("in the pool").nth(1).waitFor();
  await walker.getByLabel("Scan or type a code").fill("GLV-NIT");
  await walker.keyboard.press("Enter");
  await shoot(walker, "round-handheld");
  const handheld = await house.as("Tobias", { width: 390, height: 844 });
  await go(handheld, house, "/open-count");
  for (const code of ["LIF-ADU", "HYD-032", "HYD-032", "BRG-6310"]) {
    await handheld.getByLabel(/^Scan or type/).fill(code);
    await handheld.keyboard.press("Enter");
  }
  await handheld.getByText(/^Bearing.*one more/).waitFor();
  await shoot(handheld, "dock-handheld");
} finally {
  await house.close();
  await (await sharedBrowser()).close();
}
