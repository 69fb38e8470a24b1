import { quantityText } from "../../../core/numbers/quantity";
import type { BillableLine } from "../../../server/queries/settling/ordered";
import { Button } from "../../ui/button";
import { CellEntry, problemAt, TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import type { BilledAsTyped, TypedOther } from "./entering";

type Problems = readonly { field: string; says: string }[] | undefined;

/** What may be billed, with quantity and price as expected: only differences are typed, an empty quantity is not billed. */
export function EnterLines({
  lines,
  typed,
  problems,
  onChange,
}: {
  lines: readonly BillableLine[];
  typed: readonly BilledAsTyped[];
  problems: Problems;
  onChange: (typed: BilledAsTyped[]) => void;
}) {
  const w = useWriting();
  const set = (line: number, some: Partial<BilledAsTyped>) =>
    onChange(typed.map((t) => (t.line === line ? { ...t, ...some } : t)));
  // A refusal names the place in what was sent.
  const sent = typed.filter((t) => t.quantity.trim() !== "");
  const says = (line: number, field: string) =>
    problemAt(problems, `lines.${sent.findIndex((t) => t.line === line)}.${field}`);
  return (
    <table className="w-full">
      <caption className="sr-only">Lines</caption>
      <Heads
        heads={[
          { label: "Line" },
          { label: "Order", width: "w-24", wide: true },
          { label: "Ordered", align: "right", width: "w-20", wide: true },
          { label: "Received", align: "right", width: "w-20", wide: true },
          { label: "Invoiced before", align: "right", width: "w-24", wide: true },
          { label: "They bill", align: "right", width: "w-28" },
          { label: `Price, ${lines[0]?.currency ?? ""}`, align: "right", width: "w-36" },
        ]}
      />
      <tbody>
        {lines.map((l) => {
          const t = typed.find((x) => x.line === l.line);
          return (
            <tr key={l.line} className="h-11 border-b border-rule-2">
              <td className="pl-4.5 leading-tight">
                {l.words}
                <span className="code block">{[l.code, l.unit].filter(Boolean).join(" · ")}</span>
              </td>
              <td className="code px-2 max-md:hidden">{l.orderNumber}</td>
              <td className="figure px-2 text-right max-md:hidden">{w.quantity(l.ordered)}</td>
              <td className="figure px-2 text-right max-md:hidden">
                {l.kind === "charge" ? "" : w.quantity(l.received)}
              </td>
              <td className="figure px-2 text-right max-md:hidden">{l.invoiced ? w.quantity(l.invoiced) : ""}</td>
              <td className="px-2 text-right">
                <CellEntry
                  label={`They bill of ${l.words}, ${l.orderNumber}, in ${l.unit}`}
                  value={t?.quantity ?? ""}
                  inputMode="decimal"
                  maxLength={20}
                  className="w-22"
                  problem={says(l.line, "quantity")}
                  placeholder={quantityText(0)}
                  onChange={(e) => set(l.line, { quantity: e.target.value })}
                />
              </td>
              <td className="px-2 pr-4.5 text-right">
                <CellEntry
                  label={`Their price of ${l.words}, ${l.orderNumber}`}
                  value={t?.price ?? ""}
                  inputMode="decimal"
                  maxLength={20}
                  className="w-28"
                  problem={says(l.line, "price")}
                  onChange={(e) => set(l.line, { price: e.target.value })}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What they bill that no order has: it goes to an account, and somebody who may sign so much accepts it. */
export function OtherLines({
  others,
  accounts,
  budgets,
  problems,
  onChange,
}: {
  others: readonly TypedOther[];
  accounts: readonly { code: string; name: string }[];
  budgets: readonly { id: number; code: string; name: string }[];
  problems: Problems;
  onChange: (others: TypedOther[]) => void;
}) {
  const set = (at: number, some: Partial<TypedOther>) =>
    onChange(others.map((o, i) => (i === at ? { ...o, ...some } : o)));
  return (
    <section className="px-4.5 pt-3" aria-label="On no order">
      {others.map((o, i) => (
        <div
          key={i}
          className="mb-2 grid grid-cols-2 items-end gap-3 md:grid-cols-[minmax(0,2fr)_minmax(0,1fr)_minmax(0,1fr)_5.5rem_4rem_auto]"
        >
          <TextField
            label="What it is"
            value={o.words}
            maxLength={200}
            problem={problemAt(problems, `others.${i}.words`)}
            onChange={(e) => set(i, { words: e.target.value })}
          />
          <SelectField
            label="Account"
            value={o.account}
            problem={problemAt(problems, `others.${i}.account`)}
            options={[
              { value: "", label: "choose" },
              ...accounts.map((a) => ({ value: a.code, label: `${a.code} ${a.name}` })),
            ]}
            onChange={(e) => set(i, { account: e.target.value })}
          />
          <SelectField
            label="Budget"
            value={o.budget}
            problem={problemAt(problems, `others.${i}.budget`)}
            options={[
              { value: "", label: "none" },
              ...budgets.map((b) => ({ value: String(b.id), label: `${b.code} ${b.name}` })),
            ]}
            onChange={(e) => set(i, { budget: e.target.value })}
          />
          <TextField
            label="Net"
            value={o.net}
            inputMode="decimal"
            maxLength={20}
            problem={problemAt(problems, `others.${i}.net`)}
            onChange={(e) => set(i, { net: e.target.value })}
          />
          <TextField
            label="Tax, %"
            value={o.taxRate}
            inputMode="decimal"
            maxLength={8}
            problem={problemAt(problems, `others.${i}.taxRate`)}
            onChange={(e) => set(i, { taxRate: e.target.value })}
          />
          <Button onClick={() => onChange(others.filter((_, x) => x !== i))}>Leave out</Button>
        </div>
      ))}
      <Button
        look="plain"
        className="min-h-0 px-0 text-xs font-normal"
        onClick={() => onChange([...others, { words: "", account: "", budget: "", net: "", taxRate: "20" }])}
      >
        They bill something that no order has
      </Button>
    </section>
  );
}
