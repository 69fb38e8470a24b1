import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const kept = (page: Page) =>
  page
    .getByRole("status")
    .filter({ hasText: /^kept$/ })
    .waitFor();
const heading = (page: Page, name: string | RegExp) => page.getByRole("heading", { level: 1, name }).waitFor();
const state = (page: Page, name: string) => page.locator("div:has(> h1)").getByText(name, { exact: true }).waitFor();

/** From somebody's wish to goods on the shelf, each part by the one whose job it is. */
describe("a need becomes goods on the shelf", () => {
  let requisition = "";
  let order = "";
  let orderPath = "";

  it("the requester asks for goods and a service, kept as it is typed", async () => {
    const page = await house.visitor();
    await page.goto(house.url);
    await page.getByRole("button", { name: /^Joss/ }).click();
    await page.waitForURL(`${house.url}/today`);
    await go(page, house, "/requisitions");
    await page.getByRole("button", { name: /New requisition/ }).click();
    await heading(page, "New requisition");
    await page.getByLabel("For which store").selectOption({ label: "Tarn Quay" });
    await page.getByLabel("Needed by").fill("2026-12-18");
    await page.getByLabel("What for").fill("Gearbox of Knot, <b>urgent</b>");
    const item = page.getByRole("combobox", { name: "Line 1: item or service" });
    await item.pressSequentially("GBX-0");
    await page.getByRole("option", { name: /Gearbox oil, SAE 90/ }).click();
    await page.getByLabel("Line 1: quantity").fill("400");
    await page.getByLabel("Line 1: quantity").press("Enter");
    await page
      .getByRole("combobox", { name: "Line 2: item or service" })
      .pressSequentially("Flush the gearbox, two men for a day");
    await page.getByLabel("Line 2: quantity").fill("1");
    await page.getByLabel(/^Line 2: about how much/).fill("760");
    await kept(page);
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("What for").inputValue()).toBe("Gearbox of Knot, <b>urgent</b>");
    expect(await page.getByLabel("Line 1: quantity").inputValue()).toBe("400");
    await page.getByText("€2,380.00").first().waitFor(); // 400 L at 4.05 and 760.00
    await page.getByRole("button", { name: "Hand in" }).click();
    await heading(page, /^Requisition R26-/);
    requisition = (await page.getByRole("heading", { level: 1 }).innerText()).replace("Requisition ", "");
    await state(page, "In sign-off");
    await page.getByText("Waits for the yard manager").waitFor();
  });

  it("the yard manager signs it", async () => {
    const page = await house.at("Maud", "/today");
    await page.getByRole("link", { name: new RegExp(`Requisition ${requisition}, Gearbox of Knot`) }).click();
    await page.getByRole("button", { name: /^Sign €2,380.00/ }).click();
    await state(page, "Open");
  });

  it("the buyer ticks the needs, reads the sum, and writes the order", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?source=requisition");
    await page.getByRole("row", { name: /Gearbox oil, SAE 90/ }).click();
    await page.getByRole("cell", { name: "2 drum", exact: true }).waitFor();
    await page.getByRole("rowheader", { name: /Tern & Tallow/ }).waitFor();
    await page.getByRole("row", { name: /Flush the gearbox/ }).click();
    const service = page.getByRole("checkbox", { name: /Flush the gearbox/ });
    expect(await service.isDisabled()).toBe(true); // nobody does it yet
    await page.getByLabel("Who does it").selectOption({ label: "Fairlead Engine Spares" });
    await page.getByRole("button", { name: "Choose" }).click();
    await page.waitForFunction(
      () => !document.querySelector<HTMLInputElement>('input[aria-label^="Flush the gearbox"]')?.disabled,
    );
    await service.check();
    await page
      .getByRole("checkbox", { name: /^Gearbox oil, SAE 90/ })
      .first()
      .check();
    const quantity = page.getByLabel(/^Quantity of Gearbox oil, SAE 90/);
    await quantity.fill("many");
    await page.getByRole("alert").getByText("A quantity is not a number above zero.").waitFor();
    await quantity.fill("2");
    const write = page.getByRole("button", { name: /^Write 2 orders/ });
    await Promise.all([page.waitForURL(/\/bench\?written=/), write.dblclick()]);
    await heading(page, "Bench");
    // a second click wrote nothing more
    expect(await page.getByRole("row", { name: /Tern & Tallow Lubricants Draft/ }).count()).toBe(1);
    await page.reload();
    await ready(page);
    expect(await page.getByRole("row", { name: /Tern & Tallow Lubricants Draft/ }).count()).toBe(1);
    await page.getByRole("row", { name: /Tern & Tallow Lubricants Draft/ }).dblclick();
    await page.waitForURL(/\/orders\/\d+/);
    orderPath = new URL(page.url()).pathname;
    expect(await page.getByLabel("Line 1: price per drum in EUR").inputValue()).toBe("810.00");
    await page.getByText("price list, from 1").first().waitFor();
    // five drums come at another price; the total follows
    await page.getByLabel("Line 1: quantity in drum").fill("5");
    await page.getByText("price list, from 5").first().waitFor();
    expect(await page.getByLabel("Line 1: price per drum in EUR").inputValue()).toBe("773.55");
    await page.getByRole("contentinfo").getByText("€3,867.75").waitFor();
    await kept(page);
    await page.getByRole("button", { name: /Send to sign-off/ }).click();
    await heading(page, /^Order 26-/);
    order = (await page.getByRole("heading", { level: 1 }).innerText()).replace("Order ", "");
    await state(page, "In sign-off");
    expect(await page.getByLabel("Line 1: quantity in drum").count()).toBe(0); // locked
  });

  it("the approver sends it back with a reason, the buyer mends it, the approver signs", async () => {
    const maud = await house.as("Maud");
    await go(maud, house, orderPath);
    await maud.getByRole("button", { name: "Send it back…" }).click();
    await maud.getByRole("button", { name: "Send back" }).click();
    await maud.getByText("Say why, so that the writer knows what to change.").waitFor();
    await maud.getByLabel(/^Why, so that/).fill("Three drums are enough this year");
    await maud.getByRole("button", { name: "Send back" }).click();
    await state(maud, "Draft");
    const ines = await house.at("Ines", "/today");
    await ines.getByRole("link", { name: `Order ${order} was sent back` }).click();
    await ines.getByText("Three drums are enough this year").first().waitFor();
    await ines.getByLabel("Line 1: quantity in drum").fill("3");
    await ines.getByRole("contentinfo").getByText("€2,430.00").waitFor();
    await kept(ines);
    await ines.getByRole("button", { name: /Send to sign-off/ }).click();
    await state(ines, "In sign-off");
    await go(maud, house, "/sign-off");
    await maud.getByRole("row", { name: new RegExp(order) }).dblclick();
    await heading(maud, `Order ${order}`);
    await ready(maud);
    await maud.getByRole("button", { name: /^Sign €2,525.00/ }).click();
    await state(maud, "Cleared");
  });

  it("the buyer places it: a PDF, an e-mail in the outbox, and no way back", async () => {
    const page = await house.as("Ines");
    await go(page, house, orderPath);
    await page.getByRole("button", { name: /Place the order/ }).click();
    await state(page, "With supplier");
    // Others asked for signatures.
    const mails = readdirSync(join(house.folder, "outbox"))
      .filter((f) => f.includes(order) && f.endsWith(".eml"))
      .map((f) => readFileSync(join(house.folder, "outbox", f), "latin1"));
    expect(mails.filter((m) => /Content-Type: application\/pdf[\s\S]*order-26-/.test(m))).toHaveLength(1);
    const pdf = await page.request.get(`${house.url}${orderPath}/paper.pdf`);
    expect(pdf.headers()["content-type"]).toBe("application/pdf");
    expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
    expect(await page.getByRole("button", { name: /Cancel|Delete/ }).count()).toBe(0);
    await page.getByRole("link", { name: /^e-mailed/ }).click();
    await page.getByText(`please find our order ${order} attached: 1 line`).waitFor();
  });

  it("the dock hand counts part in, then the rest, and stock rises in litres", async () => {
    const page = await house.as("Tobias");
    await go(page, house, "/dock");
    await page.getByRole("link", { name: new RegExp(order) }).click();
    await heading(page, "Count sheet");
    await page.getByLabel(/^Scan or type/).fill("GBX-090");
    await page.getByLabel(/^Scan or type/).press("Enter");
    await page.getByText("200 L into stock").waitFor();
    const counted = page.getByLabel("Counted Gearbox oil, SAE 90, in drum");
    await counted.fill("9");
    await page.getByText("6 over, waits for Ines Rathmore").waitFor();
    await counted.fill("90");
    await page.getByRole("button", { name: /^Take into stock/ }).click();
    await page.getByText("90 of 3 ordered is surely a slip.").waitFor();
    await counted.fill("1");
    await page.reload();
    await ready(page);
    expect(await counted.inputValue()).toBe("1"); // nothing typed is lost
    await page.getByLabel("Number of the delivery note").fill("TT 5521");
    await page.getByRole("button", { name: /^Take into stock/ }).click();
    await heading(page, /^Receipt D26-/);
    await page.getByRole("cell", { name: "200 L" }).waitFor();
    await page.getByRole("cell", { name: "304", exact: true }).waitFor(); // 104 were there
    await page.getByRole("link", { name: new RegExp(`still open on ${order}`) }).click();
    await state(page, "Part in");
    // What was taken in is not counted once more: neither where one goes on nor where one comes again.
    expect(await counted.inputValue()).toBe("");
    await page.reload();
    await ready(page);
    expect(await counted.inputValue()).toBe("");
    expect(await page.getByRole("button", { name: /^Take into stock/ }).isDisabled()).toBe(true);
    await page.getByRole("button", { name: "Rest as ordered" }).click();
    await page.getByRole("button", { name: /^Take into stock/ }).click();
    await page.getByRole("cell", { name: "704", exact: true }).waitFor();
  });

  it("the order is all in, and its strip says so", async () => {
    const page = await house.as("Ines");
    await go(page, house, orderPath);
    await state(page, "All in");
    await page.getByRole("img", { name: "3 of 3 drum received" }).waitFor();
  });

  it("the requester was told, and sees the whole trail, each paper a link", async () => {
    const page = await house.at("Joss", "/today");
    const news = page.getByRole("region", { name: "News for you" });
    await news.getByText("Ordered: Gearbox oil, SAE 90").waitFor();
    await news.getByText("Came in: Gearbox oil, SAE 90", { exact: true }).waitFor();
    await news.getByRole("link", { name: "Came in: Gearbox oil, SAE 90", exact: true }).click();
    await heading(page, `Requisition ${requisition}`);
    await state(page, "Ordered"); // the service is not done yet
    for (const entry of [
      `Order ${order} written`,
      `Order ${order} placed`,
      "Sent back by Maud Ostrander",
      "Signed by Maud Ostrander",
    ]) {
      await page.getByRole("link", { name: entry }).first().waitFor();
    }
    await page
      .getByRole("link", { name: /^Receipt D26-\d+, counted in by Tobias Quell/ })
      .first()
      .click();
    await heading(page, /^Receipt/);
    await page.goBack();
    await page.getByRole("link", { name: `Order ${order} placed` }).click();
    await heading(page, `Order ${order}`);
    expect(await page.getByText("€").count()).toBe(0); // an asker sees no prices of ours
    const data = await page.request.get(`${page.url()}.data`);
    expect(data.ok()).toBe(true);
    for (const field of ["price", "net", "freight", "rate", "terms", "ownNote", "committedValue", "totals"])
      expect(await data.text()).not.toContain(`"${field}"`);
  });
});

