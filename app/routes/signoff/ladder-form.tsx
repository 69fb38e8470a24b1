import type { RuleFault } from "../../../core/signoff/faults";
import { type Ladder, type Rung, SIGNED_KINDS, SIGNED_PAPERS } from "../../../core/signoff/rulebook";
import type { RuleChoices } from "../../../server/queries/signoff/choices";
import { Button } from "../../ui/button";
import { TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { Amount, Hours, Many } from "./rule-fields";
import { KINDS, PAPER_WORDS, signerFrom, signerKey, signerOptions } from "./rule-words";

const NOBODY = { value: "", label: "nobody" };

/** One ladder as it is written: every change is drawn at once, and kept. */
export function LadderForm({
  ladder: l,
  first,
  last,
  faults,
  choices,
  onChange,
  onMove,
  onDrop,
}: {
  ladder: Ladder;
  first: boolean;
  last: boolean;
  faults: readonly RuleFault[];
  choices: RuleChoices;
  onChange: (next: Ladder) => void;
  onMove: (by: number) => void;
  onDrop: () => void;
}) {
  const signers = signerOptions(choices);
  const set = (change: Partial<Ladder>) => onChange({ ...l, ...change });
  const setRung = (at: number, change: Partial<Rung>) =>
    set({ rungs: l.rungs.map((r, i) => (i === at ? { ...r, ...change } : r)) });
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap gap-2">
        <Button disabled={first} onClick={() => onMove(-1)}>
          Earlier
        </Button>
        <Button disabled={last} onClick={() => onMove(1)}>
          Later
        </Button>
        <Button onClick={onDrop}>Take it away</Button>
      </div>
      {faults
        .filter((f) => f.rung === null)
        .map((f) => (
          <p key={f.says} className="font-semibold text-signal">
            {f.says}
          </p>
        ))}
      <TextField label="Name" value={l.name} maxLength={60} onChange={(e) => set({ name: e.target.value })} />
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">For</legend>
        <div className="flex flex-wrap gap-x-3 gap-y-1">
          {SIGNED_PAPERS.map((p) => (
            <label key={p} className="flex min-h-6 items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={l.papers.includes(p)}
                onChange={(e) =>
                  set({ papers: SIGNED_PAPERS.filter((x) => (x === p ? e.target.checked : l.papers.includes(x))) })
                }
              />
              {PAPER_WORDS[p].toLowerCase()}
            </label>
          ))}
        </div>
      </fieldset>
      <SlipPart title="Rungs, from the lowest">
        <ol className="flex flex-col gap-2">
          {l.rungs.map((r, i) => (
            <RungFields
              key={i}
              rung={r}
              number={i + 1}
              problem={faults.find((f) => f.rung === i)?.says}
              signers={signers}
              onChange={(change) => setRung(i, change)}
              onDrop={() => set({ rungs: l.rungs.filter((_, j) => j !== i) })}
            />
          ))}
        </ol>
        <Button className="mt-2" disabled={l.rungs.length >= 12} onClick={() => set({ rungs: withRung(l.rungs) })}>
          Add a rung
        </Button>
      </SlipPart>
      <SelectField
        label="Who of them signs"
        value={l.needs}
        onChange={(e) => set({ needs: e.target.value as Ladder["needs"] })} // one of the options
        options={[
          { value: "every rung", label: "every rung up to the amount" },
          { value: "one rung", label: "only the one with authority" },
        ]}
      />
      <Amount
        label="A person may sign of their own, up to"
        minor={l.own === 0 ? null : l.own}
        placeholder="nothing"
        onChange={(own) => set({ own: own ?? 0 })}
      />
      <OverBudget ladder={l} signers={signers} set={set} />
      <NarrowedTo ladder={l} choices={choices} set={set} />
    </div>
  );
}

