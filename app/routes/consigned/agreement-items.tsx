import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, problemAt } from "../../ui/field";
import { Heads } from "../../ui/heads";
import { ItemEntry } from "../../ui/item-entry";
import { type DraftText, type ItemText, sentRow, setItem, setPrice } from "./agreement-draft";

interface Drafting {
  text: DraftText;
  put: (d: DraftText) => void;
  problems: readonly { field: string; says: string }[] | undefined;
}

/** The items of a draft agreement: how much lies here at least and at most, how refills come, and what each costs from when. */
export function AgreementItems({ draft, currency }: { draft: Drafting; currency: string }) {
  const { text: d, put } = draft;
  if (d.items.length === 0)
    return <p className="px-4.5 py-3 text-ink-2">No items yet. Add those that the supplier keeps here.</p>;
  return (
    <table className="w-full">
      <caption className="sr-only">Items</caption>
      <Heads
        heads={[
          { label: "Item" },
          { label: "Least", align: "right", width: "w-24" },
          { label: "Most", align: "right", width: "w-24" },
          { label: "In packs of", align: "right", width: "w-24" },
          { label: "Refill, days", align: "right", width: "w-20" },
          { label: `Price, ${currency}, from`, width: "w-64" },
          { label: "Take away", hidden: true, width: "w-20" },
        ]}
      />
      <tbody>
        {d.items.map((i, n) => (
          <ItemRow
            key={i.key}
            item={i}
            n={n}
            draft={draft}
            remove={() => put({ ...d, items: d.items.filter((x) => x.key !== i.key) })}
          />
        ))}
      </tbody>
    </table>
  );
}

function ItemRow({ item: i, n, draft, remove }: { item: ItemText; n: number; draft: Drafting; remove: () => void }) {
  const { text: d, put, problems } = draft;
  const at = sentRow(d, i.key);
  const says = (field: string) => (at < 0 ? undefined : problemAt(problems, `items.${at}.${field}`));
  const set = (part: Partial<ItemText>) => put(setItem(d, i.key, part));
  const figure = (field: "least" | "most" | "pack" | "refillDays", label: string) => (
    <td className="px-1 py-1 text-right">
      <CellEntry
        label={`Item ${n + 1}: ${label}`}
        value={i[field]}
        problem={says(field)}
        onChange={(e) => set({ [field]: e.target.value })}
        inputMode="decimal"
        maxLength={20}
        className="w-20 text-right font-mono"
      />
    </td>
  );
  return (
    <tr className="border-b border-rule-2 align-top">
      <td className="px-2 py-1 pl-4.5">
        <ItemEntry
          label={`Item ${n + 1}`}
          text={i.text}
          placeholder="item code or name"
          invalid={says("item") !== undefined}
          onText={(text) => set({ text, item: null, unit: "" })}
          onItem={(f) => set({ item: f.id, text: f.name, unit: f.unit ?? "" })}
        />
        {i.unit && <span className="text-2xs text-ink-3">in {i.unit}</span>}
        {says("item") && <p className="text-2xs font-semibold text-signal">{says("item")}</p>}
      </td>
      {figure("least", "least")}
      {figure("most", "most")}
      {figure("pack", "in packs of")}
      {figure("refillDays", "days a refill takes")}
      <td className="px-1 py-1">
        {i.prices.map((p, k) => (
          <span key={k} className="mb-1 flex items-start gap-1">
            <CellEntry
              label={`Item ${n + 1}: price ${k + 1}`}
              value={p.price}
              problem={says(`prices.${k}.price`)}
              onChange={(e) => put(setPrice(d, i.key, k, { price: e.target.value }))}
              inputMode="decimal"
              maxLength={20}
              className="w-24 text-right font-mono"
            />
            {k === 0 && p.day === "" ? (
              <span className="self-center text-2xs text-ink-3">from the first day</span>
            ) : (
              <span>
                <DayEntry
                  aria-label={`Item ${n + 1}: price ${k + 1} from`}
                  value={p.day}
                  aria-invalid={says(`prices.${k}.day`) ? true : undefined}
                  onDay={(day) => put(setPrice(d, i.key, k, { day }))}
                />
                {says(`prices.${k}.day`) && (
                  <span className="block text-2xs font-semibold text-signal">{says(`prices.${k}.day`)}</span>
                )}
              </span>
            )}
          </span>
        ))}
        {says("prices") && <p className="text-2xs font-semibold text-signal">{says("prices")}</p>}
        <button
          type="button"
          className="min-h-6 text-xs underline"
          onClick={() => set({ prices: [...i.prices, { day: d.ends, price: "" }] })}
        >
          another price from a day on
        </button>
      </td>
      <td className="px-1 py-1 pr-4.5 text-right">
        <Button
          look="plain"
          className="min-h-6 text-xs font-normal"
          onClick={remove}
          aria-label={`take off ${i.text || `item ${n + 1}`}`}
        >
          take off
        </Button>
      </td>
    </tr>
  );
}
