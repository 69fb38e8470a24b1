import type { StoreId } from "../../core/ids";
import type { Person } from "../../server/acts/desk";
import type { Db } from "../../server/db/open";
import { type Option, storeChoices, storeName } from "../../server/queries/choices";
import { atOf } from "./page";

/** The store that a page is about: a person's own, else the one that the address names, else the first. */
export function workStore(
  db: Db,
  person: Pick<Person, "store">,
  url: URL,
): { store: StoreId; name: string; stores: Option[] } {
  const stores = person.store === null ? storeChoices(db) : [];
  const named = atOf(url, "store");
  const store = (person.store ?? stores.find((s) => s.id === named)?.id ?? stores[0]?.id ?? 0) as StoreId; // a store’s own id
  return { store, name: storeName(db, store), stores };
}
