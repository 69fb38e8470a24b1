import { Barcode } from "@phosphor-icons/react/dist/csr/Barcode";
import { useEffect, useRef, useState } from "react";
import { useLoaderData } from "react-router";
import { parseQuantity } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import { storeChoices } from "../../../server/queries/choices";
import type { KnownItem } from "../../../server/queries/needs/round";
import { Button } from "../../ui/button";
import { SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TideBar } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { page } from "../../web/page";
import { itemsOf, useKnown, useRound } from "./use-round";

export const loader = page("walk the floor", ({ db, person }) => {
  const stores = storeChoices(db);
  return { stores, own: person.store ?? stores[0]?.id ?? 0, person: person.id };
});

/** Walking the shelves with a handheld: scan, type a quantity, next. Made for 390 wide. */
export default function Round() {
  const { stores, own, person } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [store, setStore] = useState(own);
  const known = useKnown(store);
  const { lines, online, add, drop, clear } = useRound(person);
  const [here, setHere] = useState<{ code: string; item: KnownItem | null } | null>(null);
  const [several, setSeveral] = useState<KnownItem[]>([]);
  const [quantity, setQuantity] = useState("");
  const [unit, setUnit] = useState({ name: "", factor: 10_000 });
  const [note, setNote] = useState("");
  const [heard, setHeard] = useState<string | null>(null);
  const scan = useRef<HTMLInputElement>(null);
  const amount = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (here) amount.current?.focus();
    else scan.current?.focus();
  }, [here]);

  const take = (code: string, item: KnownItem | null) => {
    setSeveral([]);
    setQuantity("");
    setNote("");
    setUnit({ name: item?.unit ?? "", factor: 10_000 });
    setHere({ code, item });
    setHeard(null);
  };
  const hear = (text: string) => {
    const code = text.trim().slice(0, 60);
    if (!code) return;
    const found = itemsOf(known ?? [], code);
    if (found.length > 1) {
      setHere(null);
      setSeveral(found);
      setHeard("Several items have this code. Which one is it?");
    } else take(code, found[0] ?? null);
  };
  const next = () => {
    if (!here) return;
    // A scanner goes on scanning whatever has the focus: a known code in the quantity is the next item.
    const scanned = quantity.trim().length >= 6 ? itemsOf(known ?? [], quantity) : [];
    if (scanned.length === 1 && scanned[0]!.id !== here.item?.id) {
      setHeard(`${here.item?.name ?? here.code} was left without a quantity.`);
      take(quantity.trim(), scanned[0]!);
      return;
    }
    const parsed = parseQuantity(quantity);
    if (!parsed.ok) {
      setHeard(parsed.says);
      amount.current?.select();
      return;
    }
    add({
      store,
      code: here.item?.code ?? here.code,
      name: here.item?.name ?? `unknown: ${here.code}`,
      quantity: quantity.trim(),
      unit: here.item ? unit.name : "",
      factor: here.item ? unit.factor : undefined,
      note,
    });
    setHeard(`${here.item?.name ?? here.code}: ${quantity.trim()} ${unit.name} noted`);
    setHere(null);
  };
  const waiting = lines.filter((l) => l.state === "waits").length;
  const sent = lines.filter((l) => l.state === "sent").length;
  const refused = lines.filter((l) => l.state === "refused").length;
  const item = here?.item ?? null;
  return (
    <>
      <main
        id="sheet"
        tabIndex={-1}
        className="mx-auto flex min-h-0 w-full max-w-2xl flex-1 flex-col overflow-y-auto bg-sheet outline-none max-lg:min-h-[calc(100vh-150px)]"
      >
        <SheetHead title="Floor round">
          <select
            aria-label="Store"
            className="entry h-12 text-base"
            value={store}
            onChange={(e) => {
              setStore(Number(e.target.value));
              setHere(null);
            }}
          >
            {stores.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </SheetHead>
        <form
          className="mx-4.5 flex h-14 items-center gap-3 border-2 border-ink bg-field px-3"
          onSubmit={(e) => {
            e.preventDefault();
            hear(scan.current?.value ?? "");
            if (scan.current) scan.current.value = "";
          }}
        >
          <Barcode size={28} aria-hidden="true" />
          <input
            ref={scan}
            aria-label="Scan or type a code"
            placeholder={known ? "scan or type a code" : "reading the shelves…"}
            maxLength={60}
            autoComplete="off"
            autoCapitalize="characters"
            className="min-w-0 flex-1 bg-transparent font-mono text-lg outline-none placeholder:font-sans placeholder:text-base placeholder:text-ink-3"
          />
        </form>
        <p aria-live="polite" className="min-h-6 px-4.5 pt-1 font-semibold text-ink-2">
          {heard}
        </p>
        {several.length > 0 && (
          <ul className="mx-4.5 mb-2 border border-ink" aria-label="Which one">
            {several.map((i) => (
              <li key={i.id}>
                <button
                  type="button"
                  className="flex min-h-12 w-full items-center gap-3 border-b border-rule-2 px-3 text-left text-base"
                  onClick={() => take(i.code, i)}
                >
                  <span className="code w-24">{i.code}</span>
                  {i.name}
                </button>
              </li>
            ))}
          </ul>
        )}
        {here && (
          <section aria-label="In hand" className="mx-4.5 mb-3 border-2 border-ink p-3">
            <p className="code">{here.code}</p>
            <h2 className="text-lg font-bold">{item ? item.name : "Nobody knows this code yet"}</h2>
            {item ? (
              item.stock ? (
                <>
                  <dl className="mt-1 grid grid-cols-3 gap-2">
                    <Figure term="On hand" value={w.quantity(item.stock.onHand)} />
                    <Figure term="On order" value={w.quantity(item.stock.onOrder)} />
                    <Figure term="Reorder point" value={w.quantity(item.stock.reorderPoint)} />
                  </dl>
                  <TideBar
                    available={item.stock.onHand + item.stock.onOrder}
                    reorderPoint={item.stock.reorderPoint}
                    unit={item.unit}
                  />
                </>
              ) : (
                <p className="text-ink-2">This store does not keep it.</p>
              )
            ) : (
              <p className="text-ink-2">Note how many and what it is: the buyer will sort it out.</p>
            )}
            <form
              className="mt-3 flex flex-col gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                next();
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
                  value={quantity}
                  onChange={(e) => setQuantity(e.target.value)}
                  className="entry h-14 min-w-0 flex-1 text-right font-mono text-xl"
                />
                {item &&
                  [{ name: item.unit, factor: 10_000 }, ...item.units].map((u) => (
                    <button
                      key={u.name + u.factor}
                      type="button"
                      aria-pressed={unit.name === u.name && unit.factor === u.factor}
                      onClick={() => {
                        setUnit(u);
                        amount.current?.focus();
                      }}
                      className="h-14 min-w-14 border border-rule px-2 text-base aria-pressed:border-2 aria-pressed:border-ink aria-pressed:font-semibold"
                    >
                      {u.name}
                      {u.factor !== 10_000 && (
                        <span className="block text-2xs text-ink-3">
                          {w.quantity(u.factor)} {item.unit}
                        </span>
                      )}
                    </button>
                  ))}
              </div>
              <input
                aria-label="Note"
                placeholder={item ? "a note, if need be" : "what it is, where it hangs"}
                maxLength={200}
                value={note}
                onChange={(e) => setNote(e.target.value)}
                className="entry h-12 text-base"
              />
              <div className="flex gap-2">
                <Button type="submit" look="main" className="min-h-12 flex-1 justify-center text-base">
                  Next
                </Button>
                <Button className="min-h-12 text-base" onClick={() => setHere(null)}>
                  Leave it
                </Button>
              </div>
            </form>
          </section>
        )}
        <ol aria-label="Lines of this round" className="border-t-2 border-ink">
          {lines.map((l) => (
            <li key={l.key} className="flex min-h-12 items-center gap-3 border-b border-rule-2 px-4.5 py-1.5">
              <span className="min-w-0 flex-1 leading-tight">
                <span className="block truncate text-[15px] font-semibold">{l.name}</span>
                <span
                  className={`text-xs ${l.state === "refused" ? "font-semibold text-signal" : l.state === "sent" ? "text-weed" : "text-ink-3"}`}
                >
                  {l.state === "sent" ? "in the pool" : l.state === "refused" ? l.says : "waits to be sent"}
                  {l.note && ` · ${l.note}`}
                </span>
              </span>
              <span className="figure text-base whitespace-nowrap">
                {l.quantity} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
              </span>
              {l.state !== "sent" && (
                <button
                  type="button"
                  className="min-h-12 px-2 underline"
                  aria-label={`Take away ${l.name}`}
                  onClick={() => drop(l.key)}
                >
                  Take away
                </button>
              )}
            </li>
          ))}
          {lines.length === 0 && (
            <li className="px-4.5 py-8 text-ink-2">
              Walk the shelves: scan, type how many are needed, and go on. The buyer finds every line among the needs.
            </li>
          )}
        </ol>
      </main>
      <TallyLine
        trouble={refused ? `${count(refused, "line")} could not be taken in.` : null}
        act={
          sent > 0 && (
            <Button className="max-lg:min-h-12" onClick={clear}>
              Clear what is sent
            </Button>
          )
        }
      >
        {waiting > 0 ? (
          <span className="font-semibold">
            {count(waiting, "line")} on this device, {online ? "being sent" : "sent when the connection is back"}
          </span>
        ) : (
          <span>{sent > 0 ? `${count(sent, "line")} sent` : "nothing noted yet"}</span>
        )}
      </TallyLine>
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
