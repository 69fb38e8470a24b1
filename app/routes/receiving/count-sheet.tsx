import { Barcode } from "@phosphor-icons/react/dist/csr/Barcode";
import { useRef, useState } from "react";
import { Link, redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import {
  factorOf,
  ONE,
  type PurchaseQty,
  parseQuantity,
  purchase,
  quantityText,
  toStock,
} from "../../../core/numbers/quantity";
import type { OrderState } from "../../../core/orders/status";
import { may } from "../../../core/people/roles";
import { judge, judgeWords } from "../../../core/receiving/count";
import { receiveGoods } from "../../../server/acts/receiving/receive-goods";
import { readCountSheet } from "../../../server/queries/receiving/dock";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare, TallyGates } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import { act, atOf, idOf, notAllowed, notFound, page } from "../../web/page";
import { countName } from "./count-name";

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

/** What was counted and not taken in yet, as typed, by line. */
interface Count {
  counted: Record<number, string>;
  note: string;
}
const NOTHING: Count = { counted: {}, note: "" };

type Sheet = ReturnType<typeof useLoaderData<typeof loader>>["sheet"];

/** Where goods are counted in: by scanner, by keyboard, or "the rest as ordered". */
function CountSheet({ sheet, counts }: { sheet: Sheet; counts: boolean }) {
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(sheet.version);
  const kept = useLocalDraft<Count>(countName(sheet), sheet.version);
  const { counted, note } = kept.draft ?? NOTHING;
  // Two keystrokes may come before one drawing: each goes on from the last.
  const latest = useRef(kept.draft ?? NOTHING);
  latest.current = kept.draft ?? NOTHING;
  const put = (part: Partial<Count>) => {
    latest.current = { ...latest.current, ...part };
    kept.put(latest.current);
  };
  const [at, setAt] = useState<number | null>(null);
  const [heard, setHeard] = useState<string | null>(null);
  const scan = useRef<HTMLInputElement>(null);

  const open = sheet.lines.filter((l) => l.received < l.ordered);
  const typed = (line: number) => counted[line] ?? "";
  const parsed = (line: number) =>
    typed(line).trim() === "" ? { ok: true as const, value: 0 } : parseQuantity(typed(line), ".", "zero allowed");
  const set = (line: number, text: string) => {
    setAt(line);
    put({ counted: { ...latest.current.counted, [line]: text } });
  };
  const step = (line: number, by: number) => {
    const now = parsed(line);
    set(line, quantityText(Math.max(0, (now.ok ? now.value : 0) + by * ONE)));
  };
  const hear = (code: string) => {
    const wanted = code.trim().toLowerCase();
    if (!wanted) return;
    const line =
      open.find((l) => [l.code, l.theirCode, l.gtin].some((c) => c && c.toLowerCase() === wanted)) ??
      open.find((l) => l.name.toLowerCase().startsWith(wanted));
    if (!line) {
      setHeard(`“${code.trim().slice(0, 40)}” is not on this order, or is all in.`);
      return;
    }
    step(line.line, 1);
    setHeard(`${line.name}: one more`);
    document.getElementById(`count-${line.line}`)?.scrollIntoView({ block: "nearest" });
  };
  const rest = () =>
    put({ counted: Object.fromEntries(open.map((l) => [l.line, quantityText(l.ordered - l.received)])) });
  /** What was counted before the load changed, as far as it is still to come. */
  const past = kept.past
    ? open.filter((l) => (kept.past!.counted[l.line] ?? "").trim() !== "" && kept.past!.counted[l.line] !== "0")
    : [];
  const wrong = open.some((l) => !parsed(l.line).ok);
  const some = open.filter((l) => {
    const p = parsed(l.line);
    return p.ok && p.value > 0;
  });
  const over = some.filter(
    (l) =>
      judge(
        { ordered: purchase(l.ordered), received: purchase(l.received) },
        purchase((parsed(l.line) as { value: number }).value),
      ).kind === "over",
  );
  const take = () => {
    if (busy || wrong || some.length === 0) return;
    void submit(
      {
        version: sheet.version,
        deliveryNote: note,
        key: `${key()}count`,
        lines: open.map((l) => ({ line: l.line, counted: typed(l.line) })),
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
  const bins = [...new Set(some.map((l) => l.bin).filter(Boolean))];
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
          <StateSquare state={sheet.state as OrderState} />
        </SheetHead>
        <p className="px-4.5 pb-2 lg:hidden">
          <Link to="/dock" className="inline-flex min-h-12 items-center font-semibold underline">
            All that comes in
          </Link>
        </p>
        {counts && open.length > 0 && (
          <div className="grid grid-cols-[minmax(0,1fr)_200px] gap-3 border-b-2 border-ink px-4.5 pb-3 max-md:grid-cols-1">
            <form
              onSubmit={(e) => {
                e.preventDefault();
                hear(scan.current?.value ?? "");
                if (scan.current) scan.current.value = "";
              }}
              className="flex h-12 items-center gap-3 border-2 border-ink bg-field px-3"
            >
              <Barcode size={26} aria-hidden="true" />
              <input
                ref={scan}
                aria-label="Scan or type an item, their code or a barcode"
                placeholder="scan or type a code"
                maxLength={60}
                autoComplete="off"
                className="min-w-0 flex-1 bg-transparent font-mono text-base outline-none placeholder:font-sans placeholder:text-sm placeholder:text-ink-3"
              />
              <span aria-live="polite" className="truncate text-xs text-ink-2">
                {heard}
              </span>
            </form>
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
          <div role="status" className="mx-4.5 my-2 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5">
            This load changed after you counted{" "}
            {past.map((l) => `${kept.past!.counted[l.line]} ${l.unit} of ${l.name}`).join(", ")}: some of it may be in
            stock already.{" "}
            <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={() => put(kept.past!)}>
              Use this count
            </Button>{" "}
            <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={() => kept.put(null)}>
              Forget it
            </Button>
          </div>
        )}
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Lines of the order">
          {sheet.lines.map((l) => {
            const left = l.ordered - l.received;
            const index = open.indexOf(l);
            const p = parsed(l.line);
            const judged = p.ok
              ? judge(
                  { ordered: purchase(l.ordered), received: purchase(l.received) },
                  purchase(p.value) as PurchaseQty,
                )
              : null;
            const stock =
              p.ok && l.stockUnit && l.stockUnit !== l.unit ? toStock(purchase(p.value), factorOf(l.factor)) : null;
            const problem = index >= 0 ? problemAt(problems, `lines.${index}.counted`) : undefined;
            return (
              <li
                key={l.line}
                id={`count-${l.line}`}
                className={`grid min-h-[74px] grid-cols-[minmax(0,1fr)_92px_150px_250px] items-center gap-3 border-b border-rule-2 px-4.5 py-1.5 max-lg:grid-cols-[minmax(0,1fr)_auto] ${at === l.line ? "bg-here" : ""}`}
              >
                <span className="min-w-0 leading-tight">
                  <span className="block font-semibold text-[15px]">{l.name}</span>
                  <span className="code">
                    {[
                      l.code,
                      l.theirCode && `theirs ${l.theirCode}`,
                      l.bin && `rack ${l.bin}`,
                      l.forWhom && `for ${l.forWhom}`,
                    ]
                      .filter(Boolean)
                      .join(" · ")}
                  </span>
                </span>
                <span className="text-right whitespace-nowrap">
                  <span className="font-mono text-xl text-ink-3">{w.quantity(left)}</span>{" "}
                  <span className="text-xs text-ink-3">{l.unit}</span>
                </span>
                {left > 0 && counts ? (
                  <span className="flex h-12 items-stretch border border-rule border-b-2 border-b-ink bg-field max-lg:col-span-2 max-lg:w-full">
                    <button
                      type="button"
                      className="w-12 text-lg text-ink-2"
                      aria-label={`One less of ${l.name}`}
                      onClick={() => step(l.line, -1)}
                    >
                      −
                    </button>
                    <input
                      value={typed(l.line)}
                      onChange={(e) => set(l.line, e.target.value)}
                      onFocus={() => setAt(l.line)}
                      onKeyDown={(e) => {
                        if (e.key !== "Enter") return;
                        e.preventDefault();
                        const next = open[index + 1];
                        if (next) document.querySelector<HTMLInputElement>(`#count-${next.line} input`)?.select();
                        else scan.current?.focus();
                      }}
                      aria-label={`Counted ${l.name}, in ${l.unit}`}
                      aria-invalid={!p.ok || judged?.kind === "over" || problem ? true : undefined}
                      aria-describedby={`judged-${l.line}`}
                      inputMode="decimal"
                      maxLength={16}
                      placeholder="0"
                      className="min-w-0 flex-1 bg-transparent text-center font-mono text-lg font-semibold outline-none placeholder:text-ink-3"
                    />
                    <button
                      type="button"
                      className="w-12 text-lg text-ink-2"
                      aria-label={`One more of ${l.name}`}
                      onClick={() => step(l.line, 1)}
                    >
                      +
                    </button>
                  </span>
                ) : (
                  <span className="text-right text-ink-3">{left > 0 ? "" : "all in"}</span>
                )}
                <span id={`judged-${l.line}`} className="min-w-0 max-lg:col-span-2">
                  {p.ok && p.value > 0 && <TallyGates counted={p.value} />}
                  <span
                    className={`block text-xs font-semibold ${!p.ok || judged?.kind === "over" || problem ? "text-signal" : judged?.kind === "as ordered" ? "text-weed" : "text-ink-2"}`}
                  >
                    {problem ??
                      (!p.ok
                        ? p.says
                        : left === 0
                          ? `${w.quantity(l.received)} ${l.unit} received`
                          : judged
                            ? judgeWords(judged, l.unit)
                            : "")}
                  </span>
                  {stock !== null && stock > 0 && (
                    <span className="block text-2xs text-ink-3">
                      {w.quantity(stock)} {l.stockUnit} into stock
                    </span>
                  )}
                  {left > 0 && p.ok && p.value === 0 && (
                    <span className="block text-2xs text-ink-3">
                      due {w.day(l.due)}
                      {l.received > 0 && `, ${w.quantity(l.received)} came before`}
                    </span>
                  )}
                </span>
              </li>
            );
          })}
        </ul>
        {sheet.receipts.length > 0 && (
          <p className="border-t border-rule px-4.5 py-2 text-xs text-ink-2">
            Counted before:{" "}
            {sheet.receipts.map((r, i) => (
              <span key={r.id}>
                {i > 0 && ", "}
                <Link to={`/receipts/${r.id}`} className="underline">
                  {r.number}
                </Link>{" "}
                on {w.day(r.day)}
              </span>
            ))}
          </p>
        )}
      </main>
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
              <Button className="max-lg:min-h-12" onClick={rest}>
                Rest as ordered
              </Button>
              <Button
                look="main"
                hint="T"
                className="max-lg:min-h-12"
                disabled={busy || wrong || some.length === 0}
                onClick={take}
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
    </>
  );
}
