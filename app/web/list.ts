import type { Day } from "../../core/calendar/day";
import type { Act } from "../../core/people/roles";
import type { Db } from "../../server/db/open";
import { saveInWorker } from "../../server/jobs/saves";
import type { FoundRows, Window } from "../../server/queries/list";
import { LISTS, type ListName } from "../../server/queries/lists";
import { type Packed, pack } from "../ui/packed";
import { atOf, page, type Visit, wholeOf } from "./page";
import { saving } from "./saved-files";

/** So many rows come with a page; the others when they are seen. */
const FIRST = 80;

/** The window of rows that an address asks for. */
export const windowOf = (url: URL): Window => ({
  from: wholeOf(url, "from", { least: 0, most: 1e9, or: 0 }),
  most: wholeOf(url, "most", { least: 1, most: 400, or: 200 }),
});

interface Listing<Q, F> {
  act: Act;
  query(search: URLSearchParams): Q;
  find(db: Db, q: Q, today: Day, window: Window): F;
}

/** What a list's page shows first: its rows around the one that the address names, and what was asked for. */
export function readList<Q, F extends object>(list: Listing<Q, F>, { db, url, day }: Visit) {
  const query = list.query(url.searchParams);
  const sheet: Packed<F> = pack(list.find(db, query, day, { from: 0, most: FIRST, around: atOf(url) }));
  return { sheet, query };
}

/** Rows of a list from one on: its page asks for those that come into sight. */
export const listRows = <Q, R>(list: Listing<Q, FoundRows<R>>) =>
  page(list.act, ({ db, url, day }) => {
    const window = windowOf(url);
    const { rows, at, count } = list.find(db, list.query(url.searchParams), day, window);
    return Response.json({ from: window.from, rows, at, count });
  });

/** All that an address finds of a list, as a file. */
export const listFile = (list: ListName, as: "csv" | "xlsx") =>
  page(LISTS[list].act, ({ db, url, day }) =>
    saving(list, as, saveInWorker(db.name, { list, search: url.search, as, today: day })),
  );
