import { useEffect, useRef, useSyncExternalStore } from "react";

export interface Key {
  /** As KeyboardEvent.key, lower case: "w", "enter", " ", "arrowdown". */
  key: string;
  label: string;
  run: () => void;
  /** Not listed on the key list, because it is a part of another entry. */
  silent?: boolean;
}

const live = new Set<{ current: readonly Key[] }>();
const listeners = new Set<() => void>();
let snapshot: readonly Key[] = [];
function changed(): void {
  snapshot = [...live].flatMap((l) => l.current.filter((k) => !k.silent));
  for (const l of listeners) l();
}

/** Is the person typing, so that single letters must not fire? */
export const isTyping = (t: EventTarget | null): t is HTMLElement =>
  t instanceof HTMLElement &&
  (t.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName)) &&
  !(t instanceof HTMLInputElement && t.type === "checkbox");

const isControl = (t: EventTarget | null) =>
  t instanceof HTMLElement && t.closest("a, button, summary, input, [role=option], [role=menuitem]") !== null;

/** Keys that work while this part is on the page. Single letters never fire while typing; Enter and Space leave controls alone. */
export function useKeys(keys: readonly Key[]): void {
  const latest = useRef(keys);
  latest.current = keys;
  const names = keys.map((k) => k.key + k.label).join("|");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the list is told apart by its names; what they run is read when pressed
  useEffect(() => {
    live.add(latest);
    changed();
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
      if (document.querySelector("[role=dialog], [role=menu]")) return;
      const pressed = e.key.toLowerCase();
      if ((pressed === "enter" || pressed === " ") && isControl(e.target)) return;
      const hit = latest.current.find((k) => k.key === pressed);
      if (!hit) return;
      e.preventDefault();
      hit.run();
    };
    document.addEventListener("keydown", press);
    return () => {
      document.removeEventListener("keydown", press);
      live.delete(latest);
      changed();
    };
  }, [names]);
}

const none: readonly Key[] = [];
/** Every key that works right now, for the key list. */
export const useLiveKeys = () =>
  useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => snapshot,
    () => none,
  );

const NAMES: Record<string, string> = {
  enter: "⏎",
  " ": "Space",
  arrowdown: "↓",
  arrowup: "↑",
  arrowleft: "←",
  arrowright: "→",
  escape: "Esc",
};
export const keyName = (key: string) => NAMES[key] ?? key.toUpperCase();

export function Kbd({ children }: { children: string }) {
  return (
    <kbd className="rounded-[3px] border border-current px-1 font-mono text-[10.5px] leading-[15px] font-semibold">
      {children}
    </kbd>
  );
}
