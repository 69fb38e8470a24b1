import { useRef } from "react";
import { Link, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { type AnnouncedLoadRow, readAnnounced } from "../../../server/queries/receiving/announced";
import { readCountSheet } from "../../../server/queries/receiving/dock";
import { ScanBar } from "../../parts/scan-bar";
import { useKeptPages, useSending } from "../../parts/use-sending";
import { WaitingNote } from "../../parts/waiting-note";
import { problemAt } from "../../ui/field";
import { SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { StateSquare } from "../../ui/signs";
import { atOf, idOf, notAllowed, notFound, page } from "../../web/page";
import { AnnouncedLoads } from "./announced-loads";
import { CountedBefore, PastCount } from "./count-past";
import { CountRow } from "./count-row";
import { CountTally } from "./count-tally";
import { partsCounted, pastOf } from "./counting";
import { DeliveryNote } from "./delivery-note";
import { NoteFileEntry } from "./note-file-entry";
import { useCounting } from "./use-counting";
import { useTakingIn } from "./use-taking-in";

export const loader = page("see dock", ({ db, person, params, url }) => {
  const order = idOf(params.order);
  const counts = may(person.roles, "count in");
  const own = counts ? person.store : null;
  const sheet = readCountSheet(db, order, own ?? atOf(url, "store"));
  if (sheet) return { sheet, counts, announced: readAnnounced(db, order, sheet.store) };
  const elsewhere = own === null ? null : readCountSheet(db, order);
  throw elsewhere
    ? notAllowed(`This load goes to ${elsewhere.storeName}, not to your dock.`)
    : notFound("This order is not expected on the dock.");
});

export default function CountSheetPage() {
  const { sheet, counts, announced } = useLoaderData<typeof loader>();
  return <CountSheet key={`${sheet.order} ${sheet.store}`} sheet={sheet} counts={counts} announced={announced} />;
}

type Sheet = ReturnType<typeof useLoaderData<typeof loader>>["sheet"];

/** Where goods are counted in: by scanner, by keyboard, or "the rest as ordered". */
function CountSheet({ sheet, counts, announced }: { sheet: Sheet; counts: boolean; announced: AnnouncedLoadRow[] }) {
  const scan = useRef<HTMLInputElement>(null);
  const counting = useCounting(sheet, announced);
  const { count, at, put, set, step, hear, rest, faulty, binned } = counting;
  const { open, some, off } = counting.counting;
  const sending = useSending();
  useKeptPages(["/dock", "/open-count"]);
  const { take, busy, problems, problemOf, trouble } = useTakingIn(sheet, counting, sending);
  const past = pastOf(open, counting.past);
  const none = open.length === 0 && some.length === 0;
  useKeys(
    counts && !none
      ? [
          ...(sheet.blind ? [] : [{ key: "r", label: "the rest as ordered", run: rest }]),
          { key: "c", label: "scan or type a code", run: () => scan.current?.focus() },
          { key: "x", label: "not good", run: () => at !== null && faulty.toggle(at) },
          { key: "t", label: "take into stock", run: take },
        ]
      : [],
  );
  return (
    <>
      <main
        id="sheet"
        tabIndex={-1}
        className="flex min-h-0 min-w-0 flex-col bg-sheet outline-none max-lg:min-h-[calc(100vh-120px)]"
      >
        <SheetHead
          title="Count sheet"
          sub={
            <>
              <span className="text-base">{sheet.supplierName}</span> <span className="code ml-1">{sheet.number}</span>
            </>
          }
        >
          <StateSquare state={sheet.state} />
        </SheetHead>
        <p className="px-4.5 pb-2 lg:hidden">
          <Link to="/dock" className="inline-flex min-h-12 items-center font-semibold underline">
            All that comes in
          </Link>
        </p>
        {counts && !none && (
          <div className="border-b-2 border-ink px-4.5 pb-2">
            <ScanBar
              label="Scan or type an item, their code or a barcode"
              placeholder="scan or type a code"
              scan={scan}
              className="h-12"
              onCode={hear}
            >
              <span aria-live="polite" className="truncate text-xs text-ink-2">
                {counting.heard}
              </span>
            </ScanBar>
            <DeliveryNote count={count} off={off} put={put} problem={problemAt(problems, "difference")}>
              {!sheet.blind && <NoteFileEntry sheet={sheet} counting={counting} />}
            </DeliveryNote>
            {!sheet.blind && announced.length > 0 && <AnnouncedLoads loads={announced} counting={counting} />}
          </div>
        )}
        {counts && <WaitingNote sending={sending} onBack={() => location.reload()} />}
        {counts && past.length > 0 && (
          <PastCount
            lines={past}
            past={counting.past!}
            onUse={() => put(counting.past!)}
            onForget={() => counting.keep(null)}
          />
        )}
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Lines of the order">
          {sheet.lines.map((l) => (
            <CountRow
              key={l.line}
              line={l}
              parts={partsCounted(count, l.line)}
              buyer={sheet.buyer}
              blind={sheet.blind}
              at={at === l.line}
              counts={counts}
              faulty={faulty.has(l.line)}
              onFaulty={() => faulty.toggle(l.line)}
              binned={binned.has(l.line)}
              onBinned={() => binned.toggle(l.line)}
              problem={problemOf(l.line)}
              count={{
                set: (index, part) => set(l.line, index, part),
                step: (index, by) => step(l.line, index, by),
                here: () => counting.setAt(l.line),
                another: () => counting.another(l.line),
                remove: (index) => counting.remove(l.line, index),
                next: () => {
                  const next = open[open.indexOf(l) + 1];
                  if (next) document.querySelector<HTMLInputElement>(`#count-${next.line} input`)?.select();
                  else scan.current?.focus();
                },
              }}
            />
          ))}
        </ul>
        {sheet.receipts.length > 0 && <CountedBefore receipts={sheet.receipts} />}
      </main>
      <CountTally
        counting={counting.counting}
        counts={counts && !none}
        blind={sheet.blind}
        buyer={sheet.buyer}
        busy={busy}
        trouble={trouble}
        onRest={rest}
        onTake={take}
      />
    </>
  );
}
