import { useKeys } from "../../ui/keys";

/** What is done on a bench by keys alone. */
export function useBenchKeys({
  step,
  rows,
  mayWrite,
  move,
  edit,
  lock,
  turn,
  split,
  write,
}: {
  step: (by: number) => void;
  rows: number;
  mayWrite: boolean;
  move: (by: 1 | -1) => void;
  edit: () => void;
  lock: () => void;
  /** From the ways to the row and back. */
  turn: () => void;
  split: () => void;
  write: () => void;
}): void {
  useKeys([
    { key: "arrowdown", label: "next need", run: () => step(1) },
    { key: "arrowup", label: "need before", run: () => step(-1) },
    { key: "pagedown", label: "a page on", silent: true, run: () => step(15) },
    { key: "pageup", label: "a page back", silent: true, run: () => step(-15) },
    { key: "home", label: "first need", silent: true, run: () => step(-rows) },
    { key: "end", label: "last need", silent: true, run: () => step(rows) },
    { key: "w", label: "the sum, or the ways to place", run: turn },
    ...(mayWrite
      ? [
          { key: "arrowright", label: "the choice to the next supplier", run: () => move(1) },
          { key: "arrowleft", label: "the choice to the supplier before", run: () => move(-1) },
          { key: "e", label: "edit the quantity", run: edit },
          { key: "l", label: "lock the choice, or unlock it", run: lock },
          {
            key: "s",
            label: "split the need over suppliers",
            run: split,
          },
          { key: "o", label: "look at the orders, then write them", run: write },
        ]
      : []),
  ]);
}
