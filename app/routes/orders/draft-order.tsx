import { useEffect, useRef, useState } from "react";
import { useRevalidator, useSubmit } from "react-router";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { KIND_WORDS } from "../../../core/orders/kinds";
import { deliveryWords, termsWords } from "../../../core/orders/terms";
import type { DraftChoices, DraftFacts } from "../../../server/queries/orders/draft";
import type { MoveTarget } from "../../../server/queries/orders/moves";
import type { OrderSheet } from "../../../server/queries/orders/order";
import { Attachments } from "../../parts/attachments";
import { Budgets } from "../../parts/budgets";
import { Signatures } from "../../parts/signatures";
import { Button, ButtonLink } from "../../ui/button";
import { Problems, problemAt, TextField } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { KeepingNote, StaleChoice } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { SlipForm } from "../needs/slip-form";
import { AddLine } from "./draft/add-line";
import { ChooseItems } from "./draft/choose-items";
import { HeadForm } from "./draft/head-form";
import { LineSlipPanel } from "./draft/line-slip";
import { DraftLines } from "./draft/lines";
import { MoveTo } from "./draft/move-to";
import { type LineText, useDraft } from "./draft/use-draft";
import { FactStrip, Stations } from "./order-head";
import { OrderTotals } from "./order-totals";
import { serves } from "./serves";

interface Props {
  sheet: OrderSheet;
  draft: DraftFacts;
  choices: DraftChoices;
  /** Where each line could go, and all of them under 0. */
  /** Who gets it where nobody else is chosen. */
  contacts: { name: string; mail: string }[];
  moves: Record<number, MoveTarget[]>;
  mayKeepSupplier: boolean;
  problems?: readonly { field: string; says: string }[];
}

