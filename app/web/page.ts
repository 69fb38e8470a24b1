import { type ActionFunctionArgs, data, type LoaderFunctionArgs, redirect } from "react-router";
import type { Day } from "../../core/calendar/day";
import { type Act, may } from "../../core/people/roles";
import type { Db } from "../../server/db/open";
import { type Desk, type Done, type Person, refuse } from "../../server/desk/desk";
import { type House, hour, house, now, today, visitor } from "./house";

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
export function idOf(text: string | undefined): number {
  const id = Number(text);
  if (!/^\d{1,15}$/.test(text ?? "") || !Number.isSafeInteger(id) || id <= 0) throw notFound("There is no such page.");
  return id;
}

async function enter({ request, context, params }: LoaderFunctionArgs, act: Act): Promise<Visit> {
  const url = new URL(request.url);
  const h = context.get(house);
  const person = await visitor(request, context);
  if (!person) throw redirect(`/sign-in?to=${encodeURIComponent(url.pathname.replace(/\.data$/, "") + url.search)}`);
  if (!may(person.roles, act)) throw notAllowed();
  return { db: h.db, person, day: today(), hour: hour(), house: h, request, params, url };
}

/** A fault is logged under the request's reference, and the page names it; nothing of it is shown. */
function faulty(e: unknown, h: House): never {
  if (e instanceof Response || (typeof e === "object" && e !== null && "init" in e && "data" in e)) throw e;
  h.log.error({ err: e, reference: h.reference }, "fault");
  throw data<Trouble>(
    { says: "Something went wrong on our side, and nothing was changed.", reference: h.reference },
    { status: 500 },
  );
}

/** A loader for people whose roles allow `act`. */
export function page<T>(act: Act, read: (visit: Visit) => T | Promise<T>) {
  return async (args: LoaderFunctionArgs): Promise<T> => {
    try {
      return await read(await enter(args, act));
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** What a form or a script sent: fields, with repeated names as lists, or JSON. */
export type Sent = Record<string, unknown>;

async function sent(request: Request): Promise<Sent | null> {
  try {
    if (request.headers.get("content-type")?.startsWith("application/json")) {
      const body: unknown = await request.json();
      return typeof body === "object" && body !== null && !Array.isArray(body) ? (body as Sent) : null;
    }
    const form = await request.formData();
    return Object.fromEntries(
      [...new Set(form.keys())].map((k) => [k, k.endsWith("[]") ? form.getAll(k) : form.get(k)]),
    );
  } catch {
    return null;
  }
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

type Run<T> = (desk: Desk, input: Sent, visit: Visit) => Done<T> | Promise<Done<T>>;

async function perform<T>(args: ActionFunctionArgs, allowed: Act, run: Run<T>): Promise<Done<T>> {
  const visit = await enter(args, allowed);
  const input = await sent(args.request);
  const key = input?.key;
  if (!input || typeof key !== "string" || key.length < 8 || key.length > 80) {
    return refuse("", "This page is out of date. Load it again; what you typed is still here.");
  }
  const desk: Desk = {
    db: visit.db,
    person: visit.person,
    day: visit.day,
    hour: visit.hour,
    now: now().toISOString(),
    key,
  };
  return run(desk, input, visit);
}

/** Refusals come back as 422, stale saves as 409, each with its sentences. */
const statusOf = (answer: Done<unknown>) => (answer.ok ? 200 : answer.stale ? 409 : 422);

/** A page's action for people whose roles allow `act`. */
export function act<T>(allowed: Act, run: Run<T>) {
  return async (args: ActionFunctionArgs) => {
    try {
      const answer = await perform(args, allowed, run);
      return data(answer, { status: statusOf(answer) });
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}

/** The same as plain JSON, for what saves while a person types. */
export function kept<T>(allowed: Act, run: Run<T>) {
  return async (args: ActionFunctionArgs) => {
    try {
      const answer = await perform(args, allowed, run);
      return Response.json(answer, { status: statusOf(answer) });
    } catch (e) {
      return faulty(e, args.context.get(house));
    }
  };
}
