import { Dialog } from "radix-ui";
import { useState } from "react";
import type { OrderId } from "../../../../core/ids";
import { count } from "../../../../core/text";
import { Button } from "../../../ui/button";
import { useWriting } from "../../../ui/locale";
import type { DraftWord } from "../keep";
import { useSold } from "./add-line";
import type { Draft } from "./use-draft";

/** All that the order's supplier sells us, to take several at once. */
export function ChooseItems({ draft, order }: { draft: Draft; order: OrderId }) {
  const w = useWriting();
  const { head } = draft.facts;
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [ticked, setTicked] = useState<ReadonlyMap<number, string>>(new Map());
  const [says, setSays] = useState("");
  const sold = useSold(order, open ? text : null, 400).filter((s) => s.own);
  const take = async () => {
    const wrong = await draft.act({
      do: "add" satisfies DraftWord,
      add: [...ticked].map(([item, quantity]) => ({ item, quantity })),
    });
    if (wrong) return setSays(wrong.map((p) => p.says).join(" "));
    setOpen(false);
    setTicked(new Map());
    setSays("");
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>Choose from what they sell</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[720px] max-w-[94vw] -translate-x-1/2 flex-col border-2 border-ink bg-sheet"
        >
          <div className="flex items-baseline gap-3 px-4.5 pt-3.5 pb-2">
            <Dialog.Title className="text-lg font-bold">What {head.supplierName} sells us</Dialog.Title>
            <input
              aria-label="Find among them"
              placeholder="code or name"
              value={text}
              onChange={(e) => setText(e.target.value)}
              maxLength={80}
              className="entry ml-auto w-56"
            />
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto border-t-2 border-ink">
            <table className="w-full">
              <caption className="sr-only">Items to take</caption>
              <tbody>
                {sold.map((s) => (
                  <tr key={s.item} className={`h-9 border-b border-rule-2 ${ticked.has(s.item) ? "bg-here" : ""}`}>
                    <td className="w-10 pl-4.5">
                      <input
                        type="checkbox"
                        aria-label={`Take ${s.name}`}
                        checked={ticked.has(s.item)}
                        onChange={() =>
                          setTicked((was) => {
                            const next = new Map(was);
                            if (!next.delete(s.item)) next.set(s.item, "");
                            return next;
                          })
                        }
                        className="size-[15px] align-[-3px] accent-harbour"
                      />
                    </td>
                    <td className="code w-24">{s.code}</td>
                    <td className="px-2">
                      {s.name}
                      {s.here > 0 && <span className="ml-2 text-2xs text-ink-3">on this order already</span>}
                    </td>
                    <td className="figure px-2 text-right">
                      {s.price === null ? "" : w.price(s.price, head.currency)}
                    </td>
                    <td className="w-36 pr-4.5 text-right whitespace-nowrap">
                      {ticked.has(s.item) ? (
                        <>
                          <input
                            aria-label={`Quantity of ${s.name} in ${s.unit}`}
                            value={ticked.get(s.item)}
                            onChange={(e) => setTicked((was) => new Map(was).set(s.item, e.target.value))}
                            placeholder="least"
                            inputMode="decimal"
                            maxLength={20}
                            className="entry w-16 text-right font-mono"
                          />{" "}
                          {s.unit}
                        </>
                      ) : (
                        <span className="text-ink-3">{s.unit}</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {sold.length === 0 && <p className="px-4.5 py-6 text-ink-2">Nothing of that name is sold by them.</p>}
          </div>
          <div className="flex items-center gap-3 border-t-2 border-ink bg-foot px-4.5 py-2">
            <span role="status" className="font-semibold text-signal">
              {says}
            </span>
            <span className="ml-auto" />
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
            <Button look="main" disabled={ticked.size === 0 || draft.working} onClick={() => void take()}>
              Add {count(ticked.size, "line")}
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
