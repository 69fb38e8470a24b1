import { useEffect, useRef } from "react";
import { Link, useLoaderData } from "react-router";
import type { StoreId } from "../../../core/ids";
import { count } from "../../../core/text";
import { ScanBar } from "../../parts/scan-bar";
import { useKeptPages, useSending } from "../../parts/use-sending";
import { WaitingNote } from "../../parts/waiting-note";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { TallyLine } from "../../ui/tally-line";
import { page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { CountRow } from "./count-row";
import { partsCounted, typedIn } from "./counting";
import { DockPages } from "./dock-pages";
import { useOpenCount } from "./use-open-count";
import { useShown } from "./use-shown";
import { useTakingLoad } from "./use-taking-load";
import { WorkList } from "./work-list";

export const loader = page("count in", ({ db, person, url }) => workStore(db, person, url));

export default function OpenCountPage() {
  const { store, name, stores } = useLoaderData<typeof loader>();
  return <OpenCountSheet key={store} store={store} name={name} stores={stores} />;
}

interface Props {
  store: StoreId;
  name: string;
  stores: { id: number; name: string }[];
}

/** Anything that lies on the dock is scanned: it counts for the order that is due first, whichever that is. */
function OpenCountSheet({ store, name, stores }: Props) {
  const counting = useOpenCount(store);
  const sending = useSending();
  useKeptPages(["/dock"]);
  const { open, at, last, heard, which, changed } = counting;
  const { some, waits, wrong } = counting.counting;
  const scan = useRef<HTMLInputElement>(null);
  const faulty = useShown((line) => typedIn(open.count, line, "faulty"));
  const binned = useShown((line) => typedIn(open.count, line, "bin"));
  const { take, busy, problemOf, trouble, taken, asks, why, setWhy } = useTakingLoad(store, name, counting, sending);
  useKeys([
    { key: "c", label: "scan or type a code", run: () => scan.current?.focus() },
    { key: "t", label: "take into stock", run: take },
  ]);
  useEffect(() => scan.current?.focus(), []);
  const shown = open.lines
    .filter((l) => partsCounted(open.count, l.line).some((p) => p.count !== "" || p.faulty !== ""))
    .sort((a, b) => Number(b.line === last) - Number(a.line === last)); // what was scanned last is seen first
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Open count" sub={`whatever comes to ${name}, over all orders`}>
            <DockPages here="open" counts />
          </SheetHead>
          <div className="border-b-2 border-ink px-4.5 pb-2">
            <ScanBar
              label="Scan or type an item, their code or a barcode"
              placeholder="scan or type a code"
              scan={scan}
              className="h-14"
              onCode={counting.hear}
            />
            <p role="status" className="min-h-6 pt-1 font-semibold">
              {heard}
            </p>
            <div className="flex flex-wrap gap-3">
              <input
                aria-label="Number of the delivery note"
                placeholder="delivery note"
                maxLength={60}
                value={open.count.note}
                onChange={(e) => counting.note(e.target.value)}
                className="entry w-44 font-mono max-lg:h-12 max-md:w-full"
              />
              {(asks || why) && (
                <input
                  aria-label="Why this delivery note comes once more"
                  placeholder="say why"
                  maxLength={300}
                  value={why}
                  onChange={(e) => setWhy(e.target.value)}
                  className="entry w-64 max-lg:h-12 max-md:w-full"
                />
              )}
              {stores.map((s) => (
                <Link key={s.id} to={`?store=${s.id}`} className={s.id === store ? "font-bold" : "underline"}>
                  {s.name}
                </Link>
              ))}
            </div>
          </div>
          <WaitingNote sending={sending} onBack={() => location.reload()} />
          {which && <Which lines={which.lines} onChoose={counting.choose} />}
          {changed.length > 0 && (
            <p role="status" className="mx-4.5 my-2 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5">
              {changed.join(" ")} Look at what is left.
            </p>
          )}
          {shown.length === 0 && <Taken taken={taken} />}
          <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Counted lines">
            {shown.map((l) => (
              <CountRow
                key={l.line}
                line={l}
                of={`${l.number} · ${l.supplierName}`}
                parts={partsCounted(open.count, l.line)}
                buyer={l.buyer}
                blind={false}
                at={at === l.line}
                counts
                faulty={faulty.has(l.line)}
                onFaulty={() => faulty.toggle(l.line)}
                binned={binned.has(l.line)}
                onBinned={() => binned.toggle(l.line)}
                problem={problemOf(l.line)}
                count={{
                  set: (index, part) => counting.set(l.line, index, part),
                  step: (index, by) => counting.step(l.line, index, by),
                  here: () => counting.setAt(l.line),
                  another: () => counting.another(l.line),
                  remove: (index) => counting.remove(l.line, index),
                  next: () => scan.current?.focus(),
                }}
              />
            ))}
            {shown.length === 0 && taken.length === 0 && (
              <>
                <Empty title="Nothing counted yet">
                  Scan what lies before you; it finds the order that is due first.
                </Empty>
                {counting.work && <WorkList lines={counting.work.lines} at={counting.work.at} />}
              </>
            )}
          </ul>
        </>
      }
      tally={
        <TallyLine
          trouble={trouble ?? (wrong ? "A count is not a number." : null)}
          keys={[["c", "code"]]}
          act={
            <Button
              look="main"
              hint="T"
              className="max-lg:min-h-12"
              disabled={busy || wrong || some.length === 0}
              onClick={take}
            >
              {busy ? "Taking in…" : "Take into stock"}
            </Button>
          }
        >
          <span>
            <b>{some.length}</b> {some.length === 1 ? "line" : "lines"} counted, of{" "}
            {count(new Set(some.map((l) => l.order)).size, "order")}
          </span>
          {waits.length > 0 && <span className="font-semibold text-signal">{waits.length} to be decided</span>}
        </TallyLine>
      }
    />
  );
}

/** What was taken in last, each with its receipt. */
function Taken({ taken }: { taken: readonly { receipt: number; number: string }[] }) {
  if (taken.length === 0) return null;
  return (
    <p role="status" className="px-4.5 py-3">
      In stock:{" "}
      {taken.map((t, i) => (
        <span key={t.receipt}>
          {i > 0 && ", "}
          <Link className="font-semibold underline" to={`/receipts/${t.receipt}`}>
            {t.number}
          </Link>
        </span>
      ))}
    </p>
  );
}

/** Several items have the code that was scanned. */
function Which({
  lines,
  onChoose,
}: {
  lines: { item: number | null; line: number; name: string; code: string | null }[];
  onChoose: (item: number | null) => void;
}) {
  return (
    <div role="alertdialog" aria-label="Which one is it?" className="mx-4.5 my-2 border-2 border-ink p-3">
      <p className="font-semibold">Several items have this code. Which one is it?</p>
      <ul className="mt-1 flex flex-wrap gap-2">
        {lines.map((l) => (
          <li key={l.line}>
            <Button className="max-lg:min-h-12" onClick={() => onChoose(l.item)}>
              {l.name} {l.code && <span className="code">{l.code}</span>}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
