import { readFileSync } from "node:fs";
import { unzipSync } from "fflate";
import type { Page } from "playwright-core";
import { PNG } from "pngjs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { wordsOn } from "../exchange/pdf/testing";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

/** What a link saves. */
async function saved(page: Page, name: RegExp | string): Promise<Buffer> {
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name }).click()]);
  return readFileSync((await file.path())!);
}
/** The paper of an order as it is drawn now. */
async function paperOf(page: Page, order: string): Promise<string> {
  const answer = await page.request.get(`${house.url}${order}/paper.pdf`);
  return (await wordsOn(await answer.body())).join(" ");
}
const drafted = async (page: Page) => {
  await go(page, house, "/orders?state=Draft");
  const row = page.getByRole("row", { name: /Draft/ }).nth(1);
  await row.dblclick();
  await page.waitForURL(/orders\/\d+$/);
  await ready(page);
  return new URL(page.url()).pathname;
};

describe("papers and letters", () => {
  it("are shown as they print while they are written, and kept for what is printed from then on", async () => {
    const page = await house.as("Sunniva");
    const order = await drafted(page);
    expect(await paperOf(page, order)).not.toMatch(/Wharfinger/);
    await go(page, house, "/papers");
    const paper = page.getByRole("img", { name: "The paper as it prints" });
    await paper.locator("canvas").first().waitFor();
    await accessible(page, "papers and letters");
    const drawn = page.waitForResponse((r) => r.url().endsWith("/papers/preview") && r.status() === 200);
    await page.getByLabel("Below the totals").fill("Ask for the Wharfinger at {place}.");
    await drawn;
    await page.getByLabel("At the foot of each page").fill("See {page}");
    await page.getByText("{page} stands for nothing. Choose from the list beside.").waitFor();
    await page.getByLabel("At the foot of each page").fill("Name {number}");
    await page.getByText("{page} stands for nothing").waitFor({ state: "detached" });
    // Looking at another language loses nothing of what was typed.
    await page.getByRole("button", { name: "Deutsch" }).click();
    await page.waitForURL(/language=de/);
    await expect.poll(() => page.getByLabel("At the foot of each page").inputValue()).toMatch(/^Bitte nennen Sie/);
    await page.getByRole("button", { name: "English, ours" }).click();
    await page.waitForURL(/language=en/);
    await expect.poll(() => page.getByLabel("Below the totals").inputValue()).toMatch(/Wharfinger/);
    await page.getByRole("button", { name: "The e-mail" }).click();
    await page.getByLabel("Subject of the e-mail").fill("{title}, please read");
    await page
      .getByRole("article", { name: "The e-mail" })
      .getByText(/^Purchase order 26-\d+, please read$/)
      .waitFor();
    await page.getByRole("button", { name: "Keep", exact: true }).click();
    await page.getByText("Kept: papers from now on look like this.").waitFor();
    expect(await paperOf(page, order)).toMatch(/Ask for the Wharfinger at .* store\./);
  });

  it("bear the company's logo, and no file that is no picture", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/papers");
    const choose = (name: string, buffer: Buffer) =>
      page.getByLabel(/A PNG or JPEG picture/).setInputFiles({ name, mimeType: "image/png", buffer });
    await choose("logo.png", Buffer.from("this is a letter"));
    await page.getByRole("button", { name: "Put the logo on" }).click();
    await page.getByText(/This is no PNG or JPEG picture that can be printed/).waitFor();
    await choose("logo.png", PNG.sync.write(new PNG({ width: 60, height: 20 })));
    await page.getByRole("button", { name: "Put the logo on" }).click();
    await page.getByText("Your logo stands at the head of all papers.", { exact: false }).waitFor();
    await page.getByRole("button", { name: "Take the logo off…" }).click();
    await page.getByRole("button", { name: "Take it off" }).click();
    await page.getByRole("button", { name: "Put the logo on" }).waitFor();
  });

  it("have standing texts for every supplier, or for one kind of order", async () => {
    const page = await house.as("Sunniva");
    const order = await drafted(page);
    await go(page, house, "/papers");
    const texts = page.getByRole("region", { name: "Standing texts" });
    await texts.getByLabel("A new text").fill("No drums with dents.");
    await texts.getByLabel("On").selectOption("one-off");
    await texts.getByRole("button", { name: "Add the text" }).click();
    await texts.getByText("every supplier, each order").waitFor();
    expect(await paperOf(page, order)).toMatch(/No drums with dents\./);
  });
});

