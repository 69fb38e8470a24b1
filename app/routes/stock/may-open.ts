import type { Person } from "../../../server/acts/desk";
import { notAllowed } from "../../web/page";

/** Somebody of one store sees the papers of that store alone. */
export function mayOpenPaper(person: Pick<Person, "store">, paper: { store: number; storeName: string }): void {
  if (person.store !== null && person.store !== paper.store)
    throw notAllowed(`This is of ${paper.storeName}, not of your store.`);
}
