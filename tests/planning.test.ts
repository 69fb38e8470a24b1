import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const rowOf = (page: Page, name: RegExp) => page.getByRole("row", { name }).first();
const here = (page: Page) => page.locator("tr[aria-current=true]");

describe("the sheet of needs", () => {
  it("narrows, groups, sorts, chooses columns and keeps it all as a view in the address", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs");
    await page.getByRole("button", { name: /^Jobs short/ }).click();
    await page.waitForURL(/source=job/);
    await page.getByLabel("Group by").selectOption("job");
    await page
      .getByRole("rowheader", { name: /^job 2291, Marram/ })
      .or(page.getByText(/^job 2291, Marram/))
      .first()
      .waitFor();
    await page.getByRole("button", { name: "Columns" }).click();
    await page.getByRole("checkbox", { name: "Days of cover" }).check();
    await page.getByRole("checkbox", { name: "Against point" }).uncheck();
    await page.getByRole("button", { name: "Days of cover further left" }).click();
    await page.keyboard.press("Escape");
    await page.getByRole("columnheader", { name: "Days of cover" }).waitFor();
    expect(await page.getByRole("columnheader", { name: "Against point" }).count()).toBe(0);
    await page.getByRole("columnheader", { name: "On hand" }).getByRole("button").click();
    await page.waitForURL(/sort=hand/);
    await expect
      .poll(() => page.getByRole("columnheader", { name: "On hand" }).getAttribute("aria-sort"))
      .toBe("ascending");
    await page.getByRole("button", { name: "Views" }).click();
    await page.getByLabel("Name of the view").fill("Jobs by cover");
    await page.getByRole("button", { name: "Keep", exact: true }).click();
    await page.getByRole("button", { name: "Jobs by cover", exact: true }).waitFor();
    await accessible(page, "views panel");
    await page.keyboard.press("Escape");
    await go(page, house, "/needs");
    await page.getByRole("button", { name: "Views" }).click();
    await page.getByRole("button", { name: "Jobs by cover", exact: true }).click();
    await page.waitForURL(/source=job.*group=job/);
    await page.getByRole("columnheader", { name: "Days of cover" }).waitFor();
    await page.getByRole("button", { name: "Forget the view Jobs by cover" }).click();
    await page.getByText("None kept yet.", { exact: false }).waitFor();
  });

  it("finds in itself, and plans for another rule and another day", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs");
    await page.keyboard.press("f");
    await page.keyboard.type("anode");
    await page.getByText(/^2 of \d+ needs$/).waitFor();
    await page.getByLabel("Find in this sheet").fill("");
    await page.getByRole("button", { name: /^Plan: as usual/ }).click();
    await page.getByLabel("only what jobs lack").click();
    await page.waitForURL(/run=jobs/);
    await page.getByLabel("As of").fill("2026-12-10");
    await page.waitForURL(/asOf=2026-12-10/);
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: /^Plan: only what jobs lack, as of Thu 10 Dec/ }).waitFor();
    await page.getByRole("checkbox", { name: /^Hull anode/ }).waitFor();
    expect(await page.getByRole("checkbox", { name: /^Heaving line/ }).count()).toBe(0);
  });

  it("keeps ticks, quantities and suppliers for the person, on any device, until they are placed", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?find=anode");
    await page.getByRole("checkbox", { name: /^Shaft anode/ }).check();
    await page.getByLabel(/^Quantity of Shaft anode/).fill("7");
    await page.getByRole("contentinfo").getByText("1 ticked").waitFor();
    await rowOf(page, /Shaft anode/).click();
    const other = page.getByRole("radio", { name: "Order from Fairlead Engine Spares" });
    // A choice is sent a moment after it is made: another window finds it once it was answered.
    const kept = page.waitForResponse(
      (r) => r.url().includes("/needs/choose") && (r.request().postData() ?? "").includes('"sourcing":'),
    );
    await other.check();
    await kept;
    await page.waitForFunction(() => document.querySelector("tr[aria-current=true]") !== null);
    // Another window of the same person shows the same.
    const again = await house.as("Ines");
    await go(again, house, "/needs?ticked=yes&group=supplier");
    await again
      .getByText(/^Fairlead Engine Spares/)
      .first()
      .waitFor();
    expect(await again.getByLabel(/^Quantity of Shaft anode/).inputValue()).toBe("7");
    // Somebody else sees none of it.
    const lead = await house.as("Sunniva");
    await go(lead, house, "/needs?find=shaft+anode");
    await lead.getByRole("contentinfo").getByText("0 ticked").waitFor();
    expect(await lead.getByLabel(/^Quantity of Shaft anode/).inputValue()).toBe("5");
    await Promise.all([
      again.waitForURL(/\/orders\/\d+/),
      again.getByRole("button", { name: /^Write 1 order/ }).click(),
    ]);
    await again.getByText("Fairlead Engine Spares").first().waitFor();
    expect(await again.getByLabel("Line 1: quantity in each").inputValue()).toBe("7");
  });

  it("draws what is typed at once, and opens every movement behind a figure", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?find=mooring+rope");
    await rowOf(page, /Mooring rope, 48 mm/).click();
    const line = page.getByRole("complementary").getByRole("img", { name: /^Stock from/ });
    await line.waitFor();
    const path = async () => line.locator("path").nth(2).getAttribute("d");
    const before = await path();
    await page.getByLabel(/^Quantity of Mooring rope, 48 mm/).fill("3");
    await expect.poll(path).not.toBe(before);
    await page.getByRole("link", { name: "on hand, Tarn Quay" }).click();
    await page.getByRole("heading", { level: 1, name: "Movements of Mooring rope, 48 mm 8-strand" }).waitFor();
    await page
      .getByRole("row", { name: /count .* 44$/ })
      .first()
      .waitFor();
    await accessible(page, "movements");
  });

  it("lets a supplier be added where one is missing, and the need go on", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?source=floor");
    const coffee = page.getByRole("checkbox", { name: /^Coffee, ground/ });
    expect(await coffee.isDisabled()).toBe(true);
    await rowOf(page, /Coffee, ground/).click();
    await page.getByRole("button", { name: "Add a supplier…" }).click();
    const slip = page.getByRole("complementary");
    await slip.getByLabel("Supplier").selectOption({ label: "Saltby Fasteners" });
    await slip.getByLabel("Lead days").fill("x");
    await slip.getByRole("button", { name: "Add the supplier" }).click();
    await slip.getByRole("alert").waitFor();
    await slip.getByLabel("Lead days").fill("4");
    await slip.getByLabel(/^Price in EUR/).fill("12.50");
    await slip.getByRole("button", { name: "Add the supplier" }).click();
    await slip.getByRole("radio", { name: "Order from Saltby Fasteners" }).check();
    await page.waitForFunction(
      () => !document.querySelector<HTMLInputElement>('input[aria-label^="Coffee, ground"][type=checkbox]')?.disabled,
    );
    await coffee.check();
    await page.getByRole("contentinfo").getByText("€200.00").waitFor(); // 16 kg at 12.50
  });

  it("offers what another store can spare, and plans the transfer", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs?find=coolant");
    await rowOf(page, /Coolant, ready mixed/).click();
    const slip = page.getByRole("complementary");
    await slip.getByText("Free elsewhere, or in its place").waitFor();
    await slip.getByRole("button", { name: "Bring it over…" }).first().click();
    await slip.getByLabel("How much, in L").fill("100000");
    await slip.getByRole("button", { name: "Plan the transfer" }).click();
    await slip.getByText(/^Only [\d.]+ L is free there\.$/).waitFor();
    await slip.getByLabel("How much, in L").fill("200");
    await slip.getByRole("button", { name: "Plan the transfer" }).click();
    await page.getByText("Nothing of this kind").waitFor();
    const tobias = await house.at("Tobias", "/today");
    await tobias.getByRole("link", { name: /Coolant, ready mixed to Skellan/ }).click();
    await tobias.getByRole("heading", { level: 1, name: /^Transfer T26-/ }).waitFor();
    await accessible(tobias, "transfer");
    await tobias.getByRole("button", { name: /^It was moved/ }).click();
    await tobias.getByText("Moved", { exact: true }).waitFor();
  });
});

