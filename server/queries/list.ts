import { z } from "zod";
import type { Day } from "../../core/calendar/day";
import { keysOf, recordOf } from "../../core/keys";
import type { Act } from "../../core/people/roles";
import { type Db, sql } from "../db/open";
import { AddressDay, AddressList } from "./address";
import type { FileColumn } from "./file-columns";
import { escaped } from "./find";
import { remember } from "./remember";

const MOST_WORDS = 5;
/** So many rows are read at once for a file. */
const PART = 1_000;

/** What a list can be narrowed by: values of a column, or what `exists` finds of the values in `@<name>` (JSON). */
export type Narrowed = { column: string; values?: readonly string[] } | { exists: string };

/**
 * A list that lies in the company's file, said once: the address of its page, its rows in windows, what all of them come to,
 * and the files of it follow from this. All texts are SQL of ours; nothing of an address is ever put into them.
 */
export interface ListSpec<By extends string, Flag extends string, Sum extends string, Row> {
  /** Names its files, and the views that are kept of it. */
  name: string;
  /** What a person's roles have to allow. */
  act: Act;
  /** The table with its alias, and what has to be joined for words and names. */
  from: string;
  join: string;
  id: string;
  /** What of the table belongs to the list. */
  always: string;
  by: Readonly<Record<By, Narrowed>>;
  /** Conditions that `<name>=yes` sets; they may use `@today`. */
  flags: Readonly<Record<Flag, string>>;
  /** The moment that `from` and `to` look at. */
  moment?: string;
  /** Where the words that are sought may stand; `@word` is the pattern of one. */
  words: readonly string[];
  /** What a column sorts by. */
  sorts: Readonly<Record<string, string>>;
  /** The order of the list as it is, and among equals. */
  order: string;
  /** What rows are headed by; they have to be in this order, too. */
  heading?: string;
  /** What all rows come to, in home currency or as a number. */
  sums: Readonly<Record<Sum, string>>;
  /** How many rows the whole list has. */
  all: string;
  /** Rows by their ids, in the order of these. */
  rows: (db: Db, ids: readonly number[], today: Day) => Row[];
  /** The columns of its files. */
  file: (db: Db) => readonly FileColumn<Row>[];
}

export type ListQuery<By extends string, Flag extends string> = Readonly<Record<By, string[]>> &
  Readonly<Record<Flag, "yes" | undefined>> & {
    from: Day | null;
    to: Day | null;
    find: string;
    sort: { column: string; down: boolean } | null;
  };

export interface Window {
  from: number;
  most: number;
  /** The id of a row around which the window lies, where it is in the list. */
  around?: number | null;
}

export interface FoundRows<Row> {
  /** How many rows the address finds, and how many there are. */
  count: number;
  all: number;
  /** Where the row stands that was asked for; null where it does not. */
  place: number | null;
  from: number;
  rows: Row[];
  groups: { start: number; heading: string }[];
  /** Rows that are read later belong to the same sheet as long as their count is the same. */
  at: 0;
}

/** What an address finds, as SQL. */
export interface Where {
  text: string;
  values: Record<string, unknown>;
}

export interface List<By extends string, Flag extends string, Sum extends string, Row> {
  name: string;
  act: Act;
  /** What an address asks for; anything that is not understood is left out of it. */
  query(search: URLSearchParams): ListQuery<By, Flag>;
  where(q: ListQuery<By, Flag>, today: Day): Where;
  /** The least that counting has to read: joins cost time over a hundred thousand rows. */
  countFrom(q: ListQuery<By, Flag>): string;
  find(db: Db, q: ListQuery<By, Flag>, today: Day, window: Window): FoundRows<Row> & Record<Sum, number>;
  /** Every id that an address asks for, in its order. */
  ids(db: Db, q: ListQuery<By, Flag>, today: Day): number[];
  rows: ListSpec<By, Flag, Sum, Row>["rows"];
  file: ListSpec<By, Flag, Sum, Row>["file"];
  /** All that an address asks for, part by part. */
  parts(db: Db, search: URLSearchParams, today: Day): Generator<Row[]>;
}