describe("files", () => {
  it("are checked whole, every fault listed, and loaded entirely or not at all", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/files");
    const load = async (name: string, text: string) => {
      const file = join(house.folder, name);
      writeFileSync(file, text);
      await page.getByLabel("File", { exact: true }).setInputFiles(file);
      await page.getByRole("button", { name: /^Check and load/ }).click();
    };
    await load("items.csv", "code;name;unit;tax\nZZ-1;Good;each;20\nZZ-2;Bad;fathom;20\nZZ 3;Bad;each;200\n");
    await page.getByRole("alert").getByText("Nothing was loaded: 3 faults in the file.").waitFor();
    await page.getByRole("row", { name: /^3 unit fathom No such unit/ }).waitFor();
    await page.getByRole("row", { name: /^4 code ZZ 3/ }).waitFor();
    await page.getByRole("row", { name: /^4 tax 200 Between 0 and 100/ }).waitFor();
    await load("items.csv", "code;name;unit;tax\nZZ-1;Good;each;20\nZZ-2;Good too;L;12,5\n");
    await page.getByRole("row", { name: /^3 tax 12,5/ }).waitFor();
    await page.getByLabel("Numbers are written").selectOption("comma");
    await page.getByRole("button", { name: /^Check and load/ }).click();
    await page.getByRole("status").getByText("Loaded 2 rows: 2 new, 0 changed, 0 as before.").waitFor();
    const saved = await page.request.get(`${house.url}/files/items/save.csv`);
    expect(await saved.text()).toContain("ZZ-2,Good too,stocked,,LTR,,12.5,");
  });

  it("of the demo stand in demo/files and can be loaded as they are", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/files");
    for (const kind of ["stores", "items", "suppliers", "sourcing", "prices"]) {
      await page.getByLabel("The file holds").selectOption(kind);
      await page.getByLabel("File", { exact: true }).setInputFiles(`demo/files/${kind}.csv`);
      await page.getByRole("button", { name: `Check and load ${kind}` }).click();
      await page
        .getByRole("status")
        .getByText(/ 0 new, /)
        .waitFor();
      await page.reload();
      await ready(page);
    }
  });
});