describe("the floor round on a handheld", () => {
  it("is walked with a scanner, goes on without a connection, and sends each line once", async () => {
    const page = await house.as("Tobias", { width: 390, height: 844 });
    await go(page, house, "/round");
    const scan = page.getByLabel("Scan or type a code");
    await expect.poll(() => scan.getAttribute("placeholder")).toBe("scan or type a code");
    const note = async (code: string, quantity: string) => {
      await scan.fill(code);
      await scan.press("Enter");
      await page.getByLabel("How many").fill(quantity);
      await page.getByLabel("How many").press("Enter");
    };
    await note("GBX-090", "2");
    const lines = page.getByRole("list", { name: "Lines of this round" });
    await lines.getByText("in the pool").first().waitFor();
    await page.context().setOffline(true);
    await note("NEVER-SEEN", "4");
    await scan.fill("LUB-PEN");
    await scan.press("Enter");
    await page.getByRole("region", { name: "In hand" }).getByText("On hand").waitFor();
    await page.getByRole("button", { name: /^case/ }).click();
    await page.getByLabel("How many").fill("many");
    await page.getByRole("button", { name: "Next" }).click();
    await page.getByText(/is not a number/).waitFor();
    await page.getByLabel("How many").fill("3");
    await page.getByRole("button", { name: "Next" }).click();
    await page.getByText("2 lines on this device, sent when the connection is back").waitFor();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    const next = await page.getByLabel("Scan or type a code").boundingBox();
    expect(next!.width).toBeGreaterThan(200);
    await accessible(page, "round at 390");
    await page.context().setOffline(false);
    await page.reload();
    await ready(page);
    await page.getByText("3 lines sent").waitFor();
    const ines = await house.as("Ines");
    await go(ines, house, "/needs?source=floor&find=penetrating");
    await rowOf(ines, /Penetrating oil, spray/).waitFor();
    expect(await ines.getByRole("checkbox", { name: /^Penetrating oil/ }).count()).toBe(1);
    await go(ines, house, "/needs/sort-out");
    await ines.getByRole("row", { name: /NEVER-SEEN/ }).waitFor();
    await accessible(ines, "codes to sort out");
    await ines.getByRole("combobox", { name: "What NEVER-SEEN is" }).pressSequentially("SNS-T");
    await ines.getByRole("option", { name: /Temperature sensor/ }).click();
    await ines
      .getByRole("row", { name: /NEVER-SEEN/ })
      .getByRole("button", { name: "It is this" })
      .click();
    await expect.poll(() => ines.getByRole("row", { name: /NEVER-SEEN/ }).count()).toBe(0);
  });

  it("keeps what somebody noted as theirs, whoever takes the handheld next", async () => {
    const page = await house.as("Tobias", { width: 390, height: 844 });
    await go(page, house, "/round");
    await page.context().setOffline(true);
    await page.getByLabel("Scan or type a code").fill("FROM-TOBIAS");
    await page.getByLabel("Scan or type a code").press("Enter");
    await page.getByLabel("How many").fill("7");
    await page.getByLabel("How many").press("Enter");
    await page.getByText("1 line on this device, sent when the connection is back").waitFor();
    await page.goto("about:blank");
    await page.context().setOffline(false);
    const takes = async (name: RegExp) => {
      await page.context().clearCookies();
      await page.goto(`${house.url}/sign-in`);
      await page.getByRole("button", { name }).click();
      await page.waitForURL(`${house.url}/today`);
      await go(page, house, "/round");
    };
    await takes(/^Joss/);
    await page.getByLabel("Scan or type a code").waitFor();
    expect(await page.getByText("FROM-TOBIAS").count()).toBe(0);
    await takes(/^Tobias/);
    await page.getByText("1 line sent").waitFor();
    const ines = await house.as("Ines");
    await go(ines, house, "/needs/sort-out");
    await ines.getByRole("row", { name: /FROM-TOBIAS.*Tobias/ }).waitFor();
  });
});

