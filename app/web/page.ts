import { createHash, randomUUID } from "node:crypto";
import { type ActionFunctionArgs, data, type LoaderFunctionArgs, redirect } from "react-router";
import type { Day } from "../../core/calendar/day";
import type { IdOf } from "../../core/ids";
import { TooLargeFigure } from "../../core/numbers/decimal";
import { type Act, may } from "../../core/people/roles";
import { type Desk, type Done, type Person, refuse } from "../../server/acts/desk";
import { personOfToken } from "../../server/auth/tokens";
import { isBusy, patiently } from "../../server/db/busy";
import type { Db } from "../../server/db/open";
import { type House, hour, house, now, today, visitor } from "./house";
import { MOST_SENT, readSent, type Sent, TooLarge, Upload } from "./sent";

/** A request of somebody who is signed in and whose role allows the page. */
export interface Visit {
  db: Db;
  person: Person;
  day: Day;
  hour: number;
  house: House;
  request: Request;
  params: Record<string, string | undefined>;
  url: URL;
}

/** Body of the answer to what cannot be shown; `app/ui/trouble.tsx` puts it into words. */
export interface Trouble {
  says: string;
  reference?: string;
}

export const notFound = (says: string) => data<Trouble>({ says }, { status: 404 });
export const notAllowed = (says = "Your role does not show this page.") => data<Trouble>({ says }, { status: 403 });

/** An id from the address, or a page that says there is no such paper. */
export function idOf(text: string | undefined): IdOf<never> {
  const id = Number(text);
  if (!/^\d{1,15}$/.test(text ?? "") || !Number.isSafeInteger(id) || id <= 0) throw notFound("There is no such page.");
  return id as IdOf<never>; // of whatever the page is of: the query looks whether there is one
}

/** A whole number from the address, within bounds; `or` where there is none, or something else. */
export function wholeOf(
  url: URL,
  name: string,
  { least, most, or }: { least: number; most: number; or: number },
): number {
  const text = url.searchParams.get(name) ?? "";
  return /^\d{1,15}$/.test(text) ? Math.min(most, Math.max(least, Number(text))) : or;
}

/** The id of what is looked at, from the address; null where it names none. */
export const atOf = (url: URL, name = "at"): number | null =>
  wholeOf(url, name, { least: 0, most: 1e15, or: 0 }) || null;

async function enter({ request, context, params }: LoaderFunctionArgs, act: Act): Promise<Visit> {
  const url = new URL(request.url);
  const h = context.get(house);
  const person = await visitor(request, context);
  if (!person) throw redirect(`/sign-in?to=${encodeURIComponent(url.pathname.replace(/\.data$/, "") + url.search)}`);
  if (!may(person.roles, act)) throw notAllowed();
  return { db: h.db, person, day: today(), hour: hour(), house: h, request, params, url };
}

/** What another program is told where it may not go on. */
const refused = (status: number, says: string) =>
  Response.json(
    { ok: false, problems: [{ field: "", says }] },
    {
      status,
      headers: status === 401 ? { "WWW-Authenticate": 'Bearer realm="Wharf Tally"' } : {},
    },
  );

/** A visit by a person's token, or else by whoever is signed in; or the answer that refuses it. */
async function enterByToken(args: LoaderFunctionArgs, act: Act): Promise<Visit | Response> {
  const { request, context, params } = args;
  const given = request.headers.get("authorization");
  const h = context.get(house);
  if (given === null) {
    if (!(await visitor(request, context)))
      return refused(401, "Send a personal access token: Authorization: Bearer …");
    return enter(args, act);
  }
  const token = /^Bearer\s+(\S{10,200})$/i.exec(given)?.[1];
  if (!token) return refused(401, "Send the token as: Authorization: Bearer …");
  const found = personOfToken(h.db, token, now(), today());
  if ("says" in found) return refused(401, found.says);
  if (!may(found.person.roles, act)) return refused(403, "Your role does not allow this.");
  const url = new URL(request.url);
  return { db: h.db, person: found.person, day: today(), hour: hour(), house: h, request, params, url };
}

