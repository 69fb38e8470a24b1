import { useEffect, useRef, useState } from "react";
import { useLoaderData } from "react-router";
import { count } from "../../../core/text";
import { storeChoices } from "../../../server/queries/choices";
import { ScanBar } from "../../parts/scan-bar";
import { Button } from "../../ui/button";
import { SheetHead } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { page } from "../../web/page";
import { AT_THE_SHELF, type Hand, noted, scanned, takeUp } from "./hand";
import { InHand } from "./in-hand";
import { RoundLines } from "./round-lines";
import { type RoundLine, useKnown, useRound } from "./use-round";

export const loader = page("walk the floor", ({ db, person }) => {
  const stores = storeChoices(db);
  return { stores, own: person.store ?? stores[0]?.id ?? 0, person: person.id };
});

/** Walking the shelves with a handheld: scan, type a quantity, next. Made for 390 wide. */
export default function Round() {
  const { stores, own, person } = useLoaderData<typeof loader>();
  const [store, setStore] = useState(own);
  const known = useKnown(store);
  const { lines, online, add, drop, clear } = useRound(person);
  const [walking, setWalking] = useState(AT_THE_SHELF);
  const { hand, several, heard } = walking;
  const scan = useRef<HTMLInputElement>(null);
  const amount = useRef<HTMLInputElement>(null);
  const inHand = hand?.code ?? null;
  useEffect(() => {
    if (inHand !== null) amount.current?.focus();
    else scan.current?.focus();
  }, [inHand]);
  const leave = () => setWalking((now) => ({ ...now, hand: null }));
  const next = () => {
    const { walking: then, line, again } = noted(walking, known ?? [], store);
    if (line) add(line);
    if (again) amount.current?.select();
    setWalking(then);
  };
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
              leave();
            }}
          >
            {stores.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </SheetHead>
        <ScanBar
          label="Scan or type a code"
          placeholder={known ? "scan or type a code" : "reading the shelves…"}
          scan={scan}
          className="mx-4.5 h-14 shrink-0"
          onCode={(code) => setWalking(scanned(walking, known ?? [], code))}
        />
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
                  onClick={() => setWalking(takeUp(i.code, i))}
                >
                  <span className="code w-24">{i.code}</span>
                  {i.name}
                </button>
              </li>
            ))}
          </ul>
        )}
        {hand && (
          <InHand
            hand={hand}
            amount={amount}
            onType={(typed: Partial<Hand>) =>
              setWalking((now) => (now.hand ? { ...now, hand: { ...now.hand, ...typed } } : now))
            }
            onNext={next}
            onLeave={leave}
          />
        )}
        <RoundLines lines={lines} onDrop={drop} />
      </main>
      <RoundTally lines={lines} online={online} onClear={clear} />
    </>
  );
}

function RoundTally({ lines, online, onClear }: { lines: readonly RoundLine[]; online: boolean; onClear: () => void }) {
  const of = (state: RoundLine["state"]) => lines.filter((l) => l.state === state).length;
  const [waiting, sent, refused] = [of("waits"), of("sent"), of("refused")];
  return (
    <TallyLine
      trouble={refused ? `${count(refused, "line")} could not be inHand in.` : null}
      act={
        sent > 0 && (
          <Button className="max-lg:min-h-12" onClick={onClear}>
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
  );
}