describe("needs from a spreadsheet", () => {
  it("are pasted, matched by name and by hand, checked, and brought as a whole", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs/bring");
    await page
      .getByLabel(/^Or rows pasted/)
      .fill("part no\thow much is wanted\tdue\nHYD-032\t2\t2026-12-20\nNOPE\t3\t2026-12-20\n");
    await page.getByLabel("Numbers are written").focus();
    await page.getByRole("contentinfo").getByText("Say which column holds the quantity.").waitFor();
    await page.getByLabel("What column how much is wanted holds").selectOption("quantity");
    await page.getByRole("button", { name: "Check" }).click();
    await page
      .getByRole("cell", { name: "No item has this code, neither ours nor a supplier’s nor a GTIN." })
      .waitFor();
    await accessible(page, "faults of a paste");
    await page.getByLabel("A file").setInputFiles({
      name: "needs.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("item,qty,store,unit\nHYD-032,2,TQ,drum\nFLT-AIR,1,TQ,\n"),
    });
    await page.getByText("2 rows. Say what each column holds.").waitFor();
    const bring = page.getByRole("button", { name: "Bring 2 needs" });
    expect(await bring.isDisabled()).toBe(true); // not before it was checked
    await page.getByRole("button", { name: "Check" }).click();
    await page.getByText("Checked: all 2 rows can be brought").waitFor();
    await bring.click();
    await page.getByText("2 needs are in the pool.").waitFor();
    await page.getByRole("link", { name: "See them" }).click();
    await rowOf(page, /Hydraulic oil, grade 32/).waitFor();
  });
});

