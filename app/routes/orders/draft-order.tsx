import { type RefObject, useEffect, useRef, useState } from "react";
import { useRevalidator, useSubmit } from "react-router";
import type { OrderLineId } from "../../../core/ids";
import { KIND_WORDS } from "../../../core/orders/kinds";
import type { DraftChoices, DraftFacts } from "../../../server/queries/orders/draft";
import type { MoveTarget } from "../../../server/queries/orders/moves";
import type { OrderSheet } from "../../../server/queries/orders/order";
import type { SupplierBalance } from "../../../server/queries/settling/balance";
import { Button } from "../../ui/button";
import { Problems, problemAt } from "../../ui/field";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { KeepingNote } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { BalanceLine } from "../settling/balance-line";
import { AddLine } from "./draft/add-line";
import { ChooseItems } from "./draft/choose-items";
import { DraftSlip } from "./draft/draft-slip";
import { DraftFactStrip, DraftNotes } from "./draft/draft-top";
import { HeadForm } from "./draft/head-form";
import { DraftLines } from "./draft/lines";
import type { Draft } from "./draft/use-draft";
import { useDraft } from "./draft/use-draft";
import type { DraftWord } from "./keep";
import type { OrderWord } from "./order-acts";
import { Stations } from "./order-head";
import { OrderTotals } from "./order-totals";

interface Props {
  sheet: OrderSheet;
  draft: DraftFacts;
  choices: DraftChoices;
  /** Who gets it where nobody else is chosen. */
  contacts: { name: string; mail: string }[];
  /** Where each line could go, and all of them under 0. */
  moves: Record<number, MoveTarget[]>;
  mayKeepSupplier: boolean;
  /** How we stand with the supplier; null where that is not shown. */
  balance: SupplierBalance | null;
  problems?: readonly { field: string; says: string }[];
}

/** An order as it is written: kept while one types, priced again with every change, then submitted. */
export function DraftOrder({
  sheet,
  draft: facts,
  choices,
  contacts,
  moves,
  mayKeepSupplier,
  balance,
  problems,
}: Props) {
  const w = useWriting();
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  const busy = useBusy();
  const order = sheet.head.id;
  const draft = useDraft(w.person, order, facts, sheet.lines);
  const { lines, kept } = draft;
  const { head } = draft.facts;
  const [at, setAt] = useState(lines[0]?.id ?? null);
  const [showSum, setShowSum] = useState(true);
  const [showHead, setShowHead] = useState(head.kind !== "one-off" && head.kind !== "call-off" && lines.length === 0);
  const key = useSubmissionKey(head.version);
  const scroller = useRef<HTMLDivElement>(null);
  const entry = useRef<HTMLInputElement>(null);
  const send = async (what: OrderWord, extra: Record<string, string> = {}) => {
    if (busy || !(await kept.settle())) return;
    void submit({ do: what, version: String(kept.version()), key: `${key()}${what}`, ...extra }, { method: "post" });
  };
  const move = (by: number) => {
    const i = lines.findIndex((l) => l.id === at);
    setAt(lines[Math.max(0, Math.min(lines.length - 1, i + by))]?.id ?? null);
  };
  const standing = head.kind === "standing";
  useDraftKeys({
    at,
    standing,
    move,
    entry,
    turnHead: () => setShowHead((now) => !now),
    turnSums: () => setShowSum((now) => !now),
    send: (what) => void send(what),
  });
  const all = [...draft.problems, ...(problems ?? [])];
  const here = lines.find((l) => l.id === at) ?? lines[0];
  const stale = kept.state === "stale";
  useEffect(() => {
    if (stale) void revalidate();
  }, [stale, revalidate]);
  const at0 = (field: string) => problemAt(all, field);
  const headWrong = all.some(isOfTheHead);
  const takeOff = async (line: OrderLineId) => {
    const i = lines.findIndex((l) => l.id === line);
    const next = lines[i + 1] ?? lines[i - 1];
    if ((await draft.act({ do: "drop" satisfies DraftWord, lines: [line] })) === null) setAt(next?.id ?? null);
  };
  const title = titleOf(head);
  return (
    <SheetAndSlip
      sheet={
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title={title} sub={<span className="text-base">{head.supplierName}</span>}>
            <KeepingNote state={kept.state} />
            <StateSquare state={head.state} />
          </SheetHead>
          {!standing && <Stations sheet={{ ...sheet, head, lines: [...lines] }} />}
          <DraftNotes
            draft={draft}
            kept={sheet}
            version={facts.head.version}
            busy={busy}
            onLetGo={() => void send("let go")}
          />
          <div className="px-4.5 pb-2 empty:hidden">
            <Problems
              problems={all.filter((p) => p.field !== "file")}
              only={(p) => p.field === "" || p.field === "lines"}
            />
          </div>
          <DraftFactStrip head={head} lines={lines} contacts={contacts} />
          {balance && <BalanceLine balance={balance} className="border-b border-rule px-4.5 py-1.5 text-xs" />}
          <div className="flex items-center gap-2 border-b border-rule px-4.5 py-1.5">
            <Button look="plain" aria-expanded={showHead || headWrong} onClick={() => setShowHead((s) => !s)} hint="H">
              {showHead || headWrong ? "Close the head" : "References, terms, address, texts"}
            </Button>
            <span className="ml-auto" />
            {!standing && head.kind !== "blanket" && (
              <Button disabled={draft.working} onClick={() => void draft.act({ do: "fill in" satisfies DraftWord })}>
                Fill in all they should send
              </Button>
            )}
            <ChooseItems draft={draft} order={order} />
          </div>
          {(showHead || headWrong) && (
            <HeadForm
              draft={draft}
              choices={choices}
              problem={at0}
              mayKeepSupplier={mayKeepSupplier}
              onForGood={() => void send("for good")}
            />
          )}
          <DraftLines
            draft={draft}
            scroller={scroller}
            at={here?.id ?? null}
            onAt={setAt}
            onTakeOff={(line) => void takeOff(line)}
            onSequence={(ids) => void draft.act({ do: "sequence" satisfies DraftWord, lines: ids })}
            onPast={() => entry.current?.focus()}
            problems={all}
          />
          <AddLine draft={draft} order={order} entry={entry} />
        </div>
      }
      slip={
        <DraftSlip
          draft={draft}
          sheet={sheet}
          here={here}
          moves={moves}
          choices={choices}
          problems={all}
          showSum={showSum}
          busy={busy}
          onSend={(what, extra) => void send(what, extra)}
        />
      }
      tally={<DraftTally draft={draft} problems={all} busy={busy} onSend={(what) => void send(what)} />}
    />
  );
}

