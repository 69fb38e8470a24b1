import { parseDay } from "../../../core/calendar/day";
import { STOCK_BY, type StockAsked } from "../../../core/insight/stock";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { Cuts } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useAddress } from "../../ui/use-address";
import { NarrowedTo } from "./asked-parts";

/** Of which day, by what, as it was known when; and what it is narrowed to. */
export function StockControls({
  asked,
  storeName,
}: {
  asked: StockAsked;
  /** The store that it is narrowed to. */
  storeName: string | null;
}) {
  const w = useWriting();
  // What was chosen last, while the page still shows what was asked for before.
  const { search, put } = useAddress();
  const narrowed = [
    ...(storeName !== null ? [{ part: "is-store", of: "store", name: storeName }] : []),
    ...(asked.category !== null
      ? [{ part: "is-category", of: "category", name: asked.category || "no category" }]
      : []),
  ];
  return (
    <>
      <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
        <Cuts
          label="By"
          value={asked.by}
          options={STOCK_BY.map((by) => ({ value: by, label: `by ${by}` }))}
          onChange={(by) => put({ by })}
        />
        <span className="flex-1" />
        <Field label="At the end of" className="w-36">
          {(a) => <DayEntry {...a} value={asked.on} max={w.today} onDay={(d) => parseDay(d) && put({ on: d })} />}
        </Field>
        <label className="flex items-center gap-1.5 pb-1.5 text-xs">
          <input
            type="checkbox"
            checked={search.get("known") === "then"}
            onChange={(e) => put({ known: e.target.checked ? "then" : null })}
          />
          as it was known then
        </label>
      </div>
      <NarrowedTo parts={narrowed} />
    </>
  );
}
