import type { RefObject } from "react";
import type { KnownItem } from "../../../server/queries/needs/round";
import { Button } from "../../ui/button";
import { useWriting } from "../../ui/locale";
import { TideBar } from "../../ui/signs";
import { type Hand, unitsToCount } from "./hand";

/** What was scanned: how it stands in this store, and how many are needed. */
export function InHand({
  hand,
  amount,
  onType,
  onNext,
  onLeave,
}: {
  hand: Hand;
  /** The field of the quantity. */
  amount: RefObject<HTMLInputElement | null>;
  onType: (typed: Partial<Hand>) => void;
  onNext: () => void;
  onLeave: () => void;
}) {
  const { code, item } = hand;
  return (
    <section aria-label="In hand" className="mx-4.5 mb-3 border-2 border-ink p-3">
      <p className="code">{code}</p>
      <h2 className="text-lg font-bold">{item ? item.name : "Nobody knows this code yet"}</h2>
      {item ? (
        <OnTheShelf item={item} />
      ) : (
        <p className="text-ink-2">Note how many and what it is: the buyer will sort it out.</p>
      )}
      <form
        className="mt-3 flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          onNext();
        }}
      >
        <div className="flex gap-2">
          <input
            ref={amount}
            aria-label="How many"
            placeholder="how many"
            inputMode="decimal"
            maxLength={40}
            autoComplete="off"
            value={hand.quantity}
            onChange={(e) => onType({ quantity: e.target.value })}
            className="entry h-14 min-w-0 flex-1 text-right font-mono text-xl"
          />
          {item && (
            <Units
              item={item}
              hand={hand}
              onUnit={(unit) => {
                onType({ unit });
                amount.current?.focus();
              }}
            />
          )}
        </div>
        <input
          aria-label="Note"
          placeholder={item ? "a note, if need be" : "what it is, where it hangs"}
          maxLength={200}
          value={hand.note}
          onChange={(e) => onType({ note: e.target.value })}
          className="entry h-12 text-base"
        />
        <div className="flex gap-2">
          <Button type="submit" look="main" className="min-h-12 flex-1 justify-center text-base">
            Next
          </Button>
          <Button className="min-h-12 text-base" onClick={onLeave}>
            Leave it
          </Button>
        </div>
      </form>
    </section>
  );
}

function OnTheShelf({ item: { stock, unit } }: { item: KnownItem }) {
  const w = useWriting();
  if (!stock) return <p className="text-ink-2">This store does not keep it.</p>;
  return (
    <>
      <dl className="mt-1 grid grid-cols-3 gap-2">
        <Figure term="On hand" value={w.quantity(stock.onHand)} />
        <Figure term="On order" value={w.quantity(stock.onOrder)} />
        <Figure term="Reorder point" value={w.quantity(stock.reorderPoint)} />
      </dl>
      <TideBar available={stock.onHand + stock.onOrder} reorderPoint={stock.reorderPoint} unit={unit} />
    </>
  );
}

function Figure({ term, value }: { term: string; value: string }) {
  return (
    <div>
      <dt className="text-2xs text-ink-3">{term}</dt>
      <dd className="font-mono text-lg font-semibold">{value}</dd>
    </div>
  );
}

function Units({ item, hand, onUnit }: { item: KnownItem; hand: Hand; onUnit: (unit: Hand["unit"]) => void }) {
  const w = useWriting();
  return unitsToCount(item).map((u, i) => (
    <button
      key={u.name + u.factor}
      type="button"
      aria-pressed={hand.unit.name === u.name && hand.unit.factor === u.factor}
      onClick={() => onUnit(u)}
      className="h-14 min-w-14 border border-rule px-2 text-base aria-pressed:border-2 aria-pressed:border-ink aria-pressed:font-semibold"
    >
      {u.name}
      {i > 0 && (
        <span className="block text-2xs text-ink-3">
          {w.quantity(u.factor)} {item.unit}
        </span>
      )}
    </button>
  ));
}