export function defineList<By extends string, Flag extends string, Sum extends string, Row>(
  spec: ListSpec<By, Flag, Sum, Row>,
): List<By, Flag, Sum, Row> {
  type Query = ListQuery<By, Flag>;
  const names = keysOf(spec.by);
  const flags = keysOf(spec.flags);
  const address = z.object({
    ...Object.fromEntries(names.map((name) => [name, AddressList])),
    ...Object.fromEntries(flags.map((name) => [name, z.literal("yes").optional().catch(undefined)])),
    from: AddressDay,
    to: AddressDay,
    find: z.string().max(80).optional().default("").catch(""),
    sort: z.string().max(20).optional().catch(undefined),
  });

  function query(search: URLSearchParams): Query {
    const read = address.parse(Object.fromEntries(search));
    const column = read.sort?.replace(/^-/, "") ?? "";
    const known = recordOf(names, (name) => valuesOf(spec.by[name], AddressList.parse(search.get(name) ?? undefined)));
    const sort = Object.hasOwn(spec.sorts, column) ? { column, down: read.sort!.startsWith("-") } : null;
    return { ...read, ...known, sort } as Query; // what was read by its schema, and the names of the specification
  }

  function where(q: Query, today: Day): Where {
    const parts = [spec.always];
    const values: Record<string, unknown> = {};
    for (const name of names) {
      if (q[name].length === 0) continue;
      const by = spec.by[name];
      parts.push("exists" in by ? by.exists : `${by.column} IN (SELECT value FROM json_each(@${name}))`);
      values[name] = JSON.stringify("values" in by ? q[name] : q[name].map(Number));
    }
    for (const name of flags) {
      if (!q[name]) continue;
      parts.push(spec.flags[name]);
      if (spec.flags[name].includes("@today")) values.today = today;
    }
    if (spec.moment && q.from) {
      parts.push(`${spec.moment} >= @since`);
      values.since = q.from;
    }
    if (spec.moment && q.to) {
      parts.push(`${spec.moment} < @until || 'T99'`);
      values.until = q.to;
    }
    q.find
      .split(/\s+/)
      .filter(Boolean)
      .slice(0, MOST_WORDS)
      .forEach((word, i) => {
        parts.push(`(${spec.words.join(" OR ").replaceAll("@word", `@find${i} ESCAPE '\\'`)})`);
        values[`find${i}`] = `%${escaped(word)}%`;
      });
    return { text: parts.join(" AND "), values };
  }

  const whole = `FROM ${spec.from} ${spec.join}`;
  const bare = `FROM ${spec.from}`;
  const alias = `${spec.id.split(".")[0]}.`;
  const countFrom = (q: Query) => (q.find ? whole : bare);
  const orderBy = (q: Query) =>
    q.sort
      ? `ORDER BY ${spec.sorts[q.sort.column]} ${q.sort.down ? "DESC" : "ASC"}, ${spec.order}`
      : `ORDER BY ${spec.order}`;
  /** The least that finding the rows of a window has to join. */
  const windowFrom = (q: Query) => (q.find || (q.sort && !spec.sorts[q.sort.column]!.startsWith(alias)) ? whole : bare);

  /** Where a row stands among those that are found. */
  function placeOf(db: Db, q: Query, { text, values }: Where, id: number): number | null {
    const row = sql<{ place: number }>(
      db,
      `SELECT place FROM (SELECT ${spec.id} AS id, row_number() OVER (${orderBy(q)}) - 1 AS place ${windowFrom(q)} WHERE ${text}) WHERE id = @id`,
    ).get({ ...values, id });
    return row?.place ?? null;
  }

  /** Where each heading begins, in the list's own order. */
  function groupsOf(db: Db, q: Query, { text, values }: Where): FoundRows<Row>["groups"] {
    if (!spec.heading || q.sort) return [];
    let start = 0;
    return sql<{ heading: string; n: number }>(
      db,
      `SELECT ${spec.heading} AS heading, count(*) AS n ${countFrom(q)} WHERE ${text} GROUP BY ${spec.heading} ORDER BY ${spec.heading}`,
    )
      .all(values)
      .map(({ heading, n }) => {
        start += n;
        return { start: start - n, heading };
      });
  }

  const sums = Object.entries<string>(spec.sums).map(([name, of]) => `, coalesce(${of}, 0) AS ${name}`);
  function find(db: Db, q: Query, today: Day, window: Window) {
    const found = where(q, today);
    const { count, groups, ...rest } = remember(db, `${spec.name}/${today}/${JSON.stringify(q)}`, () => ({
      ...sql<{ count: number } & Record<Sum, number>>(
        db,
        `SELECT count(*) AS count${sums.join("")} ${countFrom(q)} WHERE ${found.text}`,
      ).get(found.values)!,
      groups: groupsOf(db, q, found),
    }));
    const all = remember(db, `${spec.name}/all`, () => sql<{ n: number }>(db, `SELECT ${spec.all} AS n`).get()!.n);
    const place = window.around ? placeOf(db, q, found, window.around) : null;
    const from = place === null ? window.from : Math.max(0, Math.min(place - (window.most >> 1), count - window.most));
    const ids = sql<{ id: number }>(
      db,
      `SELECT ${spec.id} AS id ${windowFrom(q)} WHERE ${found.text} ${orderBy(q)} LIMIT @most OFFSET @from`,
    ).all({ ...found.values, most: window.most, from });
    const rows = spec.rows(
      db,
      ids.map((r) => r.id),
      today,
    );
    return { ...(rest as unknown as Record<Sum, number>), count, all, place, from, rows, groups, at: 0 as const }; // the sums are what is left
  }

  function ids(db: Db, q: Query, today: Day): number[] {
    const { text, values } = where(q, today);
    return sql<{ id: number }>(db, `SELECT ${spec.id} AS id ${windowFrom(q)} WHERE ${text} ${orderBy(q)}`)
      .all(values)
      .map((r) => r.id);
  }

  function* parts(db: Db, search: URLSearchParams, today: Day): Generator<Row[]> {
    const found = ids(db, query(search), today);
    for (let i = 0; i < found.length; i += PART) yield spec.rows(db, found.slice(i, i + PART), today);
  }

  const { name, act, rows, file } = spec;
  return { name, act, query, where, countFrom, find, ids, rows, file, parts };
}

const valuesOf = (by: Narrowed, said: string[]) => ("values" in by ? said.filter((v) => by.values!.includes(v)) : said);
