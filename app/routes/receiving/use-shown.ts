import { useState } from "react";

/** Lines of which more fields stand open: those that were asked for, and those where `isSet` says that something was typed. */
export function useShown(isSet: (line: number) => boolean) {
  const [asked, setAsked] = useState<ReadonlySet<number>>(new Set());
  return {
    has: (line: number) => asked.has(line) || isSet(line),
    toggle: (line: number) =>
      setAsked((was) => {
        const next = new Set(was);
        if (!next.delete(line)) next.add(line);
        return next;
      }),
  };
}
