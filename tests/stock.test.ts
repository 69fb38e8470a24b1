import { readFileSync } from "node:fs";
import type { Page } from "playwright-core";
import { PNG } from "pngjs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { prepareZXingModule, readBarcodes } from "zxing-wasm/reader";
import { wordsOn } from "../exchange/pdf/testing";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe("goods on the dock", () => {
  it("are stowed by scanner along the walk, and the page keeps what was ticked until it is sent", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/today");
    await page.getByRole("link", { name: /5 kinds of goods to stow/ }).click();
    await page.getByRole("heading", { level: 1, name: "Stow list" }).waitFor();
    await accessible(page, "the stow list");
    const scan = page.getByLabel("Scan goods, then their bin");
    await page.keyboard.press("c");
    for (const code of ["ANO-11W", "ANO-S60", "b9"]) {
      await scan.fill(code);
      await scan.press("Enter");
    }
    await page.getByText("Into b9").waitFor();
    await page.reload();
    await ready(page);
    expect(await page.getByRole("checkbox", { name: "Hull anode, 11 kg weld-on is put away" }).isChecked()).toBe(true);
    await page.getByText("2 of 5 put away").waitFor();
    await page.getByLabel("How much of Hull anode, 11 kg weld-on, in each").fill("40");
    await page.getByRole("button", { name: /^Stowed/ }).click();
    await page.getByText("Tarn Quay has no bin b9.").waitFor();
    await page.getByLabel("Bin for Shaft anode, 60 mm split").fill("b2");
    await page.getByRole("button", { name: /^Stowed/ }).click();
    await page
      .getByRole("status")
      .getByRole("link", { name: /^M26-\d+$/ })
      .click();
    await page.getByRole("heading", { level: 1, name: /^Stowed M26-\d+$/ }).waitFor();
    await page.getByRole("row", { name: /Shaft anode, 60 mm split .* 9 each dock B2/ }).waitFor();
    await accessible(page, "a paper of the stock");
    const paper = await page.request.get(`${page.url()}/paper.pdf`);
    expect([paper.status(), paper.headers()["content-type"]]).toEqual([200, "application/pdf"]);
    const list = await page.request.get(`${house.url}/stow/list.pdf`);
    expect(list.status()).toBe(200);
    await go(page, house, "/stow");
    expect(await page.getByLabel("How much of Hull anode, 11 kg weld-on, in each").inputValue()).toBe("2");
  });

  it("are found on their shelf, moved, issued to a job and given back, by keys alone", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/shelves");
    await accessible(page, "the shelves");
    await page.keyboard.press("c");
    await page.keyboard.type("ANO-11W");
    await page.keyboard.press("Enter");
    await page
      .getByRole("row", { name: /Hull anode, 11 kg weld-on/ })
      .nth(1)
      .click();
    await page.getByRole("complementary").getByText("bin B22").waitFor();
    await page.keyboard.press("m");
    await page.getByLabel("How much").fill("5");
    await page.getByLabel("Into bin, or empty for the dock").fill("B6");
    await page.keyboard.press("Enter");
    await page.getByRole("rowgroup").getByText("B6", { exact: true }).waitFor();
    await page.getByRole("row", { name: /Hull anode.* 5 each/ }).click();
    await page.getByRole("complementary").getByText("bin B6").waitFor();
    await page.getByRole("button", { name: "Issue it to a job, or to somebody" }).click();
    await page.getByLabel("How much").fill("6");
    await page.getByLabel("Job", { exact: true }).selectOption({ label: "no job" });
    await page.getByRole("button", { name: "Issue", exact: true }).click();
    await page.getByText("Say for which job, or who gets it and what for.").waitFor();
    await page.getByLabel("Who gets it and what for, where there is no job").fill("to the workshop");
    await page.getByRole("button", { name: "Issue", exact: true }).click();
    await page.getByText("Only 5 each of Hull anode, 11 kg weld-on lie in B6.").waitFor();
    await page.getByLabel("How much").fill("5");
    await page.getByRole("button", { name: "Issue", exact: true }).click();
    await page.getByRole("rowgroup").getByText("B6", { exact: true }).waitFor({ state: "detached" });
    await go(page, house, "/stock-papers");
    await page.getByRole("row", { name: /Issued .*to the workshop/ }).waitFor();
    await accessible(page, "papers of the stock");
  });
});

/** What a reader of codes that knows nothing of us reads from a picture on the page. */
async function readBack(page: Page, label: string): Promise<{ format: string; text: string }[]> {
  const canvas = page.getByRole("img", { name: label }).locator("canvas");
  await canvas.waitFor();
  const url = await canvas.evaluate((c) => (c as HTMLCanvasElement).toDataURL("image/png")); // it is one
  const png = PNG.sync.read(Buffer.from(url.split(",")[1]!, "base64"));
  const wasm = readFileSync("node_modules/zxing-wasm/dist/reader/zxing_reader.wasm");
  await prepareZXingModule({ overrides: { wasmBinary: new Uint8Array(wasm).buffer }, fireImmediately: true });
  const image = {
    data: new Uint8ClampedArray(png.data),
    width: png.width,
    height: png.height,
    colorSpace: "srgb" as const,
  };
  return (await readBarcodes(image, { formats: ["Code128", "DataMatrix"] })).map(({ format, text }) => ({
    format,
    text,
  }));
}

