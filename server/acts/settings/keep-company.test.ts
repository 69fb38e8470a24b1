import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { decimalMarkOf } from "../../../core/numbers/format";
import { sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { keepCompany, LOCALES } from "./keep-company";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const COMPANY = {
  name: "Kelpholm Ferries",
  address: "1 Tarn Quay",
  taxNumber: "KH 100",
  mail: "buying@kelpholm.example",
  countOnOrder: "yes",
  countOutput: "no",
  tieJobs: "yes",
  budgetBy: "due",
  directOrders: "no",
  holdingRate: "18",
  serviceLevel: "97.5",
};
const keep = (more: object = {}, who = "osk") => keepCompany(h.desk(who), { ...COMPANY, ...more });

describe("the company", () => {
  it("is kept as it is typed, and its locale, country and zone stay where nothing is said of them", () => {
    must(keep({ locale: "en-IE", country: "IE", timeZone: "Europe/Dublin" }));
    must(keep({ holdingRate: "17.25" }));
    expect(theCompany(h.db)).toMatchObject({ locale: "en-IE", country: "IE", timeZone: "Europe/Dublin" });
    expect(
      sql<object>(
        h.db,
        "SELECT holding_rate, service_level, count_on_order, count_output, tie_jobs FROM company",
      ).get(),
    ).toEqual({ holding_rate: 1_725, service_level: 9_750, count_on_order: 1, count_output: 0, tie_jobs: 1 });
  });

  it.each([
    [{ name: "" }, "name: What is the company called?"],
    [{ serviceLevel: "49.99" }, "serviceLevel: From 50 to 99.99 percent."],
    [{ serviceLevel: "100" }, "serviceLevel: From 50 to 99.99 percent."],
    [{ country: "Ireland" }, "country: A country has two letters, as in ISO 3166-1."],
    [{ timeZone: "Europe/Nowhere" }, "timeZone: There is no such time zone."],
    [{ locale: "de-DE" }, "locale: Choose how figures and days are written."],
    [{ budgetBy: "paid" }, "budgetBy: By due date or by order date."],
  ])("is not kept with %j, and nothing of it is", (wrong, says) => {
    expect(refusal(keep({ address: "elsewhere", ...wrong }))).toEqual([says]);
    expect(theCompany(h.db).address).toBe("1 Tarn Quay");
  });

  it("is kept by an administrator alone", () => {
    expect(refusal(keep({}, "ines"))).toEqual(["Your role does not allow this."]);
  });
});

describe("how figures are written here", () => {
  it("offers what is written as it is typed: with a decimal point", () => {
    expect(LOCALES.filter((l) => decimalMarkOf(l) !== ".")).toEqual([]);
    expect(["de-DE", "fr-FR", "nl-NL"].map(decimalMarkOf)).toEqual([",", ",", ","]);
  });
});
