import { type RefObject, useEffect, useRef } from "react";
import { useKeys } from "./keys";

/** Rows by keys: each goes on from where the last one led, even before it is drawn; what is asked of a row on its way is done when it is here. */
export function useRowKeys<R>({
  count,
  place,
  current,
  row,
  onPlace,
  acts,
  ticks,
  opens,
}: {
  count: number;
  place: number;
  /** The row at the place, where it is here. */
  current: R | undefined;
  row: (index: number) => R | undefined;
  onPlace: (index: number) => void;
  acts: RefObject<{ ticks?: { can: (row: R) => boolean; toggle: (row: R) => void }; onOpen?: (row: R) => void }>;
  /** Rows can be ticked, or opened. */
  ticks: boolean;
  opens: boolean;
}): void {
  // Keys may come faster than the page is drawn: each goes on from where the last one led.
  const at = useRef(place);
  at.current = place;
  const move = (by: number) => {
    if (count === 0) return;
    at.current = Math.max(0, Math.min(count - 1, at.current < 0 ? 0 : at.current + by));
    onPlace(at.current);
  };
  // What is asked of a row that is on its way is done when it is here.
  const asked = useRef<{ place: number; act: (row: R) => void } | null>(null);
  const withRow = (act: (row: R) => void) => {
    const found = at.current < 0 ? undefined : row(at.current);
    asked.current = found === undefined && at.current >= 0 ? { place: at.current, act } : null;
    if (found !== undefined) act(found);
  };
  useEffect(() => {
    const open = asked.current;
    if (!open || current === undefined) return;
    asked.current = null;
    if (open.place === place) open.act(current);
  }, [current, place]);
  useKeys([
    { key: "arrowdown", label: "next row", run: () => move(1) },
    { key: "arrowup", label: "row before", run: () => move(-1) },
    { key: "pagedown", label: "a page on", silent: true, run: () => move(15) },
    { key: "pageup", label: "a page back", silent: true, run: () => move(-15) },
    { key: "home", label: "first row", silent: true, run: () => move(-count) },
    { key: "end", label: "last row", silent: true, run: () => move(count) },
    ...(ticks
      ? [
          {
            key: " ",
            label: "tick the row",
            run: () => withRow((r) => acts.current.ticks?.can(r) && acts.current.ticks.toggle(r)),
          },
        ]
      : []),
    ...(opens ? [{ key: "enter", label: "open the row", run: () => withRow((r) => acts.current.onOpen?.(r)) }] : []),
  ]);
}
