import type { Day } from "../../core/calendar/day";
import type { StoreId } from "../../core/ids";
import { type Db, sql } from "../db/open";
import { rememberSettings } from "./remember";

export interface Company {
  name: string;
  address: string;
  taxNumber: string;
  mail: string;
  currency: string;
  locale: string;
  /** ISO 3166-1, where it is known. */
  country: string;
  /** IANA name; empty: where the server stands. */
  timeZone: string;
  /** Standard tax, for lines without an item. */
  taxRate: number;
  countOnOrder: boolean;
  /** What jobs give back counts as supply. */
  countOutput: boolean;
  /** What suppliers have on our shelves is available to what needs it. */
  countsTheirs: boolean;
  /** What a job lacks is bought for it alone, from the moment the job is saved. */
  tieJobs: boolean;
  /** How often goods should be there, in hundredths of a percent. */
  serviceLevel: number;
  /** What is ordered counts against the budget of the day it is due, or of the day it is ordered. */
  budgetBy: "due" | "ordered";
  /** Jobs marked for direct delivery make their orders by themselves. */
  directOrders: boolean;
  /** What a year of holding stock costs, in hundredths of a percent of its value. */
  holdingRate: number;
}

/** The one company of this installation; null before the first run. */
export const readCompany = (db: Db): Company | null => rememberSettings(db, "company", () => makeCompany(db));

function makeCompany(db: Db): Company | null {
  const row = sql<{
    name: string;
    address: string;
    tax_number: string;
    mail: string;
    currency: string;
    locale: string;
    country: string;
    time_zone: string;
    tax_rate: number;
    count_on_order: number;
    count_output: number;
    counts_theirs: number;
    tie_jobs: number;
    service_level: number;
    holding_rate: number;
    budget_by: "due" | "ordered";
    direct_orders: number;
  }>(
    db,
    "SELECT name, address, tax_number, mail, currency, locale, country, time_zone, tax_rate, count_on_order, count_output, counts_theirs, tie_jobs, service_level, holding_rate, budget_by, direct_orders FROM company",
  ).get();
  return row
    ? {
        name: row.name,
        address: row.address,
        taxNumber: row.tax_number,
        mail: row.mail,
        currency: row.currency,
        locale: row.locale,
        country: row.country,
        timeZone: row.time_zone,
        taxRate: row.tax_rate,
        countOnOrder: row.count_on_order === 1,
        countOutput: row.count_output === 1,
        countsTheirs: row.counts_theirs === 1,
        tieJobs: row.tie_jobs === 1,
        serviceLevel: row.service_level,
        holdingRate: row.holding_rate,
        budgetBy: row.budget_by,
        directOrders: row.direct_orders === 1,
      }
    : null;
}

export function theCompany(db: Db): Company {
  const company = readCompany(db);
  if (!company) throw new Error("No company has been set up.");
  return company;
}

/** Home currency for one unit of a currency on a day, in millionths; null where no rate is known by then. */
export function rateOn(db: Db, currency: string, home: string, day: Day): number | null {
  if (currency === home) return 1_000_000;
  return rememberSettings(db, `rate ${currency} ${day}`, () => {
    const row = sql<{ rate: number }>(
      db,
      "SELECT rate FROM rate WHERE currency = ? AND day <= ? ORDER BY day DESC LIMIT 1",
    ).get(currency, day);
    return row?.rate ?? null;
  });
}

/** The currencies that something can be bought in: ours, and those with a rate. */
export const currenciesOf = (db: Db): string[] => [
  theCompany(db).currency,
  ...sql<{ currency: string }>(db, "SELECT DISTINCT currency FROM rate ORDER BY currency")
    .all()
    .map((r) => r.currency),
];

/** Our stores, with the days on which they take goods in. */
export const readStores = (db: Db) =>
  sql<{ id: StoreId; name: string; receives: number; region: string; blind: number }>(
    db,
    "SELECT id, name, receives, region, blind FROM store ORDER BY id",
  ).all();
