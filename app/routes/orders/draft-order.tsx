import { useEffect, useRef, useState } from "react";
import { useRevalidator, useSubmit } from "react-router";
import { parseDay } from "../../../core/calendar/day";
import { decimalText } from "../../../core/numbers/decimal";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { sourceWords } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { count } from "../../../core/text";
import type { OrderSheet } from "../../../server/read/orders/order";
import { Button, ButtonLink } from "../../ui/button";
import { CellEntry, Field, Problems, problemAt } from "../../ui/field";
import { SheetHead, SlipHead, SlipPart, Spread } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { KeepingNote, StaleChoice } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { useKept } from "../../ui/use-kept";
import { Signatures } from "../parts/signatures";
import { Facts, Stations } from "./order-head";

interface Line {
  line: number;
  quantity: string;
  price: string;
  discount: string;
  required: string;
}
interface Draft {
  note: string;
  discount: string;
  lines: Line[];
}

const percentText = (bp: number) => (bp ? decimalText(bp, 2) : "");
const fromSheet = ({ head, lines }: OrderSheet): Draft => ({
  note: head.note,
  discount: percentText(head.discount),
  lines: lines.map((l) => ({
    line: l.id,
    quantity: quantityText(l.quantity),
    price: l.price === null ? "" : priceText(l.price),
    discount: percentText(l.discount),
    required: l.required,
  })),
});

interface Props {
  sheet: OrderSheet;
  needed: { who: string[]; sum: Sum | null; says: string | null } | null;
  contacts: { name: string; mail: string }[];
  problems?: readonly { field: string; says: string }[];
}

