import { useState } from "react";
import { useSearchParams, useSubmit } from "react-router";
import { count } from "../../../core/text";
import { Button } from "../../ui/button";
import { newKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import type { OrderSheetWord } from "../orders/sheet-acts";

/** What leaves the house is asked about once more. */
const SENDS = {
  mail: {
    label: (n: number) => `E-mail ${count(n, "order")} again…`,
    says: (n: number) =>
      `${count(n, "order")} to whoever gets their orders. What was not placed yet is refused, each with its reason.`,
    act: "Send them",
  },
  place: {
    label: (n: number) => `Place ${count(n, "order")}…`,
    says: (n: number) =>
      `${count(n, "order")} to their suppliers. What is not cleared to be placed is refused, each with its reason.`,
    act: "Place them",
  },
} as const;

/** Prints, sends or places many orders in one go: those that are ticked, or all that were found. */
export function BatchPanel({
  ticked,
  found,
  mayPlace,
  problem,
}: {
  ticked: readonly string[];
  found: number;
  mayPlace: boolean;
  problem?: string;
}) {
  const submit = useSubmit();
  const busy = useBusy();
  const [search] = useSearchParams();
  const [all, setAll] = useState(ticked.length === 0);
  const [prices, setPrices] = useState(true);
  const orders = all ? "found" : ticked.join(",");
  const n = all ? found : ticked.length;
  const [sure, setSure] = useState<keyof typeof SENDS | null>(null);
  const begin = (what: string) =>
    submit(
      { do: "batch" satisfies OrderSheetWord, what, orders, prices: prices ? "yes" : "no", key: newKey() },
      { method: "post", action: `/orders?${search}`, preventScrollReset: true },
    );
  return (
    <div className="flex flex-col gap-3">
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">Of which orders</legend>
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="radio"
            className="accent-harbour"
            checked={!all}
            disabled={ticked.length === 0}
            onChange={() => setAll(false)}
          />
          the {ticked.length} ticked
        </label>
        <label className="flex min-h-6 items-center gap-2">
          <input type="radio" className="accent-harbour" checked={all} onChange={() => setAll(true)} />
          all {found} found
        </label>
      </fieldset>
      <div className="flex flex-col items-start gap-1.5 border-t border-rule pt-2">
        <Button disabled={busy || n === 0} onClick={() => begin("print")}>
          Print {count(n, "paper")}
        </Button>
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="accent-harbour"
            checked={!prices}
            onChange={(e) => setPrices(!e.target.checked)}
          />
          without prices
        </label>
      </div>
      {mayPlace && (
        <div className="flex flex-col items-start gap-1.5 border-t border-rule pt-2">
          {(["mail", "place"] as const).map((what) =>
            sure === what ? (
              <div key={what} className="flex w-full flex-col gap-2 border border-ink p-2">
                <p>{SENDS[what].says(n)}</p>
                <div className="flex gap-2">
                  <Button look="main" disabled={busy} onClick={() => begin(what)}>
                    {SENDS[what].act}
                  </Button>
                  <Button onClick={() => setSure(null)}>Leave it</Button>
                </div>
              </div>
            ) : (
              <Button key={what} disabled={busy || n === 0} onClick={() => setSure(what)}>
                {SENDS[what].label(n)}
              </Button>
            ),
          )}
        </div>
      )}
      {problem && (
        <p role="alert" className="text-xs font-semibold text-signal">
          {problem}
        </p>
      )}
    </div>
  );
}