/** An order as it is written: kept while one types, priced again with every change, then submitted. */
export function DraftOrder({ sheet, draft: facts, choices, contacts, moves, mayKeepSupplier, problems }: Props) {
  const w = useWriting();
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  const busy = useBusy();
  const order = sheet.head.id;
  const draft = useDraft(w.person, order, facts, sheet.lines);
  const { lines, kept } = draft;
  const { head, totals, needed, budgets } = draft.facts;
  const [at, setAt] = useState(lines[0]?.id ?? null);
  const [showSum, setShowSum] = useState(true);
  const [showHead, setShowHead] = useState(head.kind !== "one-off" && head.kind !== "call-off" && lines.length === 0);
  const key = useSubmissionKey(head.version);
  const scroller = useRef<HTMLDivElement>(null);
  const entry = useRef<HTMLInputElement>(null);
  const send = async (what: string, extra: Record<string, string> = {}) => {
    if (busy || !(await kept.settle())) return;
    void submit({ do: what, version: String(kept.version()), key: `${key()}${what}`, ...extra }, { method: "post" });
  };
  const move = (by: number) => {
    const i = lines.findIndex((l) => l.id === at);
    setAt(lines[Math.max(0, Math.min(lines.length - 1, i + by))]?.id ?? null);
  };
  const standing = head.kind === "standing";
  useKeys([
    { key: "arrowdown", label: "next line", run: () => move(1) },
    { key: "arrowup", label: "line before", run: () => move(-1) },
    { key: "e", label: "edit the quantity", run: () => document.getElementById(`quantity-${at}`)?.focus() },
    { key: "a", label: "add a line", run: () => entry.current?.focus() },
    { key: "h", label: "the head of the order", run: () => setShowHead((s) => !s) },
    { key: "w", label: "show or hide the sums", run: () => setShowSum((s) => !s) },
    ...(standing
      ? [{ key: "o", label: "make an order from the list", run: () => void send("make") }]
      : [{ key: "o", label: "submit the order", run: () => void send("submit") }]),
  ]);
  const all = [...draft.problems, ...(problems ?? [])];
  const here = lines.find((l) => l.id === at) ?? lines[0];
  const stale = kept.state === "stale";
  useEffect(() => {
    if (stale) void revalidate();
  }, [stale, revalidate]);
  const at0 = (field: string) => problemAt(all, field);
  // A head field that is wrong must be seen.
  const headWrong = all.some(
    (p) => p.field !== "" && p.field !== "lines" && !p.field.startsWith("line.") && !p.field.startsWith("add."),
  );
  const takeOff = async (line: number) => {
    const i = lines.findIndex((l) => l.id === line);
    const next = lines[i + 1] ?? lines[i - 1];
    if ((await draft.act({ do: "drop", lines: [line] })) === null) setAt(next?.id ?? null);
  };
  const words = KIND_WORDS[head.kind];
  const title = standing
    ? head.title || "Standing list"
    : `${words[0]!.toUpperCase()}${words.slice(1)} ${head.name}`.replace("Order Draft", "Draft");
  return (
    <SheetAndSlip
      sheet={
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title={title} sub={<span className="text-base">{head.supplierName}</span>}>
            <KeepingNote state={kept.state} />
            <StateSquare state={head.state} />
          </SheetHead>
          {!standing && <Stations sheet={{ ...sheet, head, lines: [...lines] }} />}
          {stale && (
            <StaleChoice
              differences={differences(kept.pending(), sheet)}
              onTheirs={() => {
                kept.yieldTo(facts.head.version);
                draft.forget();
              }}
              onMine={() => kept.insist(facts.head.version)}
            />
          )}
          {head.sentBack && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
              <b>Sent back:</b> {head.sentBack}
            </p>
          )}
          {head.held && (
            <div className="mx-4.5 mb-3 flex flex-wrap items-center gap-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
              <span>
                <b>Held</b> by {head.heldBy}, {head.heldAt && w.moment(head.heldAt)}: {head.held}
              </span>
              <Button disabled={busy} onClick={() => void send("let go")}>
                Let it go on
              </Button>
            </div>
          )}
          <div className="px-4.5 pb-2 empty:hidden">
            <Problems
              problems={all.filter((p) => p.field !== "file")}
              only={(p) => p.field === "" || p.field === "lines"}
            />
          </div>
          <FactStrip
            facts={[
              ["Deliver to", head.deliverAddress ? head.deliverName || head.deliverAddress : `${head.storeName} store`],
              ["Goes to", contacts.map((c) => c.mail).join(", ") || "no address for orders yet"],
              [
                "Terms",
                [
                  termsWords(head.terms),
                  deliveryWords(head.deliveryTerms, head.deliveryPlace).replace(" (Incoterms 2020)", ""),
                  head.currency,
                ]
                  .filter(Boolean)
                  .join(", "),
              ],
              head.kind === "blanket"
                ? ["Holds", `${w.day(head.starts!, false)} to ${w.day(head.ends!, false)}`]
                : ["Serves", serves({ lines: [...lines] })],
            ]}
          />
          <div className="flex items-center gap-2 border-b border-rule px-4.5 py-1.5">
            <Button look="plain" aria-expanded={showHead || headWrong} onClick={() => setShowHead((s) => !s)} hint="H">
              {showHead || headWrong ? "Close the head" : "References, terms, address, texts"}
            </Button>
            <span className="ml-auto" />
            {!standing && head.kind !== "blanket" && (
              <Button disabled={draft.working} onClick={() => void draft.act({ do: "fill in" })}>
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
            onSequence={(ids) => void draft.act({ do: "sequence", lines: ids })}
            onPast={() => entry.current?.focus()}
            problems={all}
          />
          <AddLine draft={draft} order={order} entry={entry} />
        </div>
      }
      slip={
        <>
          {here && (
            <LineSlipPanel
              draft={draft}
              order={order}
              line={here}
              choices={choices}
              showSum={showSum}
              problem={(field) => problemAt(all, `line.${here.id}.${field}`)}
            />
          )}
          {here && ((moves[here.id]?.length ?? 0) > 0 || (moves[0]?.length ?? 0) > 0) && (
            <SlipPart title="Move to another order">
              <div className="flex flex-col gap-2">
                <MoveTo
                  key={here.id}
                  label={lines.length > 1 ? "This line" : "Its line"}
                  targets={moves[here.id] ?? []}
                  disabled={busy}
                  onMove={(to) => void send("move", { to, line: String(here.id) })}
                />
                {lines.length > 1 && (
                  <MoveTo
                    label={`All ${lines.length} lines`}
                    targets={moves[0] ?? []}
                    disabled={busy}
                    onMove={(to) => void send("move", { to })}
                  />
                )}
              </div>
            </SlipPart>
          )}
          <Budgets budgets={budgets} />
          {showSum && <SumSheet sum={totals.sum} />}
          {!standing && needed.sum && <SumSheet sum={needed.sum} />}
          {!standing && needed.again && <p className="font-semibold">{needed.again} So it is signed again.</p>}
          {!standing && needed.says && <p className="font-semibold text-signal">{needed.says}</p>}
          <Signatures signings={sheet.signings} />
          <Attachments at={`/orders/${order}`} files={sheet.files} mayAttach mayTakeOff sends={!standing} />
          <SlipPart title={standing ? "The list" : "Paper"}>
            <div className="flex flex-wrap gap-2">
              {!standing && (
                <>
                  <ButtonLink to={`/orders/${order}/paper.pdf`} reload>
                    See it as PDF
                  </ButtonLink>
                  <ButtonLink to={`/orders/${order}/order.xml`} reload>
                    UBL file
                  </ButtonLink>
                </>
              )}
              <Button disabled={busy} onClick={() => void send("delete")}>
                {head.number ? "Cancel this order" : standing ? "Delete this list" : "Delete this draft"}
              </Button>
            </div>
            {!standing && !head.held && (
              <div className="mt-2">
                <SlipForm does="hold" fields={{ version: head.version }} label="Hold it back…" send="Hold it">
                  <TextField label="What it waits for" name="reason" maxLength={300} required />
                </SlipForm>
              </div>
            )}
          </SlipPart>
        </>
      }
      tally={
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
              <Button look="main" hint="O" disabled={busy || lines.length === 0} onClick={() => void send("make")}>
                Make an order from it
              </Button>
            ) : (
              <Button
                look="main"
                hint="O"
                disabled={busy || stale || head.held !== ""}
                onClick={() => void send("submit")}
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
              sign-off:{" "}
              <b>
                {needed.who.length ? needed.who.join(", then ") : needed.carries ? "carries on as signed" : "nobody"}
              </b>
            </span>
          )}
        </TallyLine>
      }
    />
  );
}