describe("an order that goes out", () => {
  it("goes to the people who are chosen, with a message for this once, and can be sent again", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders?state=Cleared&sort=number");
    await page
      .getByRole("row", { name: /Cleared/ })
      .first()
      .dblclick();
    await page.waitForURL(/orders\/\d+$/);
    await ready(page);
    const contact = page.getByRole("group", { name: "Who gets it" }).getByRole("checkbox").first();
    await contact.uncheck();
    await page.getByRole("button", { name: /^Place the order/ }).click();
    await page.getByText("Choose at least one person.").first().waitFor();
    await contact.check();
    await page.getByRole("button", { name: "Change the message for this once" }).click();
    await page.getByLabel("Subject").fill("Rush order {number}");
    await accessible(page, "an order that waits to be placed");
    await page.getByRole("button", { name: /^Place the order/ }).click();
    await page.getByRole("button", { name: "Send it by e-mail again…" }).click();
    await page.getByRole("button", { name: "Send it again" }).click();
    await expect.poll(() => page.getByRole("link", { name: /^e-mailed/ }).count()).toBe(2);
    await go(page, house, "/outbox");
    await page
      .getByText(/^Rush order 26-\d+$/)
      .first()
      .waitFor();
  });
});

describe("many papers at once", () => {
  it("are printed in one archive, in a worker, with the page live and the progress shown", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders?state=With supplier&sort=number");
    await page.getByRole("button", { name: "Papers" }).click();
    await page.getByLabel("without prices").check();
    const [, all] = /^Print (\d+) papers$/.exec(await page.getByRole("button", { name: /^Print/ }).innerText())!;
    await page.getByRole("button", { name: /^Print/ }).click();
    await page.waitForURL(/batches\/\d+$/);
    await page.getByRole("heading", { level: 1, name: `Papers of ${all} orders` }).waitFor();
    await page.getByRole("heading", { name: "Done" }).waitFor({ timeout: 60_000 });
    await accessible(page, "a batch");
    const papers = unzipSync(await saved(page, /^Save \d+ papers/));
    expect(Object.keys(papers)).toHaveLength(Number(all));
    const [words] = await wordsOn(Object.values(papers)[0]!);
    expect(words).toMatch(/Purchase order 26-/);
    expect(words).not.toMatch(/Total/);
    await go(page, house, "/batches");
    await page.getByRole("row", { name: /Papers of \d+ orders.*done/ }).waitFor();
    await accessible(page, "batches");
  });

  it("are placed together: what cannot be says why", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/orders?state=Cleared,Draft");
    await page
      .getByRole("checkbox", { name: /^Draft/ })
      .first()
      .check();
    await page
      .getByRole("row", { name: /Cleared/ })
      .first()
      .getByRole("checkbox")
      .check();
    await page.getByRole("button", { name: "Papers" }).click();
    await page.getByLabel("the 2 ticked").check();
    await page.getByRole("button", { name: "Place 2 orders…" }).click();
    await page.getByRole("button", { name: "Place them" }).click();
    await page.waitForURL(/batches\/\d+$/);
    await page.getByRole("heading", { name: "Done" }).waitFor({ timeout: 30_000 });
    await page.getByText(/is draft: it cannot be placed/).waitFor();
    await page.getByText(/^placed, to .*@/).waitFor();
    await page.getByText("1 refused").waitFor();
  });
});