describe("is the reorder point right", () => {
  it("shows both with the chance of running out, and accepts one or all that are ticked", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs/review");
    await page
      .getByRole("complementary")
      .getByRole("img", { name: /^Used before goods come/ })
      .waitFor();
    await page.getByRole("rowheader", { name: /^safety stock/ }).waitFor();
    await accessible(page, "reorder points");
    await page.getByRole("button", { name: /^Set too low/ }).click();
    const first = await here(page).innerText();
    await here(page).click();
    await page.keyboard.press(" ");
    await page.getByRole("contentinfo").getByText("1 ticked").waitFor();
    await page
      .getByRole("contentinfo")
      .getByText(/^stock value/)
      .waitFor();
    await page.getByRole("button", { name: /^Accept 1 point/ }).click();
    await page.getByText("1 reorder point changed.").waitFor();
    await expect.poll(() => here(page).innerText()).not.toBe(first);
  });
});

describe("jobs", () => {
  it("are entered like a spreadsheet, show what they lack, and have it bought for them", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/jobs");
    await accessible(page, "jobs");
    await page.getByRole("link", { name: "New job" }).click();
    await page.getByLabel("Code", { exact: true }).fill("2410");
    await page.getByLabel("What it is").fill("Winch overhaul");
    await page.getByLabel("Vessel or customer").fill("Sandwort");
    const wants = page.getByRole("region", { name: "What it wants" });
    await wants.getByRole("button", { name: "Add a line" }).click();
    await wants.getByRole("combobox", { name: "What it wants, line 1: item" }).pressSequentially("SEAL-M");
    await page.getByRole("option", { name: /Mechanical seal/ }).click();
    await wants.getByLabel("What it wants, line 1: quantity").fill("40");
    await page.getByRole("button", { name: "Make the job" }).click();
    await page.getByText("A date is missing.").waitFor();
    await wants.getByLabel("What it wants, line 1: day").fill("2026-12-14");
    await page.getByRole("button", { name: "Make the job" }).click();
    await page.getByRole("heading", { level: 1, name: "Winch overhaul" }).waitFor();
    await page
      .getByText(/from nowhere yet/)
      .filter({ visible: true })
      .first()
      .waitFor();
    await accessible(page, "job");
    await page.getByRole("button", { name: "Buy what it lacks for this job" }).click();
    await page.getByText(/among the needs/).waitFor();
    await go(page, house, "/needs?find=2410");
    await rowOf(page, /Mechanical seal/).click();
    await page.getByText("Short for job 2410, Sandwort").waitFor();
  });
});

