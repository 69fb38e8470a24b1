import { useCallback, useEffect, useRef, useState } from "react";
import type { PersonId, StoreId } from "../../../core/ids";
import type { KnownItem } from "../../../server/queries/needs/round";
import { answerOf } from "../../ui/answer-of";
import { readLocal, writeLocal } from "../../ui/local-draft";
import { newKey } from "../../ui/submission";

/** A line of the round, on this device until the server has it. */
export interface RoundLine {
  key: string;
  store: StoreId;
  code: string;
  name: string;
  quantity: string;
  unit: string;
  factor?: number;
  note: string;
  state: "waits" | "sent" | "refused";
  says?: string;
}

/** A handheld goes from hand to hand: what somebody noted is sent as theirs, or waits until they are back. */
const LINES = (person: PersonId) => `wharf.round.${person}.lines`;
const KNOWN = (store: StoreId) => `wharf.round.known.${store}`;
/** The lines of a person's round: kept on the device, sent when there is a connection, each taken in once. */
export function useRound(person: PersonId) {
  const [lines, setLines] = useState<RoundLine[]>([]);
  const [online, setOnline] = useState(true);
  const ready = useRef(false);
  const latest = useRef<RoundLine[]>([]);
  const put = useCallback(
    (next: RoundLine[]) => {
      latest.current = next;
      setLines(next);
      writeLocal(LINES(person), next);
    },
    [person],
  );
  const sending = useRef(false);
  const send = useCallback(async () => {
    if (sending.current || !ready.current) return;
    const waiting = latest.current.filter((l) => l.state === "waits");
    if (waiting.length === 0) return;
    sending.current = true;
    try {
      const { store } = waiting[0]!;
      const batch = waiting.filter((l) => l.store === store).slice(0, 200);
      const answer = await fetch("/round/send", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({
          store,
          key: newKey(),
          lines: batch.map(({ key, code, quantity, unit, factor, note }) => ({
            key,
            code,
            quantity,
            unit,
            factor,
            note,
          })),
        }),
      });
      if (answer.redirected) throw new Error("signed out");
      const said = await answerOf<{
        ok: boolean;
        value?: { taken: string[]; refused: { key: string; says: string }[] };
        problems?: { says: string }[];
      }>(answer);
      setOnline(true);
      const taken = new Set(said.value?.taken);
      const refused = new Map(said.value?.refused.map((r) => [r.key, r.says]));
      const whole = said.ok ? null : (said.problems?.[0]?.says ?? "This was not taken in.");
      const inBatch = new Set(batch.map((l) => l.key));
      put(
        latest.current.map((l) =>
          taken.has(l.key)
            ? { ...l, state: "sent" }
            : refused.has(l.key) || (whole && inBatch.has(l.key))
              ? { ...l, state: "refused", says: refused.get(l.key) ?? whole ?? "" }
              : l,
        ),
      );
    } catch {
      setOnline(false);
    } finally {
      sending.current = false;
    }
    if (latest.current.some((l) => l.state === "waits")) setTimeout(() => void send(), 4000);
  }, [put]);
  useEffect(() => {
    put(readLocal<RoundLine[]>(LINES(person)) ?? []);
    ready.current = true;
    void send();
    const back = () => void send();
    const away = () => setOnline(false);
    addEventListener("online", back);
    addEventListener("offline", away);
    return () => {
      removeEventListener("online", back);
      removeEventListener("offline", away);
    };
  }, [person, put, send]);
  return {
    lines,
    online,
    add: (line: Omit<RoundLine, "key" | "state">) => {
      put([{ ...line, key: newKey(), state: "waits" }, ...latest.current]);
      void send();
    },
    drop: (key: string) => put(latest.current.filter((l) => l.key !== key || l.state === "sent")),
    /** Takes what was sent off the list; it stays in the pool. */
    clear: () => put(latest.current.filter((l) => l.state !== "sent")),
  };
}

/** What can be scanned at a store: read now, or as it was when there was a connection. */
export function useKnown(store: StoreId) {
  const [items, setItems] = useState<KnownItem[] | null>(null);
  useEffect(() => {
    setItems(readLocal<KnownItem[]>(KNOWN(store)));
    const read = async () => {
      try {
        const answer = await fetch(`/round/known?store=${store}`);
        if (!answer.ok || answer.redirected) return;
        const known = await answerOf<KnownItem[]>(answer);
        setItems(known);
        writeLocal(KNOWN(store), known);
      } catch {
        // No connection: what was known before is good enough to walk on.
      }
    };
    void read();
    const timer = setInterval(read, 120_000);
    return () => clearInterval(timer);
  }, [store]);
  return items;
}

/** The items that a code means: ours or a GTIN first, else a supplier's, else a beginning of a name. */
export function itemsOf(items: readonly KnownItem[], code: string): KnownItem[] {
  const wanted = code.trim().toLowerCase();
  if (!wanted) return [];
  const own = items.filter((i) => i.code.toLowerCase() === wanted);
  if (own.length) return own;
  const other = items.filter((i) => i.codes.some((c) => c.toLowerCase() === wanted));
  if (other.length) return other;
  return wanted.length < 3 ? [] : items.filter((i) => i.name.toLowerCase().startsWith(wanted)).slice(0, 8);
}