describe("two people at one draft", () => {
  it("never overwrite each other: the second is shown what changed, and chooses", async () => {
    const ines = await house.as("Ines");
    await go(ines, house, "/bench");
    await ines.getByRole("row", { name: /Mirren/ }).dblclick();
    await ines.waitForURL(/\/orders\//);
    const path = new URL(ines.url()).pathname;
    const sunniva = await house.as("Sunniva");
    await go(sunniva, house, path);
    await ines.getByLabel("Line 1: quantity in coil").fill("3");
    await kept(ines);
    await sunniva.getByLabel("Line 1: quantity in coil").fill("7");
    await sunniva.getByText("Nothing was overwritten; choose which to go on with.").waitFor();
    await sunniva.getByRole("row", { name: /^Line 1 3 at .* 7 at/ }).waitFor();
    await sunniva.getByRole("button", { name: "Keep mine" }).click();
    await kept(sunniva);
    await ines.reload();
    await ready(ines);
    expect(await ines.getByLabel("Line 1: quantity in coil").inputValue()).toBe("7");
  });

  it("is no other person where the answer to a save was lost: it is sent again as the same", async () => {
    const page = await house.as("Joss");
    await go(page, house, "/requisitions/6");
    let lost = 0;
    await page.route("**/requisitions/6/keep", async (route) => {
      await route.fetch();
      lost++;
      await route.abort();
    });
    await page.getByLabel("What for").fill("Ramp hinge of Dunlin, starboard side");
    await page.getByText(/no connection: kept in this browser/).waitFor();
    expect(lost).toBeGreaterThan(0);
    await page.unroute("**/requisitions/6/keep");
    await kept(page);
    expect(await page.getByText(/choose which to go on with/).count()).toBe(0);
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("What for").inputValue()).toBe("Ramp hinge of Dunlin, starboard side");
  });

  it("finds what was not kept before a crash", async () => {
    const page = await house.as("Joss");
    await go(page, house, "/requisitions/6");
    await page.route("**/requisitions/6/keep", (route) => route.abort());
    await page.getByLabel("What for").fill("Ramp hinge of Dunlin, after the crash");
    await page.getByText(/no connection: kept in this browser/).waitFor();
    await page.close({ runBeforeUnload: false });
    const again = await house.as("Joss");
    await go(again, house, "/requisitions/6");
    await again.getByLabel("What for").and(again.locator('[value*="after the crash"], textarea')).first().waitFor();
    await kept(again);
    expect(await again.getByLabel("What for").inputValue()).toBe("Ramp hinge of Dunlin, after the crash");
    await again.reload();
    await ready(again);
    expect(await again.getByLabel("What for").inputValue()).toBe("Ramp hinge of Dunlin, after the crash");
  });

  it("lose nothing when the connection is away", async () => {
    const page = await house.as("Joss");
    await go(page, house, "/requisitions/6");
    await page.context().setOffline(true);
    await page.getByLabel("What for").fill("Ramp hinge of Dunlin, port side");
    await page.getByText(/no connection: kept in this browser/).waitFor();
    await page.context().setOffline(false);
    await kept(page);
    await page.reload();
    await ready(page);
    expect(await page.getByLabel("What for").inputValue()).toBe("Ramp hinge of Dunlin, port side");
  });
});
