import { afterAll, beforeAll, describe, expect, it } from "vitest";
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
    await page.getByRole("status").getByRole("link", { name: "M26-1001" }).click();
    await page.getByRole("heading", { level: 1, name: "Stowed M26-1001" }).waitFor();
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

describe("a count of the stock", () => {
  it("is counted blind by the dock, judged by the lead, and booked", async () => {
    const dock = await house.as("Tobias");
    await go(dock, house, "/stock-counts/1");
    expect(await dock.getByText("3 more").count()).toBe(0);
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
    await page.getByRole("button", { name: "Make the list" }).click();
    await page.getByText("Nothing lies there to be counted.").waitFor();
    await page.getByLabel("From bin").fill("A1");
    await page.getByLabel("To bin").fill("A9");
    await page.getByRole("button", { name: "Make the list" }).click();
    await page.getByRole("heading", { level: 1, name: "Count C26-1002" }).waitFor();
    await page.getByText("0 of 4 counted").waitFor();
  });
});
