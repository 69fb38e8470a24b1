import { useEffect, useRef, useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import type { StoreId } from "../../../core/ids";
import { count } from "../../../core/text";
import { receiveLoad } from "../../../server/acts/receiving/receive-goods";
import { ScanBar } from "../../parts/scan-bar";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { CountRow } from "./count-row";
import { partsCounted, typedIn } from "./counting";
import { DockPages } from "./dock-pages";
import { sentOrders } from "./open-counting";
import { useOpenCount } from "./use-open-count";
import { useShown } from "./use-shown";

export const loader = page("count in", ({ db, person, url }) => workStore(db, person, url));

export const action = act("count in", (desk, input) => receiveLoad(desk, input));

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
  const { open, at, last, heard, which, changed } = counting;
  const { some, waits, wrong } = counting.counting;
  const scan = useRef<HTMLInputElement>(null);
  const faulty = useShown((line) => typedIn(open.count, line, "faulty"));
  const binned = useShown((line) => typedIn(open.count, line, "bin"));
  const { take, busy, problemOf, trouble, taken, asks, why, setWhy } = useTakingLoad(counting);
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
              <Empty title="Nothing counted yet">
                Scan what lies before you; it finds the order that is due first.
              </Empty>
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

/** Sends the count, and finds what was wrong with it at the line where it was typed. */
function useTakingLoad({ open, counting, refresh, keep }: ReturnType<typeof useOpenCount>) {
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const [why, setWhy] = useState("");
  const key = useSubmissionKey(answer);
  const sent = useRef<ReturnType<typeof sentOrders>>([]);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const stale = answer && !answer.ok && answer.stale === true;
  const taken = answer?.ok ? answer.value.loads : [];
  const done = useRef<unknown>(null);
  useEffect(() => {
    if (!answer || done.current === answer) return;
    done.current = answer;
    if (answer.ok) keep(null);
    else if (stale) void refresh();
  }, [answer, stale, refresh, keep]);
  const take = () => {
    if (busy || counting.wrong || counting.some.length === 0) return;
    sent.current = sentOrders(open);
    void submit(
      {
        deliveryNote: open.count.note,
        difference: why,
        key: `${key()}load`,
        orders: sent.current.map(({ parts, ...o }) => ({
          ...o,
          lines: parts.map(({ part, count: counted, ...p }) => ({ ...p, counted })),
        })),
      },
      { method: "post", encType: "application/json" },
    );
  };
  const problemOf = (line: number) => (part: number, field: string) => {
    for (const [i, o] of sent.current.entries()) {
      const j = o.parts.findIndex((p) => p.line === line && p.part === part);
      if (j >= 0) return problemAt(problems, `orders.${i}.lines.${j}.${field}`);
    }
    return undefined;
  };
  // The same delivery note once more: why?
  const asks = problems?.find((p) => p.field.endsWith(".difference"))?.says;
  const trouble =
    asks ?? problemAt(problems, "") ?? (problems?.length ? "Some counts need another look; they are marked." : null);
  return { take, busy, problemOf, trouble, taken, asks: asks !== undefined, why, setWhy };
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
