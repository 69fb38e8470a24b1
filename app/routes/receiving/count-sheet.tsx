import { useRef } from "react";
import { Link, redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { receiveGoods } from "../../../server/acts/receiving/receive-goods";

import { type CountLine, readCountSheet } from "../../../server/queries/receiving/dock";
import { ScanBar } from "../../parts/scan-bar";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, atOf, idOf, notAllowed, notFound, page } from "../../web/page";
import { CountRow } from "./count-row";
import { type CountedTexts, pastOf, type SheetCount } from "./counting";
import { useCounting } from "./use-counting";

export const loader = page("see dock", ({ db, person, params, url }) => {
  const order = idOf(params.order);
  const counts = may(person.roles, "count in");
  const own = counts ? person.store : null;
  const sheet = readCountSheet(db, order, own ?? atOf(url, "store"));
  if (sheet) return { sheet, counts };
  const elsewhere = own === null ? null : readCountSheet(db, order);
  throw elsewhere
    ? notAllowed(`This load goes to ${elsewhere.storeName}, not to your dock.`)
    : notFound("This order is not expected on the dock.");
});

export const action = act("count in", (desk, input, { params }) => {
  const order = idOf(params.order);
  const received = receiveGoods(desk, { ...input, order });
  if (received.ok) throw redirect(`/receipts/${received.value.receipt}?taken=1`);
  return received;
});

export default function CountSheetPage() {
  const { sheet, counts } = useLoaderData<typeof loader>();
  return <CountSheet key={`${sheet.order} ${sheet.store}`} sheet={sheet} counts={counts} />;
}

type Sheet = ReturnType<typeof useLoaderData<typeof loader>>["sheet"];

/** Where goods are counted in: by scanner, by keyboard, or "the rest as ordered". */
function CountSheet({ sheet, counts }: { sheet: Sheet; counts: boolean }) {
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(sheet.version);
  const scan = useRef<HTMLInputElement>(null);
  const { kept, counted, note, at, heard, put, setAt, set, step, hear, rest, counting } = useCounting(sheet);
  const { open, some, wrong } = counting;
  const past = pastOf(open, kept.past?.counted);
  const take = () => {
    if (busy || wrong || some.length === 0) return;
    void submit(
      {
        version: sheet.version,
        deliveryNote: note,
        key: `${key()}count`,
        lines: open.map((l) => ({ line: l.line, counted: counted[l.line] ?? "" })),
      },
      { method: "post", encType: "application/json" },
    );
  };
  useKeys(
    counts && open.length
      ? [
          { key: "r", label: "the rest as ordered", run: rest },
          { key: "c", label: "scan or type a code", run: () => scan.current?.focus() },
          { key: "t", label: "take into stock", run: take },
        ]
      : [],
  );
  const trouble =
    problemAt(problems, "") ??
    (problems?.length ? "Some counts need another look; they are marked." : wrong ? "A count is not a number." : null);
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
        {counts && open.length > 0 && (
          <div className="grid grid-cols-[minmax(0,1fr)_200px] gap-3 border-b-2 border-ink px-4.5 pb-3 max-md:grid-cols-1">
            <ScanBar
              label="Scan or type an item, their code or a barcode"
              placeholder="scan or type a code"
              scan={scan}
              className="h-12"
              onCode={hear}
            >
              <span aria-live="polite" className="truncate text-xs text-ink-2">
                {heard}
              </span>
            </ScanBar>
            <input
              aria-label="Number of the delivery note"
              placeholder="delivery note"
              maxLength={60}
              value={note}
              onChange={(e) => put({ note: e.target.value })}
              className="entry h-12 font-mono"
            />
          </div>
        )}
        {counts && past.length > 0 && (
          <PastCount
            lines={past}
            counted={kept.past!.counted}
            onUse={() => put(kept.past!)}
            onForget={() => kept.put(null)}
          />
        )}
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Lines of the order">
          {sheet.lines.map((l) => {
            const index = open.indexOf(l);
            return (
              <CountRow
                key={l.line}
                line={l}
                text={counted[l.line] ?? ""}
                at={at === l.line}
                counts={counts}
                problem={index >= 0 ? problemAt(problems, `lines.${index}.counted`) : undefined}
                count={{
                  set: (text) => set(l.line, text),
                  step: (by) => step(l.line, by),
                  here: () => setAt(l.line),
                  next: () => {
                    const next = open[index + 1];
                    if (next) document.querySelector<HTMLInputElement>(`#count-${next.line} input`)?.select();
                    else scan.current?.focus();
                  },
                }}
              />
            );
          })}
        </ul>
        {sheet.receipts.length > 0 && <CountedBefore receipts={sheet.receipts} />}
      </main>
      <CountTally counting={counting} counts={counts} busy={busy} trouble={trouble} onRest={rest} onTake={take} />
    </>
  );
}

/** How much is counted, and taking it into stock. */
function CountTally({
  counting,
  counts,
  busy,
  trouble,
  onRest,
  onTake,
}: {
  counting: SheetCount<CountLine>;
  counts: boolean;
  busy: boolean;
  trouble: string | null;
  onRest: () => void;
  onTake: () => void;
}) {
  const { open, some, over, bins } = counting;
  return (
    <TallyLine
      trouble={trouble}
      keys={
        counts && open.length
          ? [
              ["c", "code"],
              ["r", "rest as ordered"],
            ]
          : []
      }
      act={
        counts &&
        open.length > 0 && (
          <>
            <Button className="max-lg:min-h-12" onClick={onRest}>
              Rest as ordered
            </Button>
            <Button
              look="main"
              hint="T"
              className="max-lg:min-h-12"
              disabled={busy || counting.wrong || some.length === 0}
              onClick={onTake}
            >
              {busy ? "Taking in…" : "Take into stock"}
            </Button>
          </>
        )
      }
    >
      <span>
        <b>{some.length}</b> of {open.length} {open.length === 1 ? "line" : "lines"} counted
      </span>
      {over.length > 0 && <span className="font-semibold text-signal">{over.length} over what was ordered</span>}
      {bins.length > 0 && (
        <span>
          to stow: <b>rack {bins.join(", ")}</b>
        </span>
      )}
    </TallyLine>
  );
}

function CountedBefore({ receipts }: { receipts: Sheet["receipts"] }) {
  const w = useWriting();
  return (
    <p className="border-t border-rule px-4.5 py-2 text-xs text-ink-2">
      Counted before:{" "}
      {receipts.map((r, i) => (
        <span key={r.id}>
          {i > 0 && ", "}
          <Link to={`/receipts/${r.id}`} className="underline">
            {r.number}
          </Link>{" "}
          on {w.day(r.day)}
        </span>
      ))}
    </p>
  );
}

/** What was counted before the load changed: some of it may be in stock already. */
function PastCount({
  lines,
  counted,
  onUse,
  onForget,
}: {
  lines: Sheet["lines"];
  counted: CountedTexts;
  onUse: () => void;
  onForget: () => void;
}) {
  return (
    <div role="status" className="mx-4.5 my-2 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5">
      This load changed after you counted {lines.map((l) => `${counted[l.line]} ${l.unit} of ${l.name}`).join(", ")}:
      some of it may be in stock already.{" "}
      <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={onUse}>
        Use this count
      </Button>{" "}
      <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={onForget}>
        Forget it
      </Button>
    </div>
  );
}
