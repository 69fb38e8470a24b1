import { join } from "node:path";
import Database from "better-sqlite3";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const PHONE = { width: 390, height: 844 };
const heading = (page: Page, name: string | RegExp) => page.getByRole("heading", { level: 1, name }).waitFor();
const scan = async (page: Page, code: string) => {
  await page.getByLabel("Scan or type an item, their code or a barcode").fill(code);
  await page.getByLabel("Scan or type an item, their code or a barcode").press("Enter");
};
const inFile = (text: string) => {
  const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
  const n = db.prepare(text).pluck().get();
  db.close();
  return n;
};
/** The pages of the dock, and all that they are made of, are on the device. */
const onDevice = (page: Page, path: string) =>
  expect
    .poll(
      () =>
        page.evaluate(async (p) => {
          const cache = await caches.open("wharf-away-1");
          const keys = new Set((await cache.keys()).map((k) => new URL(k.url).pathname));
          const files = performance.getEntriesByType("resource").map((r) => new URL(r.name).pathname);
          return (
            keys.has(p) &&
            files.filter((f) => f.startsWith("/assets/")).every((f) => keys.has(f)) &&
            navigator.serviceWorker.controller?.state === "activated"
          );
        }, path),
      { timeout: 20_000, interval: 200 },
    )
    .toBe(true);

describe("without a connection", () => {
  it("the open count opens, knows what should come and its codes, and keeps what was counted until it is sent, once", async () => {
    const page = await house.as("Tobias", PHONE);
    await go(page, house, "/open-count");
    await page.getByRole("region", { name: "What should come" }).waitFor();
    await onDevice(page, "/open-count");
    const list = page.getByRole("region", { name: "What should come" }).getByRole("listitem");
    const before = await list.count();
    await page.context().setOffline(true);
    await page.reload();
    await ready(page);
    await heading(page, "Open count");
    expect(await list.count()).toBe(before);
    await page.getByText("No connection. What you count is kept on this device.").waitFor();
    await scan(page, "NOT-OURS");
    await page.getByText(/this device does not know the code/).waitFor();
    await scan(page, "LIF-ADU");
    await page.getByText(/^Lifejacket, adult: one more/).waitFor();
    await page.getByLabel("Number of the delivery note").fill("AWAY 1");
    // The battery goes empty, and comes back.
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("Counted Lifejacket, adult, in each").inputValue()).toBe("1");
    await accessible(page, "an open count without a connection");
    await page.getByRole("button", { name: /^Take into stock/ }).click();
    await page.getByText(/^1 count waits to be sent: Tarn Quay: 26-\d+/).waitFor();
    await page.reload();
    await ready(page);
    await page.getByText(/^1 count waits to be sent/).waitFor();
    await page.context().setOffline(false);
    await page.getByText(/^Sent: Tarn Quay: 26-\d+/).waitFor();
    await page.reload();
    await ready(page);
    expect(await page.getByText(/waits to be sent/).count()).toBe(0);
    expect(inFile("SELECT count(*) FROM receipt WHERE delivery_note = 'AWAY 1'")).toBe(1);
  });

  it("two devices at one load: the second is told what changed, and nothing comes in twice", async () => {
    const one = await house.as("Tobias", PHONE);
    const two = await house.as("Tobias", { width: 391, height: 844 });
    await go(one, house, "/dock");
    await one
      .getByRole("navigation", { name: "Coming in" })
      .getByRole("link", { name: /Tern & Tallow/ })
      .first()
      .click();
    await heading(one, "Count sheet");
    const address = new URL(one.url()).pathname;
    await onDevice(one, address);
    await one.context().setOffline(true);
    await one.getByRole("button", { name: /^Rest as ordered/ }).click();
    await one.getByRole("button", { name: /^Take into stock/ }).click();
    await one.getByText(/^1 count waits to be sent: 26-\d+, Tern & Tallow/).waitFor();
    // Meanwhile the same load is taken in by somebody who has a connection.
    await go(two, house, address);
    await two.getByRole("button", { name: /^Rest as ordered/ }).click();
    await two.getByRole("button", { name: /^Take into stock/ }).click();
    await heading(two, /^Receipt D26-/);
    await one.context().setOffline(false);
    await one.getByText(/, counted .*: 26-\d+ is all in: it is not expected on the dock\./).waitFor();
    await one.getByRole("button", { name: "forget it" }).click();
    await one.reload();
    await ready(one);
    await one.getByText("all in").first().waitFor();
    const order = address.split("/").at(-1);
    expect(inFile(`SELECT count(*) FROM receipt WHERE purchase_order = ${order}`)).toBe(1);
  });
});
