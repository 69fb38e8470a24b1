import { randomUUID } from "node:crypto";
import type { Logger } from "pino";
import { createContext, createCookie, type RouterContextProvider } from "react-router";
import { type Day, toDay } from "../../core/calendar/day";
import type { Person } from "../../server/acts/desk";
import { personOf, secret } from "../../server/auth/sessions";
import type { Db } from "../../server/db/open";
import { drawInWorker } from "../../server/jobs/papers/draw";
import type { BatchHouse } from "../../server/jobs/papers/run-batch";
import type { Watch } from "../../server/jobs/watch";

/** What the web server hands to every page: the open file, the folder beside it, and this request's reference. */
export interface House {
  db: Db;
  folder: string;
  demo: boolean;
  /** Where people reach the house: what its links begin with. */
  site: string;
  /** What whoever sets the house up has to know. */
  setUpCode: string;
  nonce: string;
  reference: string;
  address: string;
  log: Logger;
  /** Writes what waits in the outbox; what cannot be written now is queued, and tried again. */
  post: () => void;
  /** How the house runs. */
  watch: Watch;
}
export const house = createContext<House>();

/** The moment; `WHARF_TODAY` fixes the day for tests and pictures, and leaves the time of day alone. */
export function now(): Date {
  const at = new Date();
  const fixed = process.env.WHARF_TODAY;
  return fixed ? new Date(`${toDay(fixed)}T${at.toISOString().slice(11)}`) : at;
}
/** The zone in which moments are shown: the company's, else the server's. */
export const zoneOf = ({ timeZone }: { timeZone: string }): string =>
  timeZone || Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The company's clock, where it says its zone; else the server's (TZ). All that reads days and hours goes by it. */
export function setClock(zone: string): void {
  if (zone) process.env.TZ = zone;
}

/** The day where the company is. */
export const today = (): Day => toDay(process.env.WHARF_TODAY ?? new Intl.DateTimeFormat("sv-SE").format(now()));

/** The hour of the day where the company is; a fixed day is looked at in the morning, before any cut-off. */
export const hour = (): number => (process.env.WHARF_TODAY ? 9 : now().getHours());

/** A cookie that only this installation writes; `by` names the secret it is signed with. */
const signedCookie = (db: Db, name: string, by: string, days: number) =>
  createCookie(name, {
    secrets: [secret(db, by)],
    httpOnly: true,
    sameSite: "lax",
    path: "/",
    maxAge: days * 86_400,
    secure: process.env.WHARF_HTTPS === "1",
  });

const cookie = (db: Db) => signedCookie(db, "wharf", "cookie", 14);

/** A device on which somebody signed in before, and as whom: strangers who guess names elsewhere do not shut it out. */
export interface Device {
  id: string;
  names: readonly string[];
}
const MOST_NAMES = 20;

const deviceSigned = (db: Db) => signedCookie(db, "wharf-device", "device", 400);

export async function deviceOf(request: Request, db: Db): Promise<Device | null> {
  const held: unknown = await deviceSigned(db).parse(request.headers.get("cookie"));
  if (typeof held !== "object" || held === null || !("id" in held) || !("names" in held)) return null;
  const { id, names } = held;
  return typeof id === "string" && Array.isArray(names)
    ? { id, names: names.filter((n) => typeof n === "string") }
    : null;
}

export const deviceCookie = (db: Db, before: Device | null, login: string) =>
  deviceSigned(db).serialize({
    id: before?.id ?? randomUUID(),
    names: [login, ...(before?.names ?? []).filter((n) => n !== login)].slice(0, MOST_NAMES),
  });

export const sessionCookie = (db: Db, token: string) => cookie(db).serialize(token);
export const noCookie = (db: Db) => cookie(db).serialize("", { maxAge: 0 });

export async function tokenOf(request: Request, db: Db): Promise<string | null> {
  const token: unknown = await cookie(db).parse(request.headers.get("cookie"));
  return typeof token === "string" && token ? token : null;
}

/** Who sends this request; null for nobody. */
export async function visitor(request: Request, context: Readonly<RouterContextProvider>): Promise<Person | null> {
  const { db } = context.get(house);
  const token = await tokenOf(request, db);
  return token ? personOf(db, token, now()) : null;
}

/** What working through a batch needs, outside of any request. */
export const batchHouse = ({
  db,
  folder,
  log,
  post,
  watch,
}: Pick<House, "db" | "folder" | "log" | "post" | "watch">): BatchHouse => ({
  db,
  folder,
  now,
  today,
  hour,
  draw: drawInWorker,
  post,
  onFault: (err) => {
    log.error({ err }, "a batch met a fault");
    watch.failed("failed job", "a batch of papers", err);
  },
});
