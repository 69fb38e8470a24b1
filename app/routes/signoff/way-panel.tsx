import type { Facts, Rules, SignedPaper } from "../../../core/signoff/rulebook";
import { SIGNED_KINDS, SIGNED_PAPERS } from "../../../core/signoff/rulebook";
import type { People } from "../../../core/signoff/way";
import { wayFor } from "../../../core/signoff/way";
import { count } from "../../../core/text";
import type { RuleChoices } from "../../../server/queries/signoff/choices";
import { SelectField } from "../../ui/form";
import { SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { brief, KINDS, PAPER_WORDS } from "./rule-words";
import type { Scale } from "./scale";

const ALL = { value: "", label: "any" };

export interface Asked {
  facts: Facts;
  writer: number;
}

/** A paper that somebody thinks of: which ladder takes it, and who would sign. */
export function WayPanel({
  rules,
  people,
  choices,
  scale,
  asked,
  onAsk,
}: {
  rules: Rules;
  people: People;
  choices: RuleChoices;
  scale: Scale;
  asked: Asked;
  onAsk: (next: Asked) => void;
}) {
  const w = useWriting();
  const { facts } = asked;
  const way = wayFor(rules, facts, asked.writer, people, w.home);
  const set = (change: Partial<Facts>) => onAsk({ ...asked, facts: { ...facts, ...change } });
  const ids = (list: readonly { id: number; name: string }[]) => [
    ALL,
    ...list.map((x) => ({ value: String(x.id), label: x.name })),
  ];
  const hours = way.ok ? way.seats.reduce((a, s) => a + s.hours, 0) : 0;
  return (
    <section aria-label="Who would sign" className="flex flex-col gap-3">
      <SlipHead
        over="who would sign"
        title={`${brief(w.amount(facts.amount))}, ${PAPER_WORDS[facts.paper].toLowerCase()}`}
      />
      <input
        type="range"
        aria-label="Amount"
        aria-valuetext={w.amount(facts.amount)}
        min={0}
        max={1000}
        value={Math.round(scale.at(facts.amount) * 1000)}
        onChange={(e) => set({ amount: scale.minorAt(Number(e.target.value) / 1000) })}
        className="w-full accent-ink"
      />
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="Paper"
          value={facts.paper}
          onChange={(e) => set({ paper: e.target.value as SignedPaper })} // one of the options
          options={SIGNED_PAPERS.map((p) => ({ value: p, label: PAPER_WORDS[p].toLowerCase() }))}
        />
        <SelectField
          label="Written by"
          value={asked.writer || ""}
          onChange={(e) => {
            const writer = Number(e.target.value);
            const of = choices.people.find((p) => p.id === writer);
            onAsk({ writer, facts: { ...facts, department: of?.department ?? facts.department } });
          }}
          options={[{ value: "", label: "anybody" }, ...ids(choices.people).slice(1)]}
        />
        <SelectField
          label="Department"
          value={facts.department ?? ""}
          onChange={(e) => set({ department: Number(e.target.value) || null })}
          options={ids(choices.departments)}
        />
        <SelectField
          label="Category"
          value={facts.categories[0] ?? ""}
          onChange={(e) => set({ categories: e.target.value ? [e.target.value] : [] })}
          options={[ALL, ...choices.categories.map((c) => ({ value: c, label: c }))]}
        />
        <SelectField
          label="Supplier"
          value={facts.supplier ?? ""}
          onChange={(e) => set({ supplier: Number(e.target.value) || null })}
          options={ids(choices.suppliers)}
        />
        <SelectField
          label="Store"
          value={facts.store ?? ""}
          onChange={(e) => set({ store: Number(e.target.value) || null })}
          options={ids(choices.stores)}
        />
        <SelectField
          label="Kind of order"
          value={facts.kind ?? ""}
          onChange={(e) => set({ kind: SIGNED_KINDS.find((k) => k === e.target.value) ?? null })}
          options={[ALL, ...SIGNED_KINDS.map((k) => ({ value: k, label: KINDS[k] }))]}
        />
        <label className="flex min-h-6 items-center gap-2 pt-4">
          <input
            type="checkbox"
            className="accent-harbour"
            checked={facts.overBudget}
            onChange={(e) => set({ overBudget: e.target.checked })}
          />
          over its budget
        </label>
      </div>
      <div aria-live="polite">
        {way.ok ? (
          <>
            <SumSheet sum={way.sum} />
            <p className="mt-1.5 font-semibold">
              {way.seats.length === 0
                ? "Nobody has to sign."
                : `${count(way.seats.length, "signature")}, ${hours} working hours at most`}
            </p>
          </>
        ) : (
          <p className="font-semibold text-signal">{way.says}</p>
        )}
      </div>
    </section>
  );
}
