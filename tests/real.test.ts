import { afterAll, beforeAll, expect, it } from "vitest";
import { accessible, go, type House, openHouse, ready, SET_UP_CODE } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse({ demo: false });
});
afterAll(() => house.close());

const EMPTY: [path: string, says: RegExp][] = [
  ["/needs/review", /Nothing to say yet/],
  ["/needs/sort-out", /Nothing to sort out/],
  ["/needs/bring", /No rows yet/],
  ["/jobs", /No jobs yet/],
  ["/transfers", /No transfers yet/],
  ["/requisitions/open-lines", /Nothing is open/],
  ["/items", /No items yet/],
  ["/suppliers", /No suppliers yet/],
  ["/round", /Walk the shelves/],
];

it("a real installation starts empty, makes its administrator, and lets people in by password", async () => {
  const page = await house.visitor();
  await page.goto(house.url);
  await page.getByRole("heading", { level: 1, name: "Set up your company" }).waitFor();
  await ready(page);
  await accessible(page, "first run");
  await page.getByLabel("Company").fill("Saltmarsh Pilots");
  await page.getByLabel("Code").fill("000");
  await page.getByLabel("First store").fill("Pilot House");
  await page.getByLabel("Your name").fill("Ada Wren");
  await page.getByLabel("Name you sign in with").fill("ada");
  await page.getByLabel("Password").fill("short");
  await page.getByRole("button", { name: "Set up and sign in" }).click();
  await page.getByText("This is not the code that the server printed.").waitFor();
  await page.getByLabel("Code").fill(SET_UP_CODE);
  await page.getByRole("button", { name: "Set up and sign in" }).click();
  await page.getByText("At least 10 characters.").waitFor();
  expect(await page.getByLabel("Company").inputValue()).toBe("Saltmarsh Pilots");
  await page.getByLabel("Password").fill("reed beds at dawn");
  await page.getByRole("button", { name: "Set up and sign in" }).click();
  await page.waitForURL(`${house.url}/today`);
  await page.getByText("Nothing waits for you").waitFor();

  await go(page, house, "/people");
  await page.getByRole("button", { name: /^New person/ }).click();
  await page.getByLabel("Name", { exact: true }).fill("Bo Teal");
  await page.getByLabel("Signs in as").fill("bo");
  await page.getByLabel("Password").fill("mud between toes");
  await page.getByRole("checkbox", { name: /^buyer/ }).check();
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByRole("row", { name: /Bo Teal/ }).waitFor();

  const bo = await house.visitor();
  await bo.goto(`${house.url}/needs`);
  await ready(bo);
  await bo.getByLabel("Name you sign in with").fill("bo");
  await bo.getByLabel("Password").fill("wrong");
  await bo.getByRole("button", { name: "Sign in" }).click();
  await bo.getByText("Name and password do not fit together.").waitFor();
  await accessible(bo, "sign in refused");
  await bo.getByLabel("Password").fill("mud between toes");
  await bo.getByRole("button", { name: "Sign in" }).click();
  await bo.waitForURL(`${house.url}/needs`); // where Bo wanted to go
  await bo.getByText("Nothing has to be bought").waitFor();
  await accessible(bo, "no needs");

  // A company without a single item: every page of the planner says what to do first.
  for (const [path, says] of EMPTY) {
    await go(bo, house, path);
    await bo.getByText(says).first().waitFor();
    await accessible(bo, `${path} while nothing is there`);
  }

  // Shut out, Bo's next step leads to the sign-in.
  await page.getByRole("row", { name: /Bo Teal/ }).click();
  await page.getByRole("heading", { level: 2, name: "Bo Teal" }).waitFor();
  await page.getByLabel("May sign in").selectOption("no");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await page.getByRole("row", { name: /Bo Teal.* no$/ }).waitFor();
  await bo.goto(`${house.url}/today`);
  await bo.getByRole("heading", { level: 1, name: "Sign in" }).waitFor();

  await page.getByRole("button", { name: /menu of Ada Wren/ }).click();
  await page.getByRole("menuitem", { name: "Sign out" }).click();
  await page.getByRole("heading", { level: 1, name: "Sign in" }).waitFor();
});

it("never lists its people to a stranger, and never signs one in without a password", async () => {
  const answer = await fetch(`${house.url}/sign-in`, {
    method: "POST",
    redirect: "manual",
    headers: { origin: house.url, "content-type": "application/x-www-form-urlencoded" },
    body: "as=1",
  });
  expect(answer.status).toBe(422);
  expect(await (await fetch(`${house.url}/sign-in`)).text()).not.toContain("Ada Wren");
});
