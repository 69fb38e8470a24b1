import { join } from "node:path";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready, settled } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

/** Views of which no other test looks whether everybody can use them. */
const VIEWS: [who: string, path: string, heading: string | RegExp][] = [
  ["Ines", "/today", /Tuesday 24 November/],
  ["Ines", "/needs", "What has to be bought"],
  ["Ines", "/bench", "Bench"],
  ["Ines", "/bench/1/write", /^Orders of/],
  ["Ines", "/with-suppliers", "With suppliers"],
  ["Ines", "/suppliers", "Suppliers"],
  ["Ines", "/items", "Items"],
  ["Ines", "/outbox", "Outbox"],
  ["Ines", "/needs?group=date&late=due", "What has to be bought"],
  ["Ines", "/needs?find=nothing-is-called-this", "What has to be bought"],
  ["Ines", "/needs/bring", "Bring needs from a spreadsheet"],
  ["Osk", "/items/new", "New item"],
  ["Maud", "/today", /Tuesday 24 November/],
  ["Joss", "/today", /Tuesday 24 November/],
  ["Joss", "/requisitions", "What I asked for"],
  ["Joss", "/requisitions/1", "Requisition R26-1001"],
  ["Joss", "/requisitions/6", "New requisition"],
  ["Tobias", "/today", /Tuesday 24 November/],
  ["Petra", "/today", /Tuesday 24 November/],
  ["Osk", "/files", "Files"],
  ["Osk", "/people", "People"],
  ["Osk", "/settings", "Company"],
  ["Osk", "/trail", "Audit trail"],
  ["Runa", "/needs", "What has to be bought"],
];

describe("every view", () => {
  it.each([...new Set(VIEWS.map(([who]) => who))])("of %s is drawn, and can be used by everybody", async (who) => {
    const page = await house.as(who);
    for (const [, path, heading] of VIEWS.filter((v) => v[0] === who)) {
      await go(page, house, path);
      await page.getByRole("heading", { level: 1, name: heading }).waitFor();
      await settled(page);
      await accessible(page, `${who} at ${path}`);
    }
  });

  it("of an order in each state is drawn, and can be used by everybody", async () => {
    const page = await house.as("Ines");
    for (const [list, name] of [
      ["/bench?at=1023", /^Open /],
      ["/with-suppliers", /^Open /],
      ["/sign-off", /^Open /],
    ] as const) {
      await go(page, house, list);
      await page.getByRole("contentinfo").getByRole("button", { name }).click();
      await page.waitForURL(/orders|requisitions/);
      await page.getByRole("heading", { level: 1 }).waitFor();
      await accessible(page, `opened from ${list}`);
    }
  });

  it("of the dock fits a handheld, with large targets", async () => {
    const page = await house.as("Tobias", { width: 390, height: 844 });
    await go(page, house, "/dock");
    await page.getByRole("link", { name: /Puffin/ }).click();
    await page.getByRole("heading", { level: 1, name: /Count sheet/ }).waitFor();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
    const more = await page.getByRole("button", { name: /^One more of Lifejacket/ }).boundingBox();
    expect(Math.min(more!.width, more!.height)).toBeGreaterThanOrEqual(44);
    await accessible(page, "count sheet at 390");
  });
});

describe("signing in, finding, keys", () => {
  it("shows the people of the demo, accessibly", async () => {
    const page = await house.visitor();
    await page.goto(house.url);
    await page.getByRole("heading", { level: 1, name: "Who are you today?" }).waitFor();
    await accessible(page, "sign in");
  });

  it("finds papers, items and suppliers on /, and lists the keys on ?", async () => {
    const page = await house.at("Ines", "/today");
    await page.keyboard.press("/");
    await page.getByRole("combobox", { name: "Find" }).fill("HYD-046");
    await page.getByRole("option", { name: /Hydraulic oil, grade 46/ }).waitFor();
    await accessible(page, "finder");
    await page.keyboard.press("Enter");
    await page.getByRole("heading", { level: 1, name: "Hydraulic oil, grade 46" }).waitFor();
    await page.keyboard.press("?");
    await page.getByRole("dialog", { name: "Keys" }).getByText("go to Needs").waitFor();
    await accessible(page, "key list");
    await page.keyboard.press("Escape");
    await page.keyboard.press("g");
    await page.keyboard.press("n");
    await page.getByRole("heading", { level: 1, name: "What has to be bought" }).waitFor();
  });

  it("keeps the selected row in the address", async () => {
    const page = await house.as("Ines");
    await go(page, house, "/needs");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowDown");
    await page.waitForURL(/at=/);
    const name = await page.locator("tr[aria-current=true]").innerText();
    await page.reload();
    await ready(page);
    expect(await page.locator("tr[aria-current=true]").innerText()).toBe(name);
  });
});

