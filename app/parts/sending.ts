import { createStore, del, entries, set, type UseStore } from "idb-keyval";
import type { PersonId } from "../../core/ids";
import { answerOf } from "../ui/answer-of";
import { newKey } from "../ui/submission";

/** What is to be sent: whose it is, what it is in words, and what is sent to which address of ours, under one key for ever. */
export interface ToSend {
  key: string;
  person: PersonId;
  what: string;
  to: string;
  body: object;
  /** When it was given, ISO in UTC. */
  at: string;
  /** What was typed, to be gone on with where it is refused: under which name, and of which version. */
  draft: { name: string; version: number; value: unknown };
  /** Why the house refused it; null while it waits. */
  refused: string[] | null;
}

interface SaidProblem {
  field: string;
  says: string;
}
/** What became of it: taken, refused with its sentences, or waiting for a connection. */
export type SendingOf<T> =
  | { kind: "taken"; value: T }
  | { kind: "refused"; problems: SaidProblem[]; stale: boolean }
  | { kind: "waits" };

let opened: UseStore | null = null;
const store = () => {
  opened ??= createStore("wharf-sending", "waiting");
  return opened;
};

/** All that a person's device has to send, the first first. A device that keeps nothing has nothing. */
export async function waitingOf(person: PersonId): Promise<ToSend[]> {
  const all = await entries<string, ToSend>(store()).catch(() => []);
  return all
    .map(([, w]) => w)
    .filter((w) => w.person === person)
    .sort((a, b) => (a.at < b.at ? -1 : 1));
}

/** False where the device keeps nothing. */
const keep = (w: ToSend): Promise<boolean> =>
  set(w.key, w, store()).then(
    () => true,
    () => false,
  );
export const dropWaiting = (key: string): Promise<void> => del(key, store()).catch(() => {});

/** Sends one; what cannot reach the house waits, and is sent later under the same key: it is taken once. */
async function sendOne<T>(w: ToSend): Promise<SendingOf<T>> {
  try {
    const answer = await fetch(w.to, {
      method: "POST",
      headers: { "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({ ...w.body, key: w.key }),
    });
    if (answer.redirected || answer.status >= 500 || answer.status === 401) return { kind: "waits" };
    const said = await answerOf<{ ok: true; value: T } | { ok: false; problems: SaidProblem[]; stale?: true }>(answer);
    return said.ok
      ? { kind: "taken", value: said.value }
      : { kind: "refused", problems: said.problems, stale: said.stale === true };
  } catch {
    return { kind: "waits" };
  }
}

const NOT_KEPT = "No connection, and this device keeps nothing for later. What you counted is still here: try again.";

/**
 * Gives something to be sent: it is on the device before it leaves, so that neither a lost answer nor an empty battery loses
 * it. Refused at once, it is not kept: whoever gave it has it still.
 */
export async function give<T>(w: Omit<ToSend, "key" | "at" | "refused">): Promise<SendingOf<T>> {
  const entry: ToSend = { ...w, key: newKey(), at: new Date().toISOString(), refused: null };
  const kept = await keep(entry);
  const sent = await sendOne<T>(entry);
  if (sent.kind !== "waits") await dropWaiting(entry.key);
  else if (!kept) return { kind: "refused", problems: [{ field: "", says: NOT_KEPT }], stale: false };
  return sent;
}

let sending: Promise<unknown> = Promise.resolve();

/** Sends all that waits, one after the other; says whether the house answered. What is refused stays, with why. */
export function sendWaiting(person: PersonId): Promise<{ reached: boolean; taken: ToSend[] }> {
  const run = async () => {
    const taken: ToSend[] = [];
    for (const w of await waitingOf(person)) {
      if (w.refused !== null) continue;
      const sent = await sendOne(w);
      if (sent.kind === "waits") return { reached: false, taken };
      if (sent.kind === "taken") {
        await dropWaiting(w.key);
        taken.push(w);
      } else await keep({ ...w, refused: sent.problems.map((p) => p.says) });
    }
    return { reached: true, taken };
  };
  const turn = sending.then(run, run);
  sending = turn.catch(() => {});
  return turn;
}