/** An order as it is written: kept while one types, priced again with every change, then submitted. */
export function DraftOrder({ sheet, needed, contacts, problems }: Props) {
  const w = useWriting();
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  const busy = useBusy();
  const { head, lines, totals } = sheet;
  const kept = useKept<Draft>(`/orders/${head.id}/keep`, head.version, `wharf.order.${head.id}`);
  const [draft, setDraft] = useState(() => fromSheet(sheet));
  const [at, setAt] = useState(lines[0]?.id ?? null);
  const [showSum, setShowSum] = useState(true);
  const key = useSubmissionKey(head.version);
  // Prices that the server looked up for a changed quantity show where nobody typed one meanwhile.
  const drawn = useRef(false);
  useEffect(() => {
    if (kept.state === "kept" && drawn.current) void revalidate();
    drawn.current = true;
  }, [kept.state, revalidate]);
  const known = fromSheet(sheet);
  const untouched = kept.state === "kept";
  useEffect(() => {
    if (untouched) setDraft(fromSheet(sheet));
  }, [sheet, untouched]);

  const change = (next: Draft) => {
    setDraft(next);
    kept.keep(next);
  };
  const setLine = (id: number, part: Partial<Line>) => {
    const was = lines.find((l) => l.id === id);
    change({
      ...draft,
      // A looked-up price follows the quantity; only a typed one stays.
      lines: draft.lines.map((l) =>
        l.line === id
          ? {
              ...l,
              ...part,
              ...(part.quantity !== undefined && was && was.priceSource.kind !== "typed"
                ? { price: known.lines.find((k) => k.line === id)?.price ?? "" }
                : {}),
            }
          : l,
      ),
    });
  };
  const send = async (what: "submit" | "delete" | "drop line", extra: Record<string, string> = {}) => {
    if (busy || !(await kept.settle())) return;
    submit({ do: what, version: String(kept.version()), key: `${key()}${what}`, ...extra }, { method: "post" });
  };
  const move = (by: number) => {
    const i = lines.findIndex((l) => l.id === at);
    setAt(lines[Math.max(0, Math.min(lines.length - 1, i + by))]?.id ?? null);
  };
  useKeys([
    { key: "arrowdown", label: "next line", run: () => move(1) },
    { key: "arrowup", label: "line before", run: () => move(-1) },
    { key: "e", label: "edit the quantity", run: () => document.getElementById(`quantity-${at}`)?.focus() },
    { key: "w", label: "show or hide the sums", run: () => setShowSum((s) => !s) },
    { key: "o", label: "submit the order", run: () => void send("submit") },
  ]);
  const all = [...kept.problems, ...(problems ?? [])];
  const here = lines.find((l) => l.id === at) ?? lines[0];
  const stale = kept.state === "stale";
  useEffect(() => {
    if (stale) void revalidate();
  }, [stale, revalidate]);
  return (
    <Spread
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead
            title={head.number ? `Order ${head.number}` : head.name}
            sub={<span className="text-base">{head.supplierName}</span>}
          >
            <KeepingNote state={kept.state} />
            <StateSquare state={head.state} />
          </SheetHead>
          <Stations sheet={sheet} />
          {stale && (
            <StaleChoice
              differences={differences(known, draft)}
              onTheirs={() => {
                kept.yieldTo(head.version);
                setDraft(known);
              }}
              onMine={() => kept.insist(head.version)}
            />
          )}
          {head.sentBack && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
              <b>Sent back:</b> {head.sentBack}
            </p>
          )}
          <div className="px-4.5 pb-2 empty:hidden">
            <Problems problems={all} />
          </div>
          <Facts
            facts={[
              ["Deliver to", `${head.storeName} store`],
              ["Goes to", contacts.map((c) => c.mail).join(", ") || "no address for orders yet"],
              ["Terms", `${head.termsDays} days net, ${head.currency}`],
              ["Serves", serves(sheet)],
            ]}
          />
          <table className="w-full">
            <caption className="sr-only">Lines</caption>
            <Heads
              heads={[
                { label: "#", width: "w-8" },
                { label: "Item" },
                { label: "Quantity", align: "right" },
                { label: "Unit", hidden: true },
                { label: "Price", align: "right" },
                { label: "Less %", align: "right" },
                { label: "Wanted by", align: "right" },
                { label: "Amount", align: "right" },
                { label: "Take off", hidden: true },
              ]}
            />
            <tbody>
              {lines.map((l, i) => {
                const d = draft.lines.find((x) => x.line === l.id) ?? known.lines[i]!;
                const p = (field: string) =>
                  problemAt(all, `lines.${draft.lines.indexOf(d)}.${field}`) ??
                  problemAt(problems, `lines.${i}.${field}`);
                const selected = l.id === here?.id;
                return (
                  <tr
                    key={l.id}
                    aria-current={selected ? "true" : undefined}
                    onClick={() => setAt(l.id)}
                    onFocus={() => setAt(l.id)}
                    className={`border-b border-rule-2 align-top ${selected ? "bg-here" : ""}`}
                  >
                    <td
                      className={`py-2.5 pl-4.5 text-ink-3 ${selected ? "shadow-[inset_4px_0_0_var(--color-harbour)]" : ""}`}
                    >
                      {i + 1}
                    </td>
                    <td className="px-2 py-1.5 leading-tight">
                      {l.words}
                      <span className="code block">
                        {[l.code, l.theirCode && `theirs ${l.theirCode}`].filter(Boolean).join(" · ") || "service"}
                      </span>
                    </td>
                    <td className="px-2 py-1 text-right">
                      <CellEntry
                        id={`quantity-${l.id}`}
                        label={`Line ${i + 1}: quantity in ${l.unit}`}
                        value={d.quantity}
                        problem={p("quantity")}
                        inputMode="decimal"
                        maxLength={20}
                        onChange={(e) => setLine(l.id, { quantity: e.target.value })}
                        className="w-20"
                      />
                    </td>
                    <td className="py-2.5 pr-2 text-ink-2">{l.unit}</td>
                    <td className="px-2 py-1 text-right">
                      <CellEntry
                        label={`Line ${i + 1}: price per ${l.unit} in ${head.currency}`}
                        value={d.price}
                        problem={p("price")}
                        placeholder="no price"
                        inputMode="decimal"
                        maxLength={20}
                        onChange={(e) => setLine(l.id, { price: e.target.value })}
                        className="w-24"
                      />
                      <span className={`block text-2xs ${l.priceWarning ? "font-semibold text-signal" : "text-ink-3"}`}>
                        {l.price === null ? "" : sourceWords(l.priceSource)}
                      </span>
                    </td>
                    <td className="px-2 py-1 text-right">
                      <CellEntry
                        label={`Line ${i + 1}: line discount in percent`}
                        value={d.discount}
                        problem={p("discount")}
                        inputMode="decimal"
                        maxLength={7}
                        onChange={(e) => setLine(l.id, { discount: e.target.value })}
                        className="w-14"
                      />
                    </td>
                    <td className="px-2 py-1 text-right">
                      <CellEntry
                        label={`Line ${i + 1}: wanted by`}
                        type="date"
                        value={d.required}
                        problem={p("required")}
                        onChange={(e) => parseDay(e.target.value) && setLine(l.id, { required: e.target.value })}
                        className="w-[128px] font-sans"
                      />
                    </td>
                    <td className="figure px-2 py-2.5 text-right">{w.money(l.net, head.currency)}</td>
                    <td className="py-2 pr-4.5 text-right">
                      {lines.length > 1 && (
                        <button
                          type="button"
                          className="text-xs underline"
                          aria-label={`Take off line ${i + 1}; its need goes back to the pool`}
                          onClick={() => void send("drop line", { line: String(l.id) })}
                        >
                          Take off
                        </button>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <div className="grid grid-cols-[minmax(0,1fr)_120px] gap-4 px-4.5 py-3">
            <Field label="Note to the supplier, printed below the lines" problem={problemAt(all, "note")}>
              {(a) => (
                <textarea
                  {...a}
                  rows={2}
                  maxLength={1000}
                  className="entry"
                  value={draft.note}
                  onChange={(e) => change({ ...draft, note: e.target.value })}
                />
              )}
            </Field>
            <Field label="Whole order less %" problem={problemAt(all, "discount")}>
              {(a) => (
                <input
                  {...a}
                  className="entry text-right font-mono"
                  value={draft.discount}
                  maxLength={7}
                  inputMode="decimal"
                  onChange={(e) => change({ ...draft, discount: e.target.value })}
                />
              )}
            </Field>
          </div>
        </div>
      }
      slip={
        <>
          {here && (
            <SlipHead over={here.code ?? "service"} title={here.words}>
              <ul className="mt-1 text-ink-2">
                {here.serves.map((s, i) => (
                  <li key={i}>
                    {s.source === "requisition"
                      ? `asked for by ${s.asker}, ${s.number}`
                      : "for stock, below its reorder point"}
                  </li>
                ))}
              </ul>
            </SlipHead>
          )}
          {here?.priceSum && showSum && <SumSheet sum={here.priceSum} />}
          {showSum && <SumSheet sum={totals.sum} />}
          {needed?.sum && <SumSheet sum={needed.sum} />}
          {needed?.says && <p className="font-semibold text-signal">{needed.says}</p>}
          <Signatures signatures={sheet.signatures} />
          <SlipPart title="Paper">
            <div className="flex flex-wrap gap-2">
              <ButtonLink to={`/orders/${head.id}/paper.pdf`} reload>
                See it as PDF
              </ButtonLink>
              <Button disabled={busy} onClick={() => void send("delete")}>
                {head.number ? "Cancel this order" : "Delete this draft"}
              </Button>
            </div>
          </SlipPart>
        </>
      }
      tally={
        <TallyLine
          trouble={
            all.find((p) => p.field === "")?.says ??
            (all.length ? "Some fields need another look; they are marked." : null)
          }
          keys={[
            ["e", "edit quantity"],
            ["w", "the sums"],
          ]}
          act={
            <Button look="main" hint="O" disabled={busy || stale} onClick={() => void send("submit")}>
              {busy ? "Submitting…" : needed?.who.length ? "Send to sign-off" : "Clear it to be placed"}
            </Button>
          }
        >
          <span>{count(lines.length, "line")}</span>
          <span>
            net <b className="figure">{w.amount(totals.net.minor, head.currency)}</b>
          </span>
          <span>
            tax <b className="figure">{w.amount(totals.tax.minor, head.currency)}</b>
          </span>
          <span>
            total <b className="figure">{w.amount(totals.total.minor, head.currency)}</b>
          </span>
          {needed && !needed.says && (
            <span>
              sign-off: <b>{needed.who.length ? needed.who.join(", then ").toLowerCase() : "nobody"}</b>
            </span>
          )}
        </TallyLine>
      }
    />
  );
}

/** Whom an order serves, in a few words. */
export function serves(sheet: OrderSheet): string {
  const askers = [...new Set(sheet.lines.flatMap((l) => l.serves.map((s) => s.asker)).filter((a) => a !== null))];
  const jobs = [...new Set(sheet.lines.flatMap((l) => l.serves.map((s) => s.jobName)).filter((j) => j !== null))];
  const stock = sheet.lines.some((l) => l.serves.some((s) => s.source === "reorder" || s.source === "noted"));
  return [...askers, ...jobs, stock ? "stock" : ""].filter(Boolean).join(", ") || "–";
}

function differences(theirs: Draft, mine: Draft) {
  const list: { what: string; theirs: string; mine: string }[] = [
    { what: "Note", theirs: theirs.note, mine: mine.note },
    { what: "Whole order less %", theirs: theirs.discount, mine: mine.discount },
  ];
  mine.lines.forEach((l, i) => {
    const t = theirs.lines.find((x) => x.line === l.line);
    const words = (x: Line | undefined) =>
      x ? `${x.quantity} at ${x.price || "no price"}, ${x.required}` : "taken off";
    list.push({ what: `Line ${i + 1}`, theirs: words(t), mine: words(l) });
  });
  return list.filter((d) => d.theirs !== d.mine);
}