describe("what goes wrong", () => {
  it("is a designed page for a wrong address, a forbidden one and somebody else's paper", async () => {
    const dock = await house.as("Tobias");
    for (const path of [
      "/needs",
      "/orders/1",
      "/with-suppliers",
      "/outbox",
      "/files",
      "/people",
      "/settings",
      "/trail",
      "/suppliers",
      "/bench",
      "/bench/1",
    ]) {
      const answer = await dock.goto(house.url + path);
      expect(answer!.status(), path).toBe(403);
      await dock.getByRole("heading", { level: 1, name: "Not for your role" }).waitFor();
    }
    await accessible(dock, "not for your role");
    expect((await dock.goto(`${house.url}/dock/999999`))!.status()).toBe(404);
    expect((await dock.goto(`${house.url}/dock/1%27--`))!.status()).toBe(404);
    expect((await dock.goto(`${house.url}/no-such-page`))!.status()).toBe(404);
    await dock.getByRole("heading", { level: 1, name: "Nothing here" }).waitFor();
    const buyer = await house.as("Petra");
    expect((await buyer.goto(`${house.url}/requisitions/1`))!.status()).toBe(403);
  });

  it("never shows the dock hand a price, in pages or in answers", async () => {
    const page = await house.as("Tobias");
    const bodies: string[] = [];
    page.on("response", async (r) => {
      if (
        r.url().startsWith(house.url) &&
        /json|html|script|turbo/.test(r.headers()["content-type"] ?? "") &&
        !r.url().includes("/assets/")
      )
        bodies.push(await r.text().catch(() => ""));
    });
    await go(page, house, "/today");
    await go(page, house, "/dock");
    await page.getByRole("link", { name: /Puffin/ }).click();
    await page.getByRole("heading", { level: 1, name: /Count sheet/ }).waitFor();
    await go(page, house, "/items");
    await page.getByRole("heading", { level: 2 }).first().waitFor();
    await page.getByText("Who sells it").waitFor();
    expect(bodies.length).toBeGreaterThan(4);
    for (const body of bodies) expect(body).not.toMatch(/"price"|millionths|€\d|homeNet/);
  });

  it("refuses what did not come from our pages, and what nobody sent", async () => {
    const page = await house.as("Ines");
    const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join("; ");
    const post = (path: string, headers: Record<string, string>, body = "do=delete&version=1&key=12345678") =>
      fetch(house.url + path, {
        method: "POST",
        redirect: "manual",
        headers: { "content-type": "application/x-www-form-urlencoded", ...headers },
        body,
      });
    expect((await post("/orders/1", { cookie })).status).toBe(403);
    expect((await post("/orders/1", { cookie, origin: "https://elsewhere.example" })).status).toBe(403);
    expect((await post("/orders/1", { origin: house.url })).status).toBe(302);
    expect(
      (await post("/orders/1/keep", { cookie, origin: house.url, "content-type": "application/json" }, "{broken"))
        .status,
    ).toBe(422);
    const answer = await fetch(`${house.url}/sign-in`);
    expect(answer.headers.get("content-security-policy")).toMatch(/script-src 'self' 'wasm-unsafe-eval' 'nonce-/);
    expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
    expect(await answer.text()).not.toMatch(/<script(?![^>]*nonce=)(?![^>]*type="module" async)[^>]*>\s*\w/);
    const signedIn = (await page.context().cookies()).find((c) => c.name === "wharf")!;
    expect([signedIn.httpOnly, signedIn.sameSite]).toEqual([true, "Lax"]);
    expect(await (await fetch(`${house.url}/health`)).text()).toBe("ok\n");
  });

  it("names a reference where the fault is ours, and shows nothing of it", async () => {
    const broken = await openHouse();
    try {
      const page = await broken.as("Runa");
      const db = new Database(join(broken.folder, "wharf-tally.db"));
      db.exec("DROP TABLE rate; DELETE FROM company");
      db.close();
      const answer = await page.goto(`${broken.url}/trail`);
      expect(answer!.status()).toBe(500);
      await page.getByRole("heading", { level: 1, name: "A fault on our side" }).waitFor();
      const reference = answer!.headers()["x-reference"]!;
      await page.getByText(reference).waitFor();
      expect(await page.content()).not.toMatch(/company has been set up|at theCompany/);
      await accessible(page, "a fault");
    } finally {
      await broken.close({ holds: false });
    }
  });

  it("loads at most 220 KB of compressed script for any first page", async () => {
    const page = await house.as("Ines");
    const browser = page.context().browser()!;
    const storageState = await page.context().storageState();
    const firstLoad = async (path: string) => {
      const scripts = new Map<string, number>();
      const cold = await browser.newContext({ storageState });
      const fresh = await cold.newPage();
      const sized: Promise<void>[] = [];
      fresh.on("requestfinished", (r) => {
        if (r.url().endsWith(".js")) sized.push(r.sizes().then((s) => void scripts.set(r.url(), s.responseBodySize)));
      });
      await fresh.goto(house.url + path);
      await ready(fresh);
      await Promise.all(sized);
      await cold.close();
      expect(scripts.size).toBeGreaterThan(3);
      return [...scripts.values()].reduce((a, b) => a + b, 0) / 1024;
    };
    const paths = ["/today", "/needs", "/bench/1", "/with-suppliers", "/dock", "/items"];
    const loads = await Promise.all(paths.map(firstLoad));
    paths.forEach((path, i) => {
      expect(loads[i], path).toBeLessThanOrEqual(220);
    });
  });
});
