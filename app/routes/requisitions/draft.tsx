import { useEffect, useRef, useState } from "react";
import { useRevalidator, useSubmit } from "react-router";
import { moneyText, parseMoney } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import type { Sum } from "../../../core/sums/sum";
import type { BudgetView } from "../../../server/queries/budgets/budgets";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { Attachments } from "../../parts/attachments";
import { Budgets } from "../../parts/budgets";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, Field, Problems, problemAt } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { ItemEntry } from "../../ui/item-entry";
import { KeepingNote, StaleChoice } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { newKey, useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { useKept } from "../../ui/use-kept";

interface Problem {
  field: string;
  says: string;
}
interface Line {
  id: string;
  item: number | null;
  text: string;
  unit: string;
  kind: "goods" | "service";
  quantity: string;
  estimate: string;
  account: string;
  budget: string;
}
interface Draft {
  store: number;
  department: string;
  neededBy: string;
  reason: string;
  lines: Line[];
  watchers: number[];
}

const emptyLine = (): Line => ({
  id: newKey(),
  item: null,
  text: "",
  unit: "",
  kind: "service",
  quantity: "",
  estimate: "",
  account: "",
  budget: "",
});
const isBlank = (l: Line) => l.item === null && l.text === "" && l.quantity === "" && l.estimate === "";

function fromSheet({ head, lines, watchers }: RequisitionSheet, currency: string): Draft {
  return {
    store: head.store,
    department: head.department === null ? "" : String(head.department),
    neededBy: head.neededBy ?? "",
    reason: head.reason,
    watchers: watchers.map((p) => p.id),
    lines: lines.map((l) => ({
      id: String(l.id),
      item: l.item,
      text: l.itemName ?? l.words,
      unit: l.item ? l.unit : "",
      kind: l.kind,
      account: l.account ?? "",
      budget: l.budget ? String(l.budget.id) : "",
      quantity: l.quantity === null ? "" : quantityText(l.quantity),
      estimate: l.estimate === null ? "" : moneyText({ minor: l.estimate, currency }),
    })),
  };
}

const toSend = (d: Draft) => ({
  store: d.store,
  department: d.department,
  neededBy: d.neededBy,
  reason: d.reason,
  lines: d.lines
    .filter((l) => !isBlank(l))
    .map((l) => ({
      item: l.item ?? "",
      words: l.item ? "" : l.text,
      kind: l.kind,
      quantity: l.quantity,
      estimate: l.estimate,
      account: l.account,
      budget: l.budget,
    })),
  watchers: d.watchers,
});

/** A requisition as it is written: kept while one types, handed in when it is whole. */
export function DraftRequisition({
  sheet,
  stores,
  departments,
  needed,
  accounts,
  budgets,
  onBudgets,
  people,
  problems,
}: {
  sheet: RequisitionSheet;
  stores: { id: number; name: string }[];
  departments: { id: number; name: string }[];
  /** Who has to sign it, as far as kept, and why; or why it could not be handed in. */
  needed: { who: string[]; sum: Sum } | { says: string } | null;
  accounts: { code: string; name: string }[];
  budgets: { id: number; code: string; name: string }[];
  /** The budgets that its lines go against, as they stand with it. */
  onBudgets: BudgetView[];
  people: { id: number; name: string }[];
  problems?: readonly Problem[];
}) {
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const { head } = sheet;
  const kept = useKept<Draft>(
    `/requisitions/${head.id}/keep`,
    head.version,
    `wharf.requisition.${head.id}.${w.person}`,
    {
      body: toSend,
      onRestored: (left) => put(left),
    },
  );
  const [draft, setDraft] = useState<Draft>(() => {
    const d = fromSheet(sheet, w.home);
    return d.lines.length ? d : { ...d, lines: [emptyLine()] };
  });
  const { revalidate } = useRevalidator();
  const typed = useRef(false);
  // What it will about cost is worked out by the server, from what is kept.
  useEffect(() => {
    if (typed.current && (kept.state === "kept" || kept.state === "stale")) void revalidate();
  }, [kept.state, revalidate]);
  const [focus, setFocus] = useState<string | null>(null);
  const submissionKey = useSubmissionKey(head.version);
  // Two keystrokes may come before one drawing: each goes on from the last, never from what was drawn.
  const latest = useRef(draft);
  const put = (next: Draft) => {
    latest.current = next;
    setDraft(next);
  };
  const change = (next: Draft) => {
    typed.current = true;
    put(next);
    kept.keep(next);
  };
  const setLine = (id: string, part: Partial<Line>) =>
    change({ ...latest.current, lines: latest.current.lines.map((l) => (l.id === id ? { ...l, ...part } : l)) });
  const addLine = () => {
    const line = emptyLine();
    setFocus(line.id);
    put({ ...latest.current, lines: [...latest.current.lines, line] });
  };
  const dropLine = (id: string) =>
    change({ ...latest.current, lines: latest.current.lines.filter((l) => l.id !== id) });
  const hand = async (what: "submit" | "drop") => {
    if (busy) return;
    if (what === "submit" && !(await kept.settle())) return;
    void submit({ do: what, version: String(kept.version()), key: submissionKey() + what }, { method: "post" });
  };
  useKeys([{ key: "n", label: "new line", run: addLine }]);

  const all = [...kept.problems, ...(problems ?? [])];
  const real = draft.lines.filter((l) => !isBlank(l));
  const lineProblem = (l: Line, field: string) => problemAt(all, `lines.${real.indexOf(l)}.${field}`);
  const estimated = sheet.about ?? 0;
  const stale = kept.state === "stale";
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-10">
          <SheetHead
            title={head.number ? `Requisition ${head.number}` : "New requisition"}
            sub={<KeepingNote state={kept.state} />}
          />
          {stale && (
            <StaleChoice
              differences={differences(fromSheet(sheet, w.home), draft, stores)}
              onTheirs={() => {
                kept.yieldTo(sheet.head.version);
                put(fromSheet(sheet, w.home));
              }}
              onMine={() => kept.insist(sheet.head.version)}
            />
          )}
          {head.sentBack && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
              <b>Sent back:</b> {head.sentBack}
            </p>
          )}
          <div className="px-4.5">
            <Problems problems={all} only={(p) => p.field === "" || p.field === "lines"} />
          </div>
          <div className="grid grid-cols-[150px_170px_150px_minmax(0,1fr)] gap-4 px-4.5 py-3 max-md:grid-cols-1">
            <Field label="For which store" problem={problemAt(all, "store")}>
              {(a) => (
                <select
                  {...a}
                  className="entry"
                  value={draft.store}
                  onChange={(e) => change({ ...latest.current, store: Number(e.target.value) })}
                >
                  {stores.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            {departments.length > 0 ? (
              <SelectField
                label="For the department"
                value={draft.department}
                problem={problemAt(all, "department")}
                onChange={(e) => change({ ...latest.current, department: e.target.value })}
                options={[
                  { value: "", label: "one’s own" },
                  ...departments.map((d) => ({ value: d.id, label: d.name })),
                ]}
              />
            ) : (
              <span />
            )}
            <Field label="Needed by" problem={problemAt(all, "neededBy")}>
              {(a) => (
                <DayEntry
                  {...a}
                  value={draft.neededBy}
                  min={w.today}
                  onDay={(neededBy) => change({ ...latest.current, neededBy })}
                />
              )}
            </Field>
            <Field
              label="What for"
              problem={problemAt(all, "reason")}
              hint="the job, the vessel, what happens without it"
            >
              {(a) => (
                <input
                  {...a}
                  className="entry"
                  value={draft.reason}
                  maxLength={500}
                  onChange={(e) => change({ ...latest.current, reason: e.target.value })}
                />
              )}
            </Field>
          </div>
          <table className="w-full border-t-2 border-ink">
            <caption className="sr-only">Lines</caption>
            <Heads
              heads={[
                { label: "#", width: "w-8" },
                { label: "Item or service" },
                { label: "Quantity", align: "right", width: "w-24" },
                { label: "Unit", width: "w-14" },
                { label: `About, ${w.home}`, align: "right", width: "w-28" },
                { label: "Budget line", width: "w-28" },
                { label: "Account", width: "w-24" },
                { label: "Take away", hidden: true, width: "w-20" },
              ]}
            />
            <tbody>
              {draft.lines.map((l, i) => (
                <tr key={l.id} className="border-b border-rule-2 align-top">
                  <td className="py-2.5 pl-4.5 text-ink-3">{i + 1}</td>
                  <td className="px-2 py-1">
                    <ItemEntry
                      label={`Line ${i + 1}: item or service`}
                      text={l.text}
                      autoFocus={focus === l.id}
                      invalid={lineProblem(l, "item") !== undefined || lineProblem(l, "words") !== undefined}
                      onText={(text) => setLine(l.id, { text, item: null, unit: "" })}
                      onItem={(f) => setLine(l.id, { item: f.id, text: f.name, unit: f.unit ?? "", estimate: "" })}
                    />
                    <p className="mt-0.5 text-2xs text-ink-3">
                      {(lineProblem(l, "item") ?? lineProblem(l, "words")) ? (
                        <span className="font-semibold text-signal">
                          {lineProblem(l, "item") ?? lineProblem(l, "words")}
                        </span>
                      ) : l.item ? (
                        "from the stores’ own items"
                      ) : (
                        l.text && (
                          <label className="inline-flex items-center gap-1.5">
                            in your own words:
                            <select
                              aria-label={`Line ${i + 1}: goods or service`}
                              className="border-b border-ink-3 bg-transparent font-semibold"
                              value={l.kind}
                              onChange={(e) => setLine(l.id, { kind: e.target.value as Line["kind"] })}
                            >
                              <option value="service">a service</option>
                              <option value="goods">goods without a code</option>
                            </select>
                          </label>
                        )
                      )}
                    </p>
                  </td>
                  <td className="px-2 py-1 text-right">
                    <CellEntry
                      label={`Line ${i + 1}: quantity`}
                      value={l.quantity}
                      problem={lineProblem(l, "quantity")}
                      inputMode="decimal"
                      maxLength={20}
                      onChange={(e) => setLine(l.id, { quantity: e.target.value })}
                      onKeyDown={(e) => {
                        if (e.key === "Enter" && i === draft.lines.length - 1) addLine();
                      }}
                      className="w-20"
                    />
                  </td>
                  <td className="px-2 py-2.5 text-ink-2">{l.unit || (l.text && "each")}</td>
                  <td className="px-2 py-1 text-right">
                    {l.item && costKnown(sheet, l) && !lineProblem(l, "estimate") ? (
                      <span className="figure inline-block py-1.5 text-ink-2">{aboutOf(sheet, l, w.money)}</span>
                    ) : (
                      <CellEntry
                        label={`Line ${i + 1}: about how much, in ${w.home}`}
                        value={l.estimate}
                        problem={lineProblem(l, "estimate") ?? wrongMoney(l.estimate, w.home)}
                        inputMode="decimal"
                        maxLength={30}
                        onChange={(e) => setLine(l.id, { estimate: e.target.value })}
                        className="w-24"
                      />
                    )}
                  </td>
                  <td className="px-2 py-1">
                    <select
                      aria-label={`Line ${i + 1}: budget line`}
                      className="entry w-full text-xs"
                      value={l.budget}
                      onChange={(e) => setLine(l.id, { budget: e.target.value })}
                    >
                      <option value="">–</option>
                      {budgets.map((b) => (
                        <option key={b.id} value={b.id}>
                          {b.code} {b.name}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="px-2 py-1">
                    <select
                      aria-label={`Line ${i + 1}: ledger account`}
                      className="entry w-full text-xs"
                      value={l.account}
                      onChange={(e) => setLine(l.id, { account: e.target.value })}
                    >
                      <option value="">–</option>
                      {accounts.map((a) => (
                        <option key={a.code} value={a.code}>
                          {a.code} {a.name}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="py-2 pr-4.5 text-right">
                    <button
                      type="button"
                      className="text-xs underline"
                      onClick={() => dropLine(l.id)}
                      aria-label={`Take away line ${i + 1}`}
                    >
                      Take away
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="px-4.5 py-3">
            <Button onClick={addLine} hint="N">
              Add a line
            </Button>
          </div>
        </div>
      }
      slip={
        <>
          <SlipPart title="Who has to sign">
            <p className="mb-1.5">
              About <b className="figure">{w.amount(estimated)}</b>, as far as kept.
            </p>
            {needed && "sum" in needed ? (
              <SumSheet sum={needed.sum} heading={false} />
            ) : (
              <p className="font-semibold text-signal">{needed?.says}</p>
            )}
          </SlipPart>
          <SlipPart title="Who else is told">
            <div className="flex flex-col gap-0.5">
              {people.map((p) => (
                <label key={p.id} className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="accent-harbour"
                    checked={draft.watchers.includes(p.id)}
                    onChange={(e) =>
                      change({
                        ...latest.current,
                        watchers: e.target.checked
                          ? [...latest.current.watchers, p.id]
                          : latest.current.watchers.filter((id) => id !== p.id),
                      })
                    }
                  />
                  {p.name}
                </label>
              ))}
            </div>
          </SlipPart>
          <Budgets budgets={onBudgets} opens={false} />
          <Attachments at={`/requisitions/${head.id}`} files={sheet.attachments} mayAttach mayTakeOff />
          <p className="text-ink-2">
            After it is handed in, the buyer finds it among the needs. You are told when it is ordered and when it
            comes.
          </p>
          <p>
            <button type="button" className="underline" onClick={() => hand("drop")} disabled={busy}>
              {head.number ? "Withdraw this requisition" : "Throw this draft away"}
            </button>
          </p>
        </>
      }
      tally={
        <TallyLine
          trouble={
            all.find((p) => p.field === "")?.says ??
            (all.length ? "Some fields need another look; they are marked." : null)
          }
          keys={[["n", "new line"]]}
          act={
            <Button look="main" disabled={busy || stale || real.length === 0} onClick={() => hand("submit")}>
              {busy ? "Handing in…" : "Hand in"}
            </Button>
          }
        >
          <span>
            <b>{real.length}</b> {real.length === 1 ? "line" : "lines"}
          </span>
          <span>
            about <b className="figure">{w.amount(estimated)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

const wrongMoney = (text: string, currency: string) => {
  if (text === "") return undefined;
  const parsed = parseMoney(text, currency);
  return parsed.ok ? undefined : parsed.says;
};

/** What an item costs is known, or will be once it was kept: only then need nobody estimate it. */
const costKnown = (sheet: RequisitionSheet, line: Line) =>
  sheet.lines.find((l) => l.item === line.item)?.costKnown ?? true;

function aboutOf(sheet: RequisitionSheet, line: Line, money: (minor: number) => string): string {
  const known = sheet.lines.find(
    (l) => l.item === line.item && l.quantity !== null && quantityText(l.quantity) === line.quantity,
  );
  return known?.about == null ? "–" : money(known.about);
}

function differences(theirs: Draft, mine: Draft, stores: { id: number; name: string }[]) {
  const store = (id: number) => stores.find((s) => s.id === id)?.name ?? "";
  const line = (l: Line | undefined) => (l ? `${l.text} ${l.quantity} ${l.unit}`.trim() : "none");
  const mineLines = mine.lines.filter((l) => !isBlank(l));
  const pairs = [
    { what: "Store", theirs: store(theirs.store), mine: store(mine.store) },
    { what: "Needed by", theirs: theirs.neededBy, mine: mine.neededBy },
    { what: "What for", theirs: theirs.reason, mine: mine.reason },
    ...Array.from({ length: Math.max(theirs.lines.length, mineLines.length) }, (_, i) => ({
      what: `Line ${i + 1}`,
      theirs: line(theirs.lines[i]),
      mine: line(mineLines[i]),
    })),
  ];
  return pairs.filter((p) => p.theirs !== p.mine);
}
