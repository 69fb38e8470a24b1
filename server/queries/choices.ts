import type { Day } from "../../core/calendar/day";
import type { ItemId, StoreId } from "../../core/ids";
import { type Db, sql } from "../db/open";

/** What can be chosen in a field: each with the id that is sent, and the name that is read. */
export interface Option {
  id: number;
  name: string;
}

const choices =
  (text: string) =>
  (db: Db): Option[] =>
    sql<Option>(db, text).all();

export const storeChoices = choices("SELECT id, name FROM store ORDER BY id");
export const supplierChoices = choices("SELECT id, name FROM supplier WHERE active = 1 ORDER BY name");
export const departmentChoices = choices("SELECT id, name FROM department WHERE active = 1 ORDER BY name");
export const buyerChoices = choices(
  "SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person = p.id WHERE r.role IN ('buyer', 'purchasing lead') AND p.active = 1 ORDER BY p.name",
);

/** Everybody who works here, but for one. */
export const colleagueChoices = (db: Db, but: number): Option[] =>
  sql<Option>(db, "SELECT id, name FROM person WHERE active = 1 AND id <> ? ORDER BY name").all(but);

/** Stores that keep an item. */
export const storesKeeping = (db: Db, item: ItemId): Option[] =>
  sql<Option>(
    db,
    "SELECT s.id, s.name FROM store s WHERE s.id IN (SELECT store FROM item_store WHERE item = ?) ORDER BY s.id",
  ).all(item);

export const accountChoices = (db: Db) =>
  sql<{ code: string; name: string }>(db, "SELECT code, name FROM account ORDER BY code").all();

/** Budget lines that have not ended, one for each code. */
export const unitChoices = (db: Db) =>
  sql<{ code: string; name: string }>(db, "SELECT code, name FROM unit ORDER BY name").all();

export const openBudgetChoices = (db: Db, today: Day) =>
  sql<Option & { code: string }>(
    db,
    "SELECT min(id) AS id, code, name FROM budget WHERE ends >= ? GROUP BY code ORDER BY code",
  ).all(today);

/** Suppliers for a new order; `blocked` says why none may be written to them. */
export const suppliersToOrderFrom = (db: Db) =>
  sql<Option & { code: string; blocked: string }>(
    db,
    "SELECT id, name, code, blocked FROM supplier WHERE active = 1 ORDER BY name",
  ).all();

/** Suppliers who may be asked for prices, with how many of their people get it. */
export const suppliersToAsk = (db: Db) =>
  sql<Option & { currency: string; contacts: number }>(
    db,
    `SELECT s.id, s.name, s.currency, (SELECT count(*) FROM supplier_contact c WHERE c.supplier = s.id AND c.for_orders = 1) AS contacts
     FROM supplier s WHERE s.active = 1 AND s.blocked = '' ORDER BY s.name`,
  ).all();

/** Jobs that are not closed, with where goods for them go. */
export const openJobChoices = (db: Db) =>
  sql<Option & { address: string }>(
    db,
    "SELECT id, kind || ' ' || code || iif(vessel = '', '', ', ' || vessel) AS name, address FROM job WHERE closed IS NULL ORDER BY code",
  ).all();

/** Whom the demo signs in without a password. */
export const demoPeople = (db: Db) =>
  sql<Option & { title: string; store: string | null }>(
    db,
    "SELECT p.id, p.name, p.title, s.name AS store FROM person p LEFT JOIN store s ON s.id = p.store WHERE p.active = 1 ORDER BY p.id",
  ).all();

export const storeName = (db: Db, store: StoreId): string =>
  sql<{ name: string }>(db, "SELECT name FROM store WHERE id = ?").get(store)!.name;

/** Does what a store counts in wait for its stow list? Else it lies in its bin at once. */
export const storeStows = (db: Db, store: StoreId): boolean =>
  sql(db, "SELECT 1 FROM store WHERE id = ? AND stows = 1").get(store) !== undefined;