/** What the draft comes to, and on to sign-off. */
function DraftTally({
  draft,
  problems: all,
  busy,
  onSend,
}: {
  draft: Draft;
  problems: readonly { field: string; says: string }[];
  busy: boolean;
  onSend: (what: Extract<OrderWord, "make" | "submit">) => void;
}) {
  const w = useWriting();
  const { lines, kept } = draft;
  const { head, totals, needed } = draft.facts;
  const standing = head.kind === "standing";
  const signs = needed.who.length ? needed.who.join(", then ") : needed.carries ? "carries on as signed" : "nobody";
  return (
    <TallyLine
      trouble={
        all.find((p) => p.field === "")?.says ??
        (all.some((p) => !p.field.startsWith("add.")) ? "Some fields need another look; they are marked." : null)
      }
      keys={[
        ["e", "quantity"],
        ["a", "add a line"],
        ["w", "the sums"],
      ]}
      act={
        standing ? (
          <Button look="main" hint="O" disabled={busy || lines.length === 0} onClick={() => onSend("make")}>
            Make an order from it
          </Button>
        ) : (
          <Button
            look="main"
            hint="O"
            disabled={busy || kept.state === "stale" || head.held !== ""}
            onClick={() => onSend("submit")}
          >
            {busy ? "Submitting…" : needed.who.length ? "Send to sign-off" : "Clear it to be placed"}
          </Button>
        )
      }
    >
      <OrderTotals head={head} lines={lines} totals={totals} />
      {head.freight > 0 && (
        <span>
          freight by their rule <b className="figure">{w.amount(head.freight, head.currency)}</b>
        </span>
      )}
      {!standing && !needed.says && (
        <span>
          sign-off: <b>{signs}</b>
        </span>
      )}
    </TallyLine>
  );
}

function useDraftKeys({
  at,
  standing,
  move,
  entry,
  turnHead,
  turnSums,
  send,
}: {
  /** The selected line. */
  at: number | null;
  standing: boolean;
  move: (by: number) => void;
  /** The entry of a new line. */
  entry: RefObject<HTMLInputElement | null>;
  turnHead: () => void;
  turnSums: () => void;
  send: (what: Extract<OrderWord, "make" | "submit">) => void;
}): void {
  useKeys([
    { key: "arrowdown", label: "next line", run: () => move(1) },
    { key: "arrowup", label: "line before", run: () => move(-1) },
    { key: "e", label: "edit the quantity", run: () => document.getElementById(`quantity-${at}`)?.focus() },
    { key: "a", label: "add a line", run: () => entry.current?.focus() },
    { key: "h", label: "the head of the order", run: turnHead },
    { key: "w", label: "show or hide the sums", run: turnSums },
    ...(standing
      ? [{ key: "o", label: "make an order from the list", run: () => send("make") }]
      : [{ key: "o", label: "submit the order", run: () => send("submit") }]),
  ]);
}

/** A head field that is wrong must be seen. */
const isOfTheHead = ({ field }: { field: string }) =>
  field !== "" && field !== "lines" && !field.startsWith("line.") && !field.startsWith("add.");

function titleOf({ kind, title, name }: DraftFacts["head"]): string {
  if (kind === "standing") return title || "Standing list";
  const words = KIND_WORDS[kind];
  return `${words[0]!.toUpperCase()}${words.slice(1)} ${name}`.replace("Order Draft", "Draft");
}
