import { useMemo, useRef } from "react";
import { useSubmit } from "react-router";
import type { NeedRow, NeedSheet } from "../../../server/queries/needs/needs";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { NEED_SHEET_COLUMNS } from "./columns";
import type { NeedWord } from "./need-acts";
import type { useChoices } from "./use-needs";

/** The columns that an address asks for, and how their cells are drawn. */
export function useNeedColumns(cols: string | null, choices: ReturnType<typeof useChoices>, mayWrite: boolean) {
  const w = useWriting();
  const columns = useMemo(() => NEED_SHEET_COLUMNS.inAddress(cols), [cols]);
  // Cells read what is typed when they are drawn; the columns themselves stay, so that other rows are not drawn again.
  const now = useRef({ w, choices });
  now.current = { w, choices };
  // biome-ignore lint/correctness/useExhaustiveDependencies: how figures are written changes with the locale alone
  const shown = useMemo(
    () =>
      NEED_SHEET_COLUMNS.drawn(columns, {
        w: now.current.w,
        mayWrite,
        typed: (n) => now.current.choices.typed(n),
        type: (n, text) => now.current.choices.choose(n.key, { quantity: text }),
      }),
    [columns, mayWrite, w.locale, w.today],
  );
  return { columns, shown };
}

function heading(group: string, g: { label: string; about: string }, day: (d: string) => string): string {
  if (group === "date") return g.label ? `Order by ${day(g.label)}` : "No day to order by";
  if (group === "supplier" && !g.about) return "No supplier yet: choose one in the slip, or add one there";
  return g.about ? `${g.label} · ${g.about}` : g.label;
}

/** The rows of the sheet under their headings. */
export function useNeedRows(
  sheet: NeedSheet,
  row: (index: number) => NeedRow | undefined,
  want: (from: number, to: number) => void,
  group: string,
) {
  const w = useWriting();
  return useMemo(
    () => ({
      count: sheet.count,
      row,
      want,
      groups: sheet.groups.map((g) => ({
        start: g.start,
        heading: (
          <>
            {heading(group, g, w.day)}
            <span className="ml-2 font-normal text-ink-3">{g.count}</span>
          </>
        ),
      })),
    }),
    [sheet, row, want, group, w.day],
  );
}

/** Laying the ticked needs out, and writing orders for them, once all that was chosen is kept. */
export function useWritingNeeds({
  sheet,
  search,
  bench,
  mayLay,
  mayWriteNow,
  settle,
}: {
  sheet: NeedSheet;
  search: URLSearchParams;
  /** The bench that they are laid on; empty for a new one. */
  bench: string;
  mayLay: boolean;
  mayWriteNow: boolean;
  settle: () => Promise<boolean>;
}) {
  const submit = useSubmit();
  const action = `/needs?${search}`;
  const writeKey = useSubmissionKey(sheet);
  const layKey = useSubmissionKey(sheet);
  return {
    write: async () => {
      if (!mayWriteNow || !(await settle())) return;
      void submit({ do: "write" satisfies NeedWord, picks: "ticked", key: writeKey() }, { method: "post", action });
    },
    lay: async () => {
      if (!mayLay || !(await settle())) return;
      void submit({ do: "lay out" satisfies NeedWord, bench, key: layKey() }, { method: "post", action });
    },
  };
}

/** The keys of the sheet of needs; whoever may not write orders has the last alone. */
export function useNeedKeys(
  mayWrite: boolean,
  run: Record<"edit" | "all" | "lay" | "write" | "sum", () => void>,
): void {
  useKeys([
    ...(mayWrite
      ? [
          { key: "e", label: "edit the quantity", run: run.edit },
          { key: "a", label: "tick all that is shown", run: run.all },
          { key: "b", label: "lay the ticked needs out on the bench", run: run.lay },
          { key: "o", label: "write the orders", run: run.write },
        ]
      : []),
    { key: "w", label: "show or hide the sum", run: run.sum },
  ]);
}
