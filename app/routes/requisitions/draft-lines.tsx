import type { BudgetId } from "../../../core/ids";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { CellEntry, problemAt } from "../../ui/field";
import { Heads } from "../../ui/heads";
import { ItemEntry } from "../../ui/item-entry";
import { useWriting } from "../../ui/locale";
import { costKnown, isBlank, keptAbout, type RequisitionDraftLine, wrongMoney } from "./draft-values";
import type { WritingRequisition } from "./use-draft";

export interface LineChoices {
  accounts: { code: string; name: string }[];
  budgets: { id: BudgetId; code: string; name: string }[];
}

/** The lines of a requisition as they are typed; problems name them by their place among those that are not blank. */
export function RequisitionLines({
  sheet,
  writing,
  problems,
  choices,
}: {
  sheet: RequisitionSheet;
  writing: WritingRequisition;
  problems: readonly { field: string; says: string }[];
  choices: LineChoices;
}) {
  const w = useWriting();
  const { lines } = writing.draft;
  const real = lines.filter((l) => !isBlank(l));
  return (
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
        {lines.map((l, i) => (
          <DraftLineRow
            key={l.id}
            line={l}
            n={i + 1}
            sheet={sheet}
            choices={choices}
            fresh={writing.added === l.id}
            problem={(field) => problemAt(problems, `lines.${real.indexOf(l)}.${field}`)}
            set={(part) => writing.setLine(l.id, part)}
            onEnter={() => i === lines.length - 1 && writing.addLine()}
            onDrop={() => writing.dropLine(l.id)}
          />
        ))}
      </tbody>
    </table>
  );
}

function DraftLineRow({
  line: l,
  n,
  sheet,
  choices: { accounts, budgets },
  fresh,
  problem,
  set,
  onEnter,
  onDrop,
}: {
  line: RequisitionDraftLine;
  n: number;
  sheet: RequisitionSheet;
  choices: LineChoices;
  /** It was just added, and is typed in next. */
  fresh: boolean;
  problem: (field: string) => string | undefined;
  set: (part: Partial<RequisitionDraftLine>) => void;
  onEnter: () => void;
  onDrop: () => void;
}) {
  const w = useWriting();
  return (
    <tr className="border-b border-rule-2 align-top">
      <td className="py-2.5 pl-4.5 text-ink-3">{n}</td>
      <td className="px-2 py-1">
        <ItemEntry
          label={`Line ${n}: item or service`}
          text={l.text}
          autoFocus={fresh}
          invalid={problem("item") !== undefined || problem("words") !== undefined}
          onText={(text) => set({ text, item: null, unit: "" })}
          onItem={(f) => set({ item: f.id, text: f.name, unit: f.unit ?? "", estimate: "" })}
        />
        <WhatItIs line={l} n={n} problem={problem("item") ?? problem("words")} onKind={(kind) => set({ kind })} />
      </td>
      <td className="px-2 py-1 text-right">
        <CellEntry
          label={`Line ${n}: quantity`}
          value={l.quantity}
          problem={problem("quantity")}
          inputMode="decimal"
          maxLength={20}
          onChange={(e) => set({ quantity: e.target.value })}
          onKeyDown={(e) => {
            if (e.key === "Enter") onEnter();
          }}
          className="w-20"
        />
      </td>
      <td className="px-2 py-2.5 text-ink-2">{l.unit || (l.text && "each")}</td>
      <td className="px-2 py-1 text-right">
        {l.item && costKnown(sheet, l) && !problem("estimate") ? (
          <span className="figure inline-block py-1.5 text-ink-2">{keptAbout(sheet, l, w.money)}</span>
        ) : (
          <CellEntry
            label={`Line ${n}: about how much, in ${w.home}`}
            value={l.estimate}
            problem={problem("estimate") ?? wrongMoney(l.estimate, w.home)}
            inputMode="decimal"
            maxLength={30}
            onChange={(e) => set({ estimate: e.target.value })}
            className="w-24"
          />
        )}
      </td>
      <td className="px-2 py-1">
        <select
          aria-label={`Line ${n}: budget line`}
          className="entry w-full text-xs"
          value={l.budget}
          onChange={(e) => set({ budget: e.target.value })}
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
          aria-label={`Line ${n}: ledger account`}
          className="entry w-full text-xs"
          value={l.account}
          onChange={(e) => set({ account: e.target.value })}
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
        <button type="button" className="text-xs underline" onClick={onDrop} aria-label={`Take away line ${n}`}>
          Take away
        </button>
      </td>
    </tr>
  );
}

/** What a line asks for: an item of the stores', or something in the asker's own words. */
function WhatItIs({
  line: l,
  n,
  problem,
  onKind,
}: {
  line: RequisitionDraftLine;
  n: number;
  problem?: string;
  onKind: (kind: RequisitionDraftLine["kind"]) => void;
}) {
  const words = "mt-0.5 text-2xs text-ink-3";
  if (problem) return <p className={`${words} font-semibold text-signal`}>{problem}</p>;
  if (l.item) return <p className={words}>from the stores’ own items</p>;
  return (
    <p className={words}>
      {l.text && (
        <label className="inline-flex items-center gap-1.5">
          in your own words:
          <select
            aria-label={`Line ${n}: goods or service`}
            className="border-b border-ink-3 bg-transparent font-semibold"
            value={l.kind}
            onChange={(e) => onKind(e.target.value as RequisitionDraftLine["kind"])} // one of the options
          >
            <option value="service">a service</option>
            <option value="goods">goods without a code</option>
          </select>
        </label>
      )}
    </p>
  );
}