describe("labels", () => {
  it("are drawn in layouts of one's own, and a scanner reads them back", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/label-layouts");
    await accessible(page, "layouts of labels");
    await page.getByRole("row", { name: /^Goods, roll/ }).click();
    await page
      .getByRole("img", { name: /^A label in this layout/ })
      .locator("canvas")
      .waitFor();
    await page.getByLabel("High").fill("15");
    await page.getByText("No room for: lot or serial number, keeps until, how much, order.").waitFor();
    await page.getByLabel("High").fill("500");
    await page.getByText("From 8 to 297 mm.").waitFor();
    await page.getByLabel("High").fill("36");
    await page.getByText("From 8 to 297 mm.").waitFor({ state: "detached" });
    expect(await readBack(page, "A label in this layout, as it prints")).toEqual([
      { format: "DataMatrix", text: "(01)04006381333931(10)L-2291" },
    ]);
    await page.getByRole("button", { name: "Another layout" }).click();
    await page.getByLabel("Name", { exact: true }).fill("Shelf strip");
    await page.getByLabel("Wide").fill("60");
    await page.getByRole("button", { name: "name further down" }).click();
    await page.getByRole("button", { name: "Make the layout" }).click();
    await page.getByRole("row", { name: /^Shelf strip/ }).waitFor();
  });

  it("are printed for what came, as many as came, without a price", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/stock-papers");
    await go(page, house, "/labels?item=1&store=1");
    expect(await readBack(page, "The first label, as it prints")).toEqual([{ format: "Code128", text: "ANO-11W" }]);
    await accessible(page, "labels");
    await page.getByLabel("Labels of Hull anode, 11 kg weld-on").fill("1.5");
    await page.getByText("How many is a whole number.").waitFor();
    await page.getByLabel("Labels of Hull anode, 11 kg weld-on").fill("60");
    await page.getByLabel("Places of the first sheet that are used").selectOption("3");
    await page.getByRole("button", { name: /^Draw 60 labels/ }).click();
    const link = page.getByRole("link", { name: "keep the file" });
    await link.waitFor();
    const [download] = await Promise.all([page.waitForEvent("download"), link.click()]);
    const words = await wordsOn(readFileSync(await download.path()));
    expect(words.map((p) => p.split("ANO-11W").length - 1)).toEqual([21, 24, 15]);
    expect(words.join(" ")).not.toMatch(/€|EUR|\d\.\d\d/);
  });
});

describe("a count of the stock", () => {
  it("is counted blind by the dock, judged by the lead, and booked", async () => {
    const dock = await house.as("Tobias");
    await go(dock, house, "/stock-counts/1");
    expect(await dock.getByText("3 more").count()).toBe(0);
    await go(dock, house, "/stock-counts");
    await dock.getByRole("row", { name: /bins B1 to B24.* Counted 8 of 8 · / }).waitFor();
    await go(dock, house, "/stock-counts/1");
    const lead = await house.as("Sunniva");
    await go(lead, house, "/today");
    await lead.getByRole("link", { name: /Count C26-1001, bins B1 to B24/ }).click();
    await lead.getByRole("heading", { level: 1, name: "Count C26-1001" }).waitFor();
    await lead.getByText("3 more").first().waitFor();
    await accessible(lead, "a count to be judged");
    await lead.getByRole("row", { name: /Lip seal/ }).click();
    await lead.getByRole("button", { name: "Have it counted again" }).click();
    await lead.getByLabel("What to look for").fill("behind the door");
    await lead.getByRole("button", { name: "Count again" }).click();
    await lead.getByText("7 of 8 counted").waitFor();
    await dock.reload();
    await ready(dock);
    await dock.getByText("count it again").waitFor();
    const scan = dock.getByLabel("Scan a bin, or goods");
    await scan.fill("SEA-LIP");
    await scan.press("Enter");
    await dock.getByText("Lip seal, 80 by 105, B13").waitFor();
    await dock.getByLabel("Counted Lip seal, 80 by 105, B13, in each").fill("nine");
    await dock.getByText("A count is not a number.").waitFor();
    await dock.getByLabel("Counted Lip seal, 80 by 105, B13, in each").fill("9");
    await accessible(dock, "a count sheet of the stock");
    await dock.getByRole("button", { name: /^Hand in/ }).click();
    await dock.getByText("8 of 8 counted").waitFor();
    await lead.reload();
    await ready(lead);
    await lead.getByText("1 missing").first().waitFor();
    await lead.getByRole("button", { name: /^Book all 2 that differ/ }).click();
    await lead.getByRole("button", { name: "Book the count" }).click();
    await lead.getByText("Booked by Sunniva Brack").waitFor();
    await lead.getByRole("link", { name: /^M26-/ }).click();
    await lead.getByRole("row", { name: /Sea chest anode, 2 kg .*\+3 each/ }).waitFor();
  });

  it("is begun for a range of bins, and bins are kept by whoever works there", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/bins");
    await accessible(page, "bins");
    await page.keyboard.press("+");
    await page.getByLabel("Bin, or the first of a range").fill("Q1");
    await page.getByLabel("To, for a range").fill("Q4");
    await page.getByRole("button", { name: "Make", exact: true }).click();
    await page.getByText(/^\d+ bins$/).waitFor();
    await page.getByLabel("Bin, or the first of a range").waitFor({ state: "detached" });
    await go(page, house, "/stock-counts");
    await page.keyboard.press("+");
    await page.getByLabel("From bin").fill("Q1");
    await page.getByLabel("To bin").fill("Q4");
    await page.getByRole("button", { name: "Make the list" }).click();
    await page.getByText("Nothing lies there to be counted.").waitFor();
    await page.getByLabel("From bin").fill("A1");
    await page.getByLabel("To bin").fill("A9");
    await page.getByRole("button", { name: "Make the list" }).click();
    await page.getByRole("heading", { level: 1, name: "Count C26-1002" }).waitFor();
    await page.getByText("0 of 4 counted").waitFor();
  });
});
