import { useCallback, useEffect, useState } from "react";
import { readLocal, writeLocal } from "../ui/local-draft";
import { useWriting } from "../ui/locale";
import { dropWaiting, sendWaiting, type ToSend, waitingOf } from "./sending";

/** Does the house answer? What a browser believes of its connection is not asked. */
const answers = () =>
  fetch("/mark.svg", { method: "HEAD", cache: "no-store" }).then(
    () => true,
    () => false,
  );

/** While something waits it is tried again after so long. */
const AGAIN = 8_000;

/** What this device has to send of a person's: tried on coming here, when a connection is back, and every few seconds. */
export function useSending() {
  const { person } = useWriting();
  const [waiting, setWaiting] = useState<ToSend[]>([]);
  const [online, setOnline] = useState(true);
  const [taken, setTaken] = useState<ToSend[]>([]);
  const look = useCallback(async () => setWaiting(await waitingOf(person)), [person]);
  const send = useCallback(async () => {
    const { reached, taken: now } = await sendWaiting(person);
    if (now.length) setTaken((before) => [...before, ...now]);
    setOnline(reached && (await answers()));
    await look();
  }, [person, look]);
  useEffect(() => {
    void send();
    const back = () => void send();
    const away = () => setOnline(false);
    addEventListener("online", back);
    addEventListener("offline", away);
    return () => {
      removeEventListener("online", back);
      removeEventListener("offline", away);
    };
  }, [send]);
  const some = waiting.some((w) => w.refused === null);
  useEffect(() => {
    if (!some) return;
    const again = setInterval(() => void send(), AGAIN);
    return () => clearInterval(again);
  }, [some, send]);
  return {
    waiting,
    online,
    taken,
    look,
    /** Goes on with what was refused: it is a draft again. False where another count is begun there, which stays. */
    takeBack: async (w: ToSend): Promise<boolean> => {
      if (readLocal(w.draft.name) !== null) return false;
      writeLocal(w.draft.name, { version: w.draft.version, draft: w.draft.value });
      await dropWaiting(w.key);
      await look();
      return true;
    },
    forget: async (w: ToSend) => {
      await dropWaiting(w.key);
      await look();
    },
  };
}

/** Keeps the pages of the dock on this device; `pages` beside the one that is open. */
export function useKeptPages(pages: readonly string[]) {
  const wanted = pages.join(" ");
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    let over = false;
    void (async () => {
      await navigator.serviceWorker.register("/away.js").catch(() => null);
      const ready = await navigator.serviceWorker.ready;
      if (over) return;
      const files = performance
        .getEntriesByType("resource")
        .map((r) => r.name)
        .filter((n) => n.startsWith(location.origin));
      ready.active?.postMessage({
        keep: [...files, location.pathname + location.search, ...wanted.split(" ").filter(Boolean)],
      });
    })();
    return () => {
      over = true;
    };
  }, [wanted]);
}