/** A reading for other programs: by token, or for whoever is signed in. */
export function programPage(act: Act, read: (visit: Visit) => Response | Promise<Response>) {
  return async (args: LoaderFunctionArgs): Promise<Response> => {
    try {
      const visit = await enterByToken(args, act);
      return visit instanceof Response ? visit : await read(visit);
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** An act for other programs. The same `Idempotency-Key` again gives the same answer and does nothing more. */
export function programAct<T>(
  allowed: Act,
  run: (desk: Desk, input: Sent, visit: Visit) => Done<T> | Promise<Done<T>>,
) {
  return async (args: ActionFunctionArgs): Promise<Response> => {
    try {
      const visit = await enterByToken(args, allowed);
      if (visit instanceof Response) return visit;
      const input = await readSent(args.request, MOST_SENT);
      if (!input) return refused(400, "Send multipart/form-data.");
      const given = args.request.headers.get("idempotency-key");
      if (given !== null && (given.length < 8 || given.length > 80))
        return refused(400, "An Idempotency-Key has 8 to 80 characters.");
      const desk = deskOf(visit, given ?? randomUUID(), printOf(visit, input));
      const answer = await patiently(() => refusingLarge(() => run(desk, input, visit)));
      return Response.json(answer.ok ? { ok: true, ...answer.value } : answer, { status: statusOf(answer) });
    } catch (e) {
      if (e instanceof TooLarge) return refused(413, TOO_LARGE);
      return faulty(e, args.context.get(house));
    }
  };
}

const TOO_LARGE = "This is larger than 25 MB, or has too many parts.";

/** A fault is logged under the request's reference, and the page names it; nothing of it is shown. */
function faulty(e: unknown, h: House): never {
  if (e instanceof Response || (typeof e === "object" && e !== null && "init" in e && "data" in e)) throw e;
  if (isBusy(e))
    throw data<Trouble>(
      { says: "A very large file is being loaded. Nothing of this was done: try again in a while." },
      { status: 503 },
    );
  if (e instanceof TooLargeFigure) throw data<Trouble>({ says: e.message }, { status: 422 });
  if (e instanceof TooLarge) throw data<Trouble>({ says: TOO_LARGE }, { status: 413 });
  h.log.error({ err: e, reference: h.reference }, "fault");
  h.watch.failed("fault", h.reference, e);
  throw data<Trouble>(
    {
      says: "Something went wrong on our side. What you were doing is done whole or not at all: look before you do it again.",
      reference: h.reference,
    },
    { status: 500 },
  );
}

/** A loader for people whose roles allow `act`. */
export function page<T>(act: Act, read: (visit: Visit) => T | Promise<T>) {
  return async (args: LoaderFunctionArgs): Promise<T> => {
    try {
      const visit = await enter(args, act);
      return await patiently(() => read(visit));
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** A field that holds JSON; null where it does not. */
export function readJson(text: unknown): unknown {
  if (typeof text !== "string") return null;
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** One act as a page runs it. */
export type PageAct<T> = (desk: Desk, input: Sent, visit: Visit) => Done<T> | Promise<Done<T>>;

async function perform<T>(args: ActionFunctionArgs, allowed: Act, run: PageAct<T>): Promise<Done<T>> {
  const visit = await enter(args, allowed);
  const input = await readSent(args.request, MOST_SENT);
  const key = input?.key;
  if (!input || typeof key !== "string" || key.length < 8 || key.length > 80) {
    return refuse("", "This page is out of date. Load it again; what you typed is still here.");
  }
  const desk = deskOf(visit, key, printOf(visit, input));
  return patiently(() => refusingLarge(() => run(desk, input, visit)));
}

/** What comes to more than can be kept exactly is refused with a sentence; the act left nothing behind. */
async function refusingLarge<T>(run: () => Done<T> | Promise<Done<T>>): Promise<Done<T>> {
  try {
    return await run();
  } catch (e) {
    if (e instanceof TooLargeFigure) return refuse("", e.message);
    throw e;
  }
}

/** A hash of where something was sent and what, the key left out: one key serves one thing. */
function printOf({ url }: Visit, input: Sent): string {
  const print = createHash("sha256").update(url.pathname.replace(/\.data$/, ""));
  for (const name of Object.keys(input).sort()) {
    const value = input[name];
    if (name === "key") continue;
    print.update(`\u0000${name}\u0000`);
    if (value instanceof Upload) print.update(value.bytes);
    else print.update(JSON.stringify(value) ?? "");
  }
  return print.digest("base64url");
}

const deskOf = (visit: Visit, key: string, sent: string): Desk => ({
  db: visit.db,
  person: visit.person,
  day: visit.day,
  hour: visit.hour,
  now: now().toISOString(),
  key,
  sent,
});

/** Refusals come back as 422, stale saves as 409, what a role forbids as 403, each with its sentences. */
const statusOf = (answer: Done<unknown>) => (answer.ok ? 200 : answer.stale ? 409 : answer.forbidden ? 403 : 422);

/** A page's action for people whose roles allow `act`. */
export function act<T>(allowed: Act, run: PageAct<T>) {
  return async (args: ActionFunctionArgs) => {
    try {
      const answer = await perform(args, allowed, run);
      return data(answer, { status: statusOf(answer) });
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** What forms of a page may ask for, by the word they send in `do`. */
export type PageActs = Readonly<Record<string, PageAct<unknown>>>;
type ValueOf<R extends PageActs> = R[keyof R] extends (...args: never[]) => infer A
  ? Extract<Awaited<A>, { ok: true }> extends { value: infer V }
    ? V
    : never
  : never;

/**
 * Does the one act that is asked for. `of` is what the address says, such as the paper it is done to; it stands above
 * what was sent.
 */
export const oneOf =
  <R extends PageActs>(runs: R, of: (visit: Visit) => object = () => ({})): PageAct<ValueOf<R>> =>
  (desk, input, visit) => {
    const run = typeof input.do === "string" && Object.hasOwn(runs, input.do) ? runs[input.do] : undefined;
    return (run?.(desk, { ...input, ...of(visit) }, visit) ?? NOT_HERE) as Done<ValueOf<R>> | Promise<Done<ValueOf<R>>>; // each answer is one of theirs
  };
const NOT_HERE = refuse("", "This cannot be done here.");

/**
 * A page's action: its acts by the words of its forms. The words are the type of the forms' `does`, so that one which the
 * page does not know is a fault of types: `type JobWord = keyof typeof jobActs`.
 */
export const actions = <R extends PageActs>(allowed: Act, runs: R, of?: (visit: Visit) => object) =>
  act(allowed, oneOf(runs, of));

/** A file that has to come with what was sent. */
export const withSent =
  <T>(field: string, missing: string, run: (desk: Desk, file: Upload, input: Sent) => Done<T>): PageAct<T> =>
  (desk, input) => {
    const file = input[field];
    return file instanceof Upload ? run(desk, file, input) : refuse(field, missing);
  };

/** An answer of another shape to what a script of our own pages sends; it changes nothing. */
export function answered(allowed: Act, answer: (visit: Visit, input: Sent) => Response | Promise<Response>) {
  return async (args: ActionFunctionArgs): Promise<Response> => {
    try {
      const visit = await enter(args, allowed);
      const input = (await readSent(args.request, MOST_SENT)) ?? {};
      return await patiently(() => answer(visit, input));
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** The same as plain JSON, for what saves while a person types. */
export function kept<T>(allowed: Act, run: PageAct<T>) {
  return async (args: ActionFunctionArgs) => {
    try {
      const answer = await perform(args, allowed, run);
      return Response.json(answer, { status: statusOf(answer) });
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}
