import type { PersonId } from "../../core/ids";
import type { FileKind } from "../../exchange/csv/kinds";
import { type Desk, type Done, refuse } from "../acts/desk";
import type { HowToLoad, LoadAnswer } from "../acts/files/load-file";
import type { InvoicesEntered } from "../acts/settling/invoices-from-table";
import { inWorker } from "./crew";
import type { Jobs } from "./jobs";

/** Longer than this no file is worked on. */
const LONGEST = 600_000;
const LONGEST_LOOK = 60_000;

/** A file that is being read and loaded in a worker. */
export interface Loading {
  key: string;
  kind: FileKind | "invoices";
  /** Rows done, of all; null while the file is read. */
  rows: { done: number; of: number } | null;
}

const running = new Map<string, Loading & { stop: AbortController }>();
const nameOf = (person: PersonId, key: string) => `${person}/${key}`;
let last: Promise<unknown> = Promise.resolve();

/** Files wait for each other: two that write at the same time would only wait inside. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const turn = last.then(work, work);
  last = turn.catch(() => {});
  return turn;
}

/**
 * Takes a file in beside the server. The person may look how far it is, and stop it; `signal` stops it, too. Then nothing of
 * it was kept.
 */
function besideServer<J extends "load" | "invoices">(
  { key, person }: Desk,
  kind: Loading["kind"],
  job: J,
  input: Jobs[J]["input"],
  signal?: AbortSignal,
): Promise<Jobs[J]["output"] | Done<never>> {
  const stop = new AbortController();
  signal?.addEventListener("abort", () => stop.abort());
  const loading: Loading & { stop: AbortController } = { key, kind, rows: null, stop };
  const name = nameOf(person.id, key);
  running.set(name, loading);
  const work = () =>
    inWorker(job, input, {
      onPart: (rows) => {
        loading.rows = rows;
      },
      signal: AbortSignal.any([stop.signal, AbortSignal.timeout(LONGEST)]),
    });
  return inTurn(work)
    .catch((fault: unknown) => {
      if (stop.signal.aborted) return refuse("", "Stopped: nothing was loaded.");
      const says = whyNot(fault);
      if (says === null) throw fault;
      return refuse("file", says);
    })
    .finally(() => running.delete(name));
}

/** Loads a file of records. */
export function loadInWorker(
  desk: Desk,
  kind: FileKind,
  bytes: Uint8Array,
  how: HowToLoad,
  signal?: AbortSignal,
): Promise<LoadAnswer> {
  const { db, ...by } = desk;
  return besideServer(desk, kind, "load", { file: db.name, by, kind, bytes, how }, signal);
}

/** Enters the invoices of a table. */
export function enterInWorker(desk: Desk, bytes: Uint8Array, signal?: AbortSignal): Promise<Done<InvoicesEntered>> {
  const { db, ...by } = desk;
  return besideServer(desk, "invoices", "invoices", { file: db.name, by, bytes }, signal);
}

/** Why a worker could not read a file to its end; null where the fault is ours. */
function whyNot(fault: unknown): string | null {
  const { code, name } = fault as { code?: string; name?: string }; // only looked at: whatever was thrown
  if (code === "ERR_WORKER_OUT_OF_MEMORY") return "This file needs more memory than there is for one file. Split it.";
  return name === "AbortError" || name === "TimeoutError" ? "This file takes too long. Split it." : null;
}

/** What of somebody's is being loaded. */
export const loadingsOf = (person: PersonId): Loading[] =>
  [...running].flatMap(([name, { key, kind, rows }]) => (name.startsWith(`${person}/`) ? [{ key, kind, rows }] : []));

/** Stops what somebody loads under a key. */
export const stopLoading = (person: PersonId, key: string): void => running.get(nameOf(person, key))?.stop.abort();

/** Resolves when no file is being loaded. */
export const noLoading = (): Promise<unknown> => last;

/** What a worker reads in a file without keeping anything; or why it could not. */
export async function readInWorker<J extends "look" | "lines">(
  job: J,
  input: Jobs[J]["input"],
): Promise<Jobs[J]["output"] | { says: string }> {
  try {
    return await inWorker(job, input, { signal: AbortSignal.timeout(LONGEST_LOOK) });
  } catch (fault) {
    const says = whyNot(fault);
    if (says === null) throw fault;
    return { says };
  }
}
