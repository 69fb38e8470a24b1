import { Link } from "react-router";
import { coverSum, type StockAsked, turnsSum } from "../../../core/insight/stock";
import { count } from "../../../core/text";
import type { LyingStill, StockBeside, StockRow } from "../../../server/queries/insight/stock";
import { Button } from "../../ui/button";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { useSlip } from "../../ui/use-slip";
import { StockMonths } from "./stock-months";

/** What stands behind a row of the stock: how it came about month by month, what lies still, what other reorder points would do. */
export function LyingSlip({
  asked,
  days,
  stillDays,
  row,
  search,
  plans,
  onNarrow,
}: {
  asked: StockAsked;
  days: number;
  stillDays: number;
  row: StockRow;
  /** The address of the page. */
  search: string;
  /** The person sees needs, and so the review of the reorder points. */
  plans: boolean;
  onNarrow: () => void;
}) {
  const w = useWriting();
  const { slip, lost } = useSlip<StockBeside>(
    `/insight/stock-of?${search}&key=${encodeURIComponent(row.key)}`,
    `${search}`,
  );
  const turns = turnsSum(row, days, w.home);
  const cover = coverSum(row, days, w.home);
  return (
    <>
      <SlipHead over={row.code || asked.by} title={row.label}>
        <p className="mt-1 text-ink-2">
          <b className="figure text-ink">{w.amount(row.value)}</b> in {count(row.places, "place")}
        </p>
        {asked.by === "item" ? (
          <Link className="text-xs underline" to={`/items/${row.key}`}>
            The item
          </Link>
        ) : (
          <Button look="plain" className="min-h-0 px-0 text-xs font-normal" onClick={onNarrow}>
            Only this
          </Button>
        )}
      </SlipHead>
      {lost && <p className="text-xs text-ink-2">What stands beside it cannot be read just now.</p>}
      {slip && <StockMonths months={slip.months} />}
      {turns && <SumSheet sum={turns} />}
      {cover && <SumSheet sum={cover} />}
      {slip && slip.still.length > 0 && <Still rows={slip.still} days={stillDays} by={asked.by} />}
      {slip?.points && slip.points.places > 0 && (
        <SlipPart title="At the suggested reorder points">
          <p className="text-xs text-ink-2">
            On average{" "}
            <b className="figure text-ink">
              {slip.points.value > 0 && "+"}
              {w.amount(slip.points.value)}
            </b>
            , over {count(slip.points.places, "place")} with use
            {slip.points.unknown > 0 && `; of ${slip.points.unknown} of them no cost is known`}.{" "}
            {plans && (
              <Link className="underline" to={`/needs/review?find=${encodeURIComponent(row.code || row.label)}`}>
                One by one
              </Link>
            )}
          </p>
        </SlipPart>
      )}
    </>
  );
}

/** What lies still, worth most first. */
function Still({ rows, days, by }: { rows: readonly LyingStill[]; days: number; by: StockAsked["by"] }) {
  const w = useWriting();
  return (
    <SlipPart title={`Unused for ${days} days`}>
      <table className="w-full text-xs">
        <caption className="sr-only">Unused for {days} days</caption>
        <tbody>
          {rows.map((r) => (
            <tr key={`${r.item}/${r.store}`} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                <Link className="hover:underline" to={`/items/${r.item}`}>
                  {r.name}
                </Link>
                <span className="block text-2xs text-ink-3">
                  {by !== "store" && `${r.store}, `}
                  {r.lastUsed ? `last used ${w.day(r.lastUsed)}` : "never used"}
                </span>
              </th>
              <td className="figure text-right align-top">{w.money(r.value)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SlipPart>
  );
}