describe("an item", () => {
  it("shows its stock and suppliers, and is changed where it stands", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/items");
    await page.getByLabel("Find in this sheet").fill("HYD-046");
    await page.getByRole("row", { name: /Hydraulic oil, grade 46/ }).dblclick();
    await page.getByRole("heading", { level: 1, name: "Hydraulic oil, grade 46" }).waitFor();
    await accessible(page, "item, stock");
    const quay = page.getByRole("region", { name: "Tarn Quay" });
    await quay.getByRole("button", { name: "Change when it reorders…" }).click();
    await quay.getByLabel("At most, L").fill("10");
    await quay.getByRole("button", { name: "Keep", exact: true }).click();
    await quay.getByText("The most the store should hold lies below the reorder point.").waitFor();
    await quay.getByLabel("At most, L").fill("4000");
    await quay.getByLabel("Reorder point, L").fill("500");
    await quay.getByRole("button", { name: "Keep", exact: true }).click();
    await quay.getByText("Kept.").waitFor();
    await quay.getByText(/at most 4,000 L/).waitFor();
    await page.getByRole("button", { name: "Suppliers and prices" }).click();
    const quillmere = page.getByRole("region", { name: "Quillmere Oils" });
    await quillmere.getByRole("button", { name: "Change…" }).click();
    await quillmere.getByLabel("preferred").check();
    await quillmere.getByLabel("Price 1", { exact: true }).fill("540");
    await quillmere.getByRole("button", { name: "Keep", exact: true }).click();
    await quillmere.getByText("Kept.").waitFor();
    await accessible(page, "item, suppliers");
    await page.getByRole("button", { name: "The item itself" }).click();
    await page.getByLabel("Category").fill("Oils");
    await page.getByRole("button", { name: "Keep the item" }).click();
    await page.getByText("Kept.").first().waitFor();
    await go(page, house, "/needs?find=grade+46");
    await page
      .getByText(/^Quillmere Oils/)
      .first()
      .waitFor();
  });
});

