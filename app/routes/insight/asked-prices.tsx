import type { AskedPrice } from "../../../server/queries/insight/lists";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

const KINDS: Record<AskedPrice["kind"], string> = {
  list: "price list",
  quote: "quote",
  said: "their word",
  agreement: "agreement",
};

/** What suppliers ask for an item: lists of now and before, quotes, what they said, agreements. In their units and currencies. */
export function AskedPrices({ asked, item }: { asked: readonly AskedPrice[]; item: string }) {
  const w = useWriting();
  if (asked.length === 0) return null;
  return (
    <SlipPart title="What is asked for it">
      <table className="w-full text-xs">
        <caption className="sr-only">What is asked for {item}</caption>
        <tbody>
          {asked.map((a, i) => {
            const over = a.until !== null && a.until < w.today;
            return (
              <tr key={i} className={`border-b border-rule-2 ${over ? "text-ink-3" : ""}`}>
                <th scope="row" className="py-1 text-left font-normal">
                  {a.supplier}
                  <span className="block text-2xs text-ink-3">
                    {KINDS[a.kind]}
                    {a.number && ` ${a.number}`}
                    {a.kind === "quote" && !a.taken && ", not accepted"}
                    {a.least > 10_000 && `, from ${w.quantity(a.least)}`}
                    {a.from && `, from ${w.day(a.from, false)}`}
                    {a.until && `, ${over ? "ended" : "until"} ${w.day(a.until, false)}`}
                  </span>
                </th>
                <td className="figure py-1 text-right align-top">
                  {w.price(a.price, a.currency)}
                  <span className="block font-sans text-2xs text-ink-3">
                    {a.currency}/{a.unit}
                    {a.factor !== 10_000 && ` of ${w.quantity(a.factor)}`}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </SlipPart>
  );
}