/** What this person typed, against what somebody else has kept meanwhile. */
function differences(mine: object | null, sheet: OrderSheet) {
  const list: { what: string; theirs: string; mine: string }[] = [];
  const { lines: typed, ...head } = (mine ?? {}) as { lines?: ({ line: number } & LineText)[] } & Record<
    string,
    unknown
  >;
  const now = sheet.head as unknown as Record<string, unknown>;
  const text = (v: unknown) => (typeof v === "string" || typeof v === "number" ? String(v) : "something else");
  for (const [field, value] of Object.entries(head))
    list.push({ what: HEAD_WORDS[field] ?? field, theirs: text(now[field]), mine: text(value) });
  for (const { line, ...parts } of typed ?? []) {
    const i = sheet.lines.findIndex((x) => x.id === line);
    const l = sheet.lines[i];
    const theirs = l && {
      quantity: quantityText(l.quantity),
      price: l.price === null ? "" : priceText(l.price),
      required: l.required as string,
    };
    const words = (x: LineText) => `${x.quantity} at ${x.price || "no price"}, ${x.required}`;
    const others = Object.keys(parts).filter((k) => !["quantity", "price", "required"].includes(k));
    list.push({
      what: l ? `Line ${i + 1}` : "A line",
      theirs: theirs ? words(theirs) : "taken off",
      mine: [words({ ...theirs, ...parts }), ...others].join(", "),
    });
  }
  return list.filter((d) => d.theirs !== d.mine);
}
const HEAD_WORDS: Record<string, string> = { note: "Note", discount: "Whole order less %", texts: "Standing texts" };