describe("a requisition in full", () => {
  it("is changed and declined by the buyer, and its asker sees it, with files and followers", async () => {
    const joss = await house.as("Joss");
    await go(joss, house, "/requisitions/7");
    await joss.getByText("Ines Rathmore offers").waitFor();
    await joss.getByText("Ines Rathmore declined it: The galley has a spare one: ask Gwen").waitFor();
    await joss.getByRole("button", { name: "Ask for the same again" }).click();
    await joss.getByRole("heading", { level: 1, name: "New requisition" }).waitFor();
    await joss.getByLabel("Attach a file").setInputFiles({
      name: "sketch.pdf",
      mimeType: "application/pdf",
      buffer: Buffer.from("%PDF-1.4 sketch"),
    });
    await joss.getByRole("link", { name: "sketch.pdf" }).waitFor();
    await joss.getByLabel("Attach a file").setInputFiles({
      name: "run.exe",
      mimeType: "application/octet-stream",
      buffer: Buffer.from("MZ"),
    });
    await joss
      .getByRole("alert")
      .getByText(/A PDF, a picture/)
      .waitFor();
    await joss.getByLabel("Needed by").fill("2026-12-20");
    await joss.getByLabel("Runa Veldt").check();
    await joss.getByLabel("Line 2: budget line").selectOption({ label: "YARD Yard and slipway" });
    await joss
      .getByRole("status")
      .filter({ hasText: /^kept$/ })
      .waitFor();
    await joss.getByRole("button", { name: "Hand in" }).click();
    await joss.getByRole("heading", { level: 1, name: /^Requisition R26-/ }).waitFor();
    const path = new URL(joss.url()).pathname;
    const file = await joss.request.get(
      `${house.url}${await joss.getByRole("link", { name: "sketch.pdf" }).getAttribute("href")}`,
    );
    expect([file.status(), file.headers()["content-disposition"]]).toEqual([
      200,
      "attachment; filename*=UTF-8''sketch.pdf",
    ]);
    const ines = await house.as("Ines");
    await go(ines, house, path);
    await ines.getByRole("button", { name: "Decline it…" }).last().click();
    await ines.getByRole("button", { name: "Decline this line" }).click();
    await ines.getByText("Say why, so that the asker understands.").waitFor();
    await ines.getByLabel("Why it is declined").fill("No second kettle");
    await ines.getByRole("button", { name: "Decline this line" }).click();
    await ines.getByText("Ines Rathmore declined it: No second kettle").waitFor();
    await accessible(ines, "requisition for the buyer");
    await go(ines, house, "/requisitions/open-lines?by=supplier");
    await ines
      .getByText(/^Norrvik Rope & Rigging/)
      .first()
      .waitFor();
    await accessible(ines, "open lines");
    await joss.reload();
    await ready(joss);
    await joss.getByRole("button", { name: "Withdraw it…" }).click();
    await joss.getByRole("button", { name: "Withdraw it", exact: true }).click();
    await joss.getByText("Withdrawn", { exact: true }).first().waitFor();
  });
});

describe("for other programs", () => {
  it("a token loads files and fetches the needs, with its person's rights, until it is ended", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/me");
    await page.getByLabel("A token for").fill("the planner’s script");
    await page.getByRole("button", { name: "Make a token" }).click();
    const token = await page.locator("[data-token]").innerText();
    await accessible(page, "own page");
    const send = (path: string, init: RequestInit = {}) =>
      fetch(house.url + path, { ...init, headers: { authorization: `Bearer ${token}`, ...init.headers } });
    const csv = await (await send("/needs.csv?source=reorder,job&find=grade")).text();
    const [head, first] = csv.split("\n");
    expect(head).toBe(
      "item,store,source,on_hand,committed,on_order,available,reorder_point,policy,raw_stock_qty,purchase_unit,buy_qty,needed_by,order_by,late_days,supplier,arrives",
    );
    expect(first).toMatch(/^HYD-046,TQ,reorder,340,260,0,80,/);
    const later = (await (await send("/needs.json?asOf=2027-01-20&run=jobs")).json()) as { item: string }[];
    expect(later.map((n) => n.item)).toContain("ROP-048");
    const body = new FormData();
    body.set("kind", "needs");
    body.set("file", new File(["item,store,quantity\nHYD-046,TQ,3\n"], "needs.csv"));
    const loaded = await send("/exchange/import", { method: "POST", body });
    expect([loaded.status, await loaded.json()]).toEqual([
      200,
      { ok: true, rows: 1, added: 1, changed: 0, same: 0, columns: {}, notes: [] },
    ]);
    body.set("kind", "stock");
    const refused = await send("/exchange/import", { method: "POST", body });
    expect([refused.status, ((await refused.json()) as { problems: unknown[] }).problems]).toEqual([
      403,
      [{ field: "kind", says: "Your role does not load stock." }],
    ]);
    await page.getByRole("button", { name: "End it: the token for the planner’s script" }).click();
    await page.getByText(/^ended/).waitFor();
    const ended = await send("/needs.csv");
    expect([ended.status, ((await ended.json()) as { problems: { says: string }[] }).problems[0]!.says]).toEqual([
      401,
      "This token has ended. Make another on your own page.",
    ]);
  });
});