function NarrowedTo({
  ladder: l,
  choices,
  set,
}: {
  ladder: Ladder;
  choices: Parameters<typeof LadderForm>[0]["choices"];
  set: (change: Partial<Ladder>) => void;
}) {
  return (
    <SlipPart title="Narrowed to">
      <div className="flex flex-col gap-2">
        <Many
          label="Departments"
          options={choices.departments.map((d) => ({ value: String(d.id), label: d.name }))}
          chosen={l.departments.map(String)}
          onChange={(v) => set({ departments: v.map(Number) })}
        />
        <Many
          label="Categories"
          options={choices.categories.map((c) => ({ value: c, label: c }))}
          chosen={l.categories}
          onChange={(categories) => set({ categories })}
        />
        <Many
          label="Suppliers"
          options={choices.suppliers.map((d) => ({ value: String(d.id), label: d.name }))}
          chosen={l.suppliers.map(String)}
          onChange={(v) => set({ suppliers: v.map(Number) })}
        />
        <Many
          label="Stores"
          options={choices.stores.map((d) => ({ value: String(d.id), label: d.name }))}
          chosen={l.stores.map(String)}
          onChange={(v) => set({ stores: v.map(Number) })}
        />
        <Many
          label="Kinds of orders"
          options={SIGNED_KINDS.map((k) => ({ value: k, label: KINDS[k] }))}
          chosen={l.kinds}
          onChange={(v) => set({ kinds: SIGNED_KINDS.filter((k) => v.includes(k)) })}
        />
      </div>
    </SlipPart>
  );
}

function OverBudget({
  ladder: l,
  signers,
  set,
}: {
  ladder: Ladder;
  signers: { value: string; label: string }[];
  set: (change: Partial<Ladder>) => void;
}) {
  const over = typeof l.overBudget === "object" ? l.overBudget : null;
  return (
    <>
      <SelectField
        label="Over its budget"
        value={over ? signerKey(over.who) : String(l.overBudget)}
        onChange={(e) => {
          const who = signerFrom(e.target.value);
          set({
            overBudget: who
              ? { who, hours: over?.hours ?? 8, climbsTo: over?.climbsTo ?? null }
              : (e.target.value as "nothing" | "block"), // the options that name nobody
          });
        }}
        options={[
          { value: "nothing", label: "makes no difference" },
          { value: "block", label: "is not let through" },
          ...signers.map((s) => ({ ...s, label: `${s.label} signs, too` })),
        ]}
      />
      {over && (
        <div className="grid grid-cols-[80px_minmax(0,1fr)] gap-2">
          <Hours hours={over.hours} onChange={(hours) => set({ overBudget: { ...over, hours } })} />
          <SelectField
            label="Then it climbs to"
            value={signerKey(over.climbsTo)}
            onChange={(e) => set({ overBudget: { ...over, climbsTo: signerFrom(e.target.value) } })}
            options={[NOBODY, ...signers]}
          />
        </div>
      )}
    </>
  );
}

/** A rung more at the top: what was above gets a limit, so that neither is out of reach. */
function withRung(rungs: readonly Rung[]): Rung[] {
  const last = rungs.at(-1);
  const above: Rung = { upTo: null, who: { kind: "manager" }, hours: 8, climbsTo: null };
  if (!last || last.upTo !== null) return [...rungs, above];
  const below = rungs.at(-2)?.upTo ?? 100_000;
  return [...rungs.slice(0, -1), { ...last, upTo: below * 5 }, { ...above, who: last.who }];
}

function RungFields({
  rung: r,
  number,
  problem,
  signers,
  onChange,
  onDrop,
}: {
  rung: Rung;
  number: number;
  problem: string | undefined;
  signers: { value: string; label: string }[];
  onChange: (change: Partial<Rung>) => void;
  onDrop: () => void;
}) {
  return (
    <li className="border border-rule bg-sheet px-2.5 py-2">
      <fieldset className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)] gap-2">
        <legend className="sr-only">Rung {number}</legend>
        <Amount
          label="Up to"
          minor={r.upTo}
          placeholder="and above"
          onChange={(upTo) => onChange({ upTo })}
          problem={problem}
        />
        <SelectField
          label="Signs"
          value={signerKey(r.who)}
          onChange={(e) => onChange({ who: signerFrom(e.target.value) })}
          options={[NOBODY, ...signers]}
        />
        {r.who && (
          <>
            <Hours hours={r.hours} onChange={(hours) => onChange({ hours })} />
            <SelectField
              label="Then it climbs to"
              value={signerKey(r.climbsTo)}
              onChange={(e) => onChange({ climbsTo: signerFrom(e.target.value) })}
              options={[NOBODY, ...signers]}
            />
          </>
        )}
      </fieldset>
      <button
        type="button"
        className="mt-1 min-h-6 text-xs underline"
        aria-label={`Take away rung ${number}`}
        onClick={onDrop}
      >
        Take away
      </button>
    </li>
  );
}
