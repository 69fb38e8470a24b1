import { Link } from "react-router";
import {
  type BreakdownAsked,
  type BreakdownRow,
  type Dimension,
  type NamedValue,
  shareOf,
} from "../../../core/insight/breakdown";
import { DIMENSION_WORDS, MEASURE_WORDS, valueWords } from "../../../core/insight/words";
import { count } from "../../../core/text";
import type { readBreakdownPapers } from "../../../server/queries/insight/breakdown";
import { Button } from "../../ui/button";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useSlip } from "../../ui/use-slip";
import { useFigure } from "./breakdown-table";
import { BEHIND_WORDS, sourceHref } from "./words";

type Papers = ReturnType<typeof readBreakdownPapers> & { opens: boolean };

/** What stands behind a cell: its share, its papers, and narrowing to it. */
export function BreakdownSlip({
  asked,
  row,
  column,
  total,
  search,
  onNarrow,
}: {
  asked: BreakdownAsked;
  row: BreakdownRow;
  column: NamedValue | null;
  total: number;
  /** The address of the page. */
  search: string;
  onNarrow: (by: Partial<Record<Dimension, string>>) => void;
}) {
  const w = useWriting();
  const f = useFigure(asked.count === "value");
  const cell: Partial<Record<Dimension, string>> = {
    [asked.rows]: row.key,
    ...(column && asked.columns ? { [asked.columns]: column.key } : {}),
  };
  const address = new URLSearchParams(search);
  for (const part of ["at", "in"]) address.delete(part);
  for (const [d, key] of Object.entries(cell)) address.set(`is-${d}`, key);
  const { slip, lost } = useSlip<Papers>(`/insight/papers?${address}`, asked);
  const figure = column ? (row.cells[column.key] ?? 0) : row.total;
  const share = shareOf(figure, total);
  return (
    <>
      <SlipHead
        over={column ? valueWords(asked.columns!, column, w.locale) : DIMENSION_WORDS[asked.rows]}
        title={valueWords(asked.rows, row, w.locale)}
      >
        <p className="mt-1 text-ink-2">
          <b className="figure text-ink">{f.exact(figure)}</b>
          {asked.count === "value" ? ` ${w.home}` : ` ${asked.count}`} {MEASURE_WORDS[asked.measure]}
          {share !== null && `, ${w.percent(share)} of all`}
        </p>
        <Button look="plain" className="min-h-0 px-0 text-xs font-normal" onClick={() => onNarrow(cell)}>
          Only this
        </Button>
      </SlipHead>
      <SlipPart title="From these papers">
        {lost && <p className="text-xs text-ink-2">They cannot be read just now.</p>}
        {slip && (
          <table className="w-full text-xs">
            <caption className="sr-only">Papers behind it</caption>
            <tbody>
              {slip.papers.map((p) => (
                <tr key={p.id} className="border-b border-rule-2">
                  <th scope="row" className="py-1 text-left font-normal">
                    {slip.opens ? (
                      <Link className="code underline" to={sourceHref(asked.measure, p.id)}>
                        {p.number}
                      </Link>
                    ) : (
                      <span className="code">{p.number}</span>
                    )}
                    {cell.supplier === undefined && asked.filters.supplier === undefined && (
                      <span className="block text-2xs text-ink-3">{p.supplier}</span>
                    )}
                  </th>
                  <td className="px-2 text-right whitespace-nowrap text-ink-2">{w.day(p.day, false)}</td>
                  <td className="figure text-right">{w.money(p.value)}</td>
                </tr>
              ))}
            </tbody>
            <tfoot>
              <tr className="font-semibold">
                <th scope="row" className="py-1 text-left" colSpan={2}>
                  {count(slip.count, BEHIND_WORDS[asked.measure])}
                  {slip.count > slip.papers.length && `, the ${slip.papers.length} largest shown`}
                </th>
                <td className="figure text-right">{w.money(slip.value)}</td>
              </tr>
            </tfoot>
          </table>
        )}
      </SlipPart>
    </>
  );
}
