import type { ReactNode } from "react";
import { useMemo } from "react";
import { type RuledProps, RuledSheet } from "./ruled-sheet";

export { Named, type SheetColumn } from "./ruled-sheet";

interface Props<R> extends Omit<RuledProps<R>, "source" | "place" | "onPlace"> {
  rows: readonly R[];
  /** Rows of one group follow each other; its heading stands above the first. */
  group?: { of: (row: R) => string; heading: (first: R) => ReactNode };
  at: string | null;
  onAt: (key: string) => void;
}

/** A sheet of rows that are all here. */
export function Sheet<R>({ rows, group, at, onAt, ...rest }: Props<R>) {
  const { keyOf } = rest;
  const source = useMemo(() => {
    const groups: { start: number; heading: ReactNode }[] = [];
    let last: string | null = null;
    if (group) {
      rows.forEach((row, start) => {
        const name = group.of(row);
        if (name !== last) groups.push({ start, heading: group.heading(row) });
        last = name;
      });
    }
    return { count: rows.length, row: (i: number) => rows[i], groups };
  }, [rows, group]);
  const place = useMemo(() => rows.findIndex((r) => keyOf(r) === at), [rows, keyOf, at]);
  return (
    <RuledSheet
      {...rest}
      source={source}
      place={place}
      onPlace={(i) => {
        const row = rows[i];
        if (row) onAt(keyOf(row));
      }}
    />
  );
}
