import { useRef } from "react";
import {
  type Breakdown,
  type BreakdownAsked,
  type BreakdownRow,
  OTHERS,
  shareOf,
} from "../../../core/insight/breakdown";
import { DIMENSION_WORDS, valueWords } from "../../../core/insight/words";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useRowKeys } from "../../ui/use-row-keys";

/** A figure of a breakdown as it is written: whole units of the home currency where many stand side by side. */
export function useFigure(money: boolean) {
  const w = useWriting();
  return {
    exact: (n: number) => (money ? w.money(n) : n.toLocaleString(w.locale)),
    short: (n: number) => (money ? w.round(n) : n.toLocaleString(w.locale)),
  };
}

const HEAD =
  "sticky top-0 z-10 bg-sheet border-y border-t-rule border-b-2 border-b-ink px-2 py-[5px] text-2xs font-semibold text-ink-3";

/** Rows with their cells, a thin bar in each; the chosen cell is ink. Up and down choose a row, left and right a column. */
export function BreakdownTable({
  of,
  asked,
  at,
  column,
  onCell,
}: {
  of: Breakdown;
  asked: BreakdownAsked;
  at: string | null;
  /** Null: the whole row. */
  column: string | null;
  onCell: (row: string, column: string | null) => void;
}) {
  const place = of.rows.findIndex((r) => r.key === at);
  const open = useRef({});
  useRowKeys<BreakdownRow>({
    count: of.rows.length,
    place,
    current: of.rows[place],
    row: (i) => of.rows[i],
    onPlace: (i) => onCell(of.rows[i]!.key, column),
    acts: open,
    ticks: false,
    opens: false,
  });
  const across = [...of.columns.filter((c) => c.key !== OTHERS).map((c) => c.key), null];
  const step = (by: number) => {
    const next = across[Math.max(0, Math.min(across.length - 1, across.indexOf(column) + by))];
    if (at !== null) onCell(at, next ?? null);
  };
  useKeys(
    of.columns.length
      ? [
          { key: "arrowleft", label: "column before", run: () => step(-1) },
          { key: "arrowright", label: "next column", run: () => step(1) },
        ]
      : [],
  );
  const f = useFigure(asked.count === "value");
  const rowsBy = DIMENSION_WORDS[asked.rows];
  const most = Math.max(1, ...of.rows.flatMap((r) => of.columns.map((c) => Math.abs(r.cells[c.key] ?? 0))));
  const largest = Math.max(1, ...of.rows.map((r) => Math.abs(r.total)));
  const w = useWriting();
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full border-separate border-spacing-0">
        <caption className="sr-only">Breakdown by {rowsBy}</caption>
        <thead>
          <tr>
            <th scope="col" className={`${HEAD} left-0 z-20 pl-4.5 text-left`}>
              {rowsBy}
            </th>
            {of.columns.map((c) => (
              <th key={c.key} scope="col" className={`${HEAD} text-right whitespace-nowrap`}>
                {c.key === OTHERS ? c.label : valueWords(asked.columns!, c, w.locale)}
              </th>
            ))}
            <th scope="col" className={`${HEAD} text-right`}>
              all
            </th>
            <th scope="col" className={`${HEAD} pr-4.5 text-right`}>
              share
            </th>
          </tr>
        </thead>
        <tbody>
          {of.rows.map((r) => (
            <tr key={r.key} aria-current={r.key === at ? "true" : undefined} className="group h-9">
              <th
                scope="row"
                className={`sticky left-0 max-w-60 min-w-36 truncate border-b border-rule-2 pl-4.5 text-left font-normal ${r.key === at ? "bg-here" : "bg-sheet"}`}
                title={r.label}
              >
                {valueWords(asked.rows, r, w.locale)}
              </th>
              {of.columns.map((c) => (
                <Cell
                  key={c.key}
                  figure={r.cells[c.key] ?? 0}
                  text={r.cells[c.key] === undefined ? "" : f.short(r.cells[c.key]!)}
                  exact={f.exact(r.cells[c.key] ?? 0)}
                  most={most}
                  here={r.key === at}
                  chosen={r.key === at && column === c.key}
                  onChoose={c.key === OTHERS ? undefined : () => onCell(r.key, c.key)}
                />
              ))}
              <Cell
                figure={r.total}
                text={of.columns.length ? f.short(r.total) : f.exact(r.total)}
                exact={f.exact(r.total)}
                most={of.columns.length ? 0 : largest}
                here={r.key === at}
                chosen={r.key === at && column === null}
                onChoose={() => onCell(r.key, null)}
              />
              <td
                className={`figure border-b border-rule-2 px-2 pr-4.5 text-right text-ink-2 ${r.key === at ? "bg-here" : ""}`}
              >
                {shareOf(r.total, of.total) === null ? "" : w.percent(shareOf(r.total, of.total)!)}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="h-9 font-semibold">
            <th scope="row" className="sticky left-0 border-t-2 border-ink bg-sheet pl-4.5 text-left">
              all
            </th>
            {of.columns.map((c) => (
              <td
                key={c.key}
                className="figure border-t-2 border-ink px-2 text-right"
                title={f.exact(of.totals[c.key] ?? 0)}
              >
                {f.short(of.totals[c.key] ?? 0)}
              </td>
            ))}
            <td className="figure border-t-2 border-ink px-2 text-right" title={f.exact(of.total)}>
              {of.columns.length ? f.short(of.total) : f.exact(of.total)}
            </td>
            <td className="border-t-2 border-ink" />
          </tr>
        </tfoot>
      </table>
    </div>
  );
}

/** One figure with its bar; pressing it chooses it. */
function Cell({
  figure,
  text,
  exact,
  most,
  here,
  chosen,
  onChoose,
}: {
  figure: number;
  text: string;
  exact: string;
  /** What a whole bar is; 0 draws none. */
  most: number;
  here: boolean;
  chosen: boolean;
  onChoose: (() => void) | undefined;
}) {
  const long = most === 0 ? 0 : Math.round((Math.abs(figure) / most) * 100);
  const shown = (
    <>
      {text}
      {long > 0 && (
        <span
          aria-hidden="true"
          className={`absolute right-2 bottom-[3px] h-[3px] ${figure < 0 ? "bg-signal" : "bg-harbour"}`}
          style={{ width: `calc((100% - 16px) * ${long / 100})` }}
        />
      )}
    </>
  );
  return (
    <td className={`figure relative border-b border-rule-2 p-0 text-right ${here ? "bg-here" : ""}`}>
      {onChoose && text !== "" ? (
        <button
          type="button"
          tabIndex={-1}
          title={exact}
          aria-pressed={chosen}
          onClick={onChoose}
          className="h-9 w-full min-w-16 px-2 text-right aria-pressed:outline-2 aria-pressed:-outline-offset-2 aria-pressed:outline-ink"
        >
          {shown}
        </button>
      ) : (
        <span className="px-2" title={exact}>
          {shown}
        </span>
      )}
    </td>
  );
}
