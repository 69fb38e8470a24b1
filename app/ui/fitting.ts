import { type RefObject, useEffect, useLayoutEffect, useState } from "react";

interface Column {
  key: string;
  /** How long it stays where there is no room: 0 unless something else is said. */
  keep?: number;
}

/** The columns in the order in which they go: those that are kept least, and of those the one furthest right; never the first. */
export const goingOrder = <C extends Column>(columns: readonly C[]): C[] =>
  columns
    .map((column, place) => ({ column, place }))
    .slice(1)
    .sort((a, b) => (a.column.keep ?? 0) - (b.column.keep ?? 0) || b.place - a.place)
    .map((c) => c.column);

/** A sheet that is narrower scrolls for nobody. */
const PHONE = 600;

const useBeforePaint = typeof window === "undefined" ? useEffect : useLayoutEffect;

/**
 * The columns for which there is room, in their order, and those that went. As long as what scrolls is wider than what is
 * seen of it, one more goes; a wider window gives all of them another try. `holds`: a person chose them or drew their widths, and
 * all stay, to be scrolled, unless the screen is a phone's.
 */
export function useFitting<C extends Column>(
  columns: readonly C[],
  scroller: RefObject<HTMLElement | null>,
  holds: boolean,
): { shown: readonly C[]; gone: readonly C[] } {
  const [room, setRoom] = useState({ width: 0, gone: 0 });
  const order = goingOrder(columns);
  useBeforePaint(() => {
    const at = scroller.current;
    if (!at) return;
    if (holds && at.clientWidth >= PHONE) {
      if (room.gone > 0) setRoom({ width: at.clientWidth, gone: 0 });
      return;
    }
    if (at.clientWidth !== room.width) setRoom({ width: at.clientWidth, gone: 0 });
    else if (at.scrollWidth > at.clientWidth + 1 && room.gone < order.length) setRoom({ ...room, gone: room.gone + 1 });
  });
  useEffect(() => {
    const at = scroller.current;
    if (!at) return;
    const seen = new ResizeObserver(() =>
      setRoom((r) => (r.width === at.clientWidth ? r : { width: at.clientWidth, gone: 0 })),
    );
    seen.observe(at);
    return () => seen.disconnect();
  }, [scroller]);
  if (room.gone === 0) return { shown: columns, gone: [] };
  const gone = new Set(order.slice(0, room.gone));
  return { shown: columns.filter((c) => !gone.has(c)), gone: [...gone] };
}
