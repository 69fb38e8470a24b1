import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse } from "./house";
import { DAY } from "./start";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe("the spend ladders", () => {
  it("say who would sign, for any amount and kind of paper, and light its way up", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/ladders");
    const asked = page.getByRole("region", { name: "Who would sign" });
    const amount = asked.getByRole("slider", { name: "Amount" });
    await asked.getByText("Who has to sign, by “Orders”").first().waitFor();
    await amount.fill("1000");
    await asked.getByText(/^2 signatures/).waitFor();
    await amount.fill("0");
    await asked.getByText("Nobody has to sign.").waitFor();
    await amount.fill("700");
    await asked.getByLabel("Category").selectOption("Safety");
    await asked.getByText("Who has to sign, by “Safety”").first().waitFor();
    await asked.getByText(/^2 signatures/).waitFor();
    await accessible(page, "spend ladders");
  });

  it("are written while their faults show, tried on the past, and started from a day on", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/ladders");
    await page.getByRole("button", { name: /3\. Orders/ }).click();
    const rung = (n: number) => page.getByRole("group", { name: `Rung ${n}` });
    await rung(3).getByLabel("Up to").fill("60000");
    await page.getByText("1 fault").waitFor();
    await page.getByRole("button", { name: "Close" }).click();
    await page.getByText("Nobody signs above €60,000.00: such a paper cannot be submitted.").waitFor();
    await page.getByRole("button", { name: /3\. Orders/ }).click();
    await rung(3).getByLabel("Up to").fill("x");
    await page.getByText(/not a number/i).waitFor();
    await rung(3).getByLabel("Up to").fill("");
    await rung(1).getByLabel("Up to").fill("1500");
    await page
      .getByRole("region", { name: /^Orders/ })
      .getByText("up to 1,500")
      .waitFor();
    await accessible(page, "a ladder as it is written");
    await page.getByRole("button", { name: "Close" }).click();
    await page.getByRole("button", { name: "Try it" }).click();
    await page.getByRole("row", { name: /papers that go another way \d+ of \d+/ }).waitFor();
    await page.getByRole("row", { name: /more that nobody signs/ }).waitFor();
    const starts = page.getByLabel("from", { exact: true });
    await starts.fill(DAY);
    await page.getByRole("button", { name: "Start these rules" }).click();
    await page.getByRole("link", { name: "Rules 2" }).waitFor();
    await page.getByText(/^in force since/).waitFor();
    expect(await page.getByRole("button", { name: "Start these rules" }).count()).toBe(0);
    await page.getByRole("link", { name: "Rules 1" }).click();
    await page
      .getByRole("region", { name: /^Orders/ })
      .getByText("up to 800")
      .waitFor();
  });

  it("keep a draft until it is left, and are only read by others", async () => {
    const page = await house.as("Sunniva");
    await go(page, house, "/ladders");
    await page.locator("h1").click();
    await page.keyboard.press("n");
    await page.getByLabel("Name").fill("Small things");
    await page.getByRole("status").getByText("kept", { exact: true }).waitFor();
    await page.reload();
    await page.getByRole("button", { name: /5\. Small things/ }).waitFor();
    await page
      .getByText(/It is never used: “Orders” stands before it/)
      .or(page.getByText("1 fault"))
      .first()
      .waitFor();
    await page.getByRole("button", { name: "Leave it as it was" }).click();
    await expect.poll(() => page.getByRole("button", { name: /Small things/ }).count()).toBe(0);
    const maud = await house.as("Maud");
    await go(maud, house, "/ladders");
    await maud.getByRole("button", { name: /3\. Orders/ }).click();
    expect(await maud.getByLabel("Name").count()).toBe(0);
  });

  it("go out as a file by names, with a schema, and are asked by other programs", async () => {
    const page = await house.as("Sunniva");
    const file = (await (await page.request.get(`${house.url}/ladders.json`)).json()) as {
      ladders: { name: string; rungs: { who: unknown }[] }[];
    };
    expect(file.ladders.map((l) => l.name)).toEqual(["Requisitions", "Safety", "Orders", "Blanket orders"]);
    expect(file.ladders[2]!.rungs[1]!.who).toEqual({ team: "Yard manager", all: false });
    const schema = (await (await page.request.get(`${house.url}/ladders.schema.json`)).json()) as {
      properties: object;
    };
    expect(Object.keys(schema.properties)).toEqual(["format", "currency", "allowance", "ladders"]);
    const headers = { origin: house.url, "content-type": "application/json" };
    const answer = await page.request.post(`${house.url}/sign-off/try`, {
      headers,
      data: { kind: "order", amount: "15000.00" },
    });
    expect(await answer.json()).toMatchObject({
      ok: true,
      signatures: [{ name: "Yard manager" }, { name: "Finance director" }],
    });
    const csv = await (await page.request.get(`${house.url}/sign-off.csv`)).text();
    expect(csv.split("\n")[0]).toMatch(/^paper,number,round,amount/);
    expect(csv).toMatch(/Yard manager,maud,,signed/);
  });
});

describe("a file of rules", () => {
  it("is taken as a draft that shows at once, starts later, and is taken back", async () => {
    const page = await house.as("Sunniva");
    const file = await (await page.request.get(`${house.url}/ladders.json`)).text();
    const send = async (text: string) => {
      await page.getByLabel("A file of rules").setInputFiles({
        name: "rules.json",
        mimeType: "application/json",
        buffer: Buffer.from(text),
      });
      await page.getByRole("button", { name: "Take it as a draft" }).click();
    };
    await go(page, house, "/ladders");
    await send("{");
    await page.getByText("This is no JSON file.").waitFor();
    await send(file.replace('"name":"Orders"', '"name":"Orders from a file"'));
    await page.getByRole("button", { name: /3\. Orders from a file/ }).waitFor();
    await page.getByRole("button", { name: "Start these rules" }).click();
    await page.getByText(/^rules \d start /).waitFor();
    await page.getByRole("button", { name: "3. Orders Orders, changes after sign-off all" }).waitFor();
    await page.getByRole("button", { name: "Take it back…" }).click();
    await page.getByRole("button", { name: "Take it back", exact: true }).click();
    await page.getByText("taken back").waitFor();
  });
});

describe("departments and teams", () => {
  it("are added and changed; a person's days away name who signs", async () => {
    const page = await house.as("Osk");
    await go(page, house, "/departments");
    await page.getByRole("button", { name: "New department" }).click();
    await page.getByRole("button", { name: "Add the department" }).click();
    await page.getByText("Name the department.").waitFor();
    await page.getByLabel("Name").fill("Workshop");
    await page.getByRole("button", { name: "Add the department" }).click();
    await page.getByRole("row", { name: /Workshop/ }).waitFor();
    await accessible(page, "departments and teams");
    const maud = await house.as("Maud");
    await go(maud, house, "/me");
    await maud.getByLabel("Who signs meanwhile").selectOption({ label: "Halden Prior" });
    await maud.getByRole("button", { name: "Enter these days" }).click();
    await maud.getByText("Halden Prior signs").waitFor();
    await accessible(maud, "one's own page");
    await maud.getByRole("button", { name: "Take it away…" }).click();
    await maud.getByRole("button", { name: "Take it away", exact: true }).click();
    await expect.poll(() => maud.getByText("Halden Prior signs").count()).toBe(0);
  });
});
