import { useEffect } from "react";
import { useSubmit } from "react-router";
import { BEARS, FIRST, SETTLES, SETTLES_WORDS } from "../../../core/consigned/agreement";
import type { AgreementHead, AgreementItem } from "../../../server/queries/consigned/agreement";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Field, problemAt, TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import type { AgreementWord } from "./agreement-acts";
import { type DraftText, draftText, newItem, sentDraft } from "./agreement-draft";
import { AgreementItems } from "./agreement-items";

/** What is sent: plain values of JSON. */
const body = (d: DraftText) => {
  const { items, ...terms } = sentDraft(d);
  return { ...terms, items: items.map((i) => ({ ...i, prices: i.prices.map((p) => ({ ...p })) })) };
};

/** A draft as it is typed: kept on this device until it is kept in the house, whatever happens to the page. */
export function useAgreementDraft(
  a: AgreementHead,
  items: readonly AgreementItem[],
  answer: { ok: true } | { ok: false; problems: { field: string; says: string }[] } | undefined,
) {
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(a);
  const kept = useLocalDraft<DraftText>(`wharf.agreement.${a.id}`, a.version);
  const text = kept.draft ?? draftText(a, items);
  const { put } = kept;
  // What is kept in the house need not be kept here: its next version has it.
  useEffect(() => {
    if (answer?.ok) put(null);
  }, [answer, put]);
  return {
    text,
    put,
    changed: kept.draft !== null,
    busy,
    problems: answer && !answer.ok ? answer.problems : undefined,
    keep: () =>
      void submit(
        { do: "keep" satisfies AgreementWord, agreement: a.id, version: a.version, ...body(text), key: `${key()}keep` },
        { method: "post", encType: "application/json" },
      ),
  };
}

/** The terms and items of a draft. */
export function AgreementForm({ draft, currency }: { draft: ReturnType<typeof useAgreementDraft>; currency: string }) {
  const { text: d, put, problems } = draft;
  const set = (part: Partial<DraftText>) => put({ ...d, ...part });
  const at = (field: string) => problemAt(problems, field);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (!draft.busy) draft.keep();
      }}
    >
      <div className="grid grid-cols-3 gap-x-4 gap-y-2 px-4.5 pb-3 max-md:grid-cols-1">
        <Field label="Holds from" problem={at("starts")}>
          {(a) => <DayEntry {...a} value={d.starts} onDay={(starts) => set({ starts })} />}
        </Field>
        <Field label="Until" problem={at("ends")}>
          {(a) => <DayEntry {...a} value={d.ends} onDay={(ends) => set({ ends })} />}
        </Field>
        <UnitField
          label="Becomes ours after, or empty at use alone"
          unit="days"
          value={d.oursAfter}
          problem={at("oursAfter")}
          onChange={(e) => set({ oursAfter: e.target.value })}
          inputMode="numeric"
          maxLength={5}
        />
        <SelectField
          label="Whose goods are used first"
          value={d.first}
          problem={at("first")}
          onChange={(e) => set({ first: e.target.value })}
          options={FIRST.map((f) => ({ value: f, label: f === "theirs" ? "theirs, then ours" : "ours, then theirs" }))}
        />
        <SelectField
          label="Settled"
          value={d.settles}
          problem={at("settles")}
          onChange={(e) => set({ settles: e.target.value })}
          options={SETTLES.map((s) => ({ value: s, label: SETTLES_WORDS[s] }))}
        />
        <SelectField
          label="Who bears what is lost"
          value={d.bears}
          problem={at("bears")}
          onChange={(e) => set({ bears: e.target.value })}
          options={BEARS.map((b) => ({ value: b, label: b === "us" ? "we pay for it" : "the supplier" }))}
        />
        <SelectField
          label="Kept for their goods alone"
          value={d.place}
          problem={at("place")}
          onChange={(e) => set({ place: e.target.value })}
          options={[
            { value: "", label: "no place" },
            { value: "bins", label: "a range of bins" },
            { value: "store", label: "the whole store" },
          ]}
        />
        {d.place === "bins" && (
          <>
            <TextField
              label="From bin"
              value={d.binsFrom}
              problem={at("binsFrom")}
              onChange={(e) => set({ binsFrom: e.target.value })}
              maxLength={20}
            />
            <TextField
              label="To bin, or empty for all after it"
              value={d.binsTo}
              problem={at("binsTo")}
              onChange={(e) => set({ binsTo: e.target.value })}
              maxLength={20}
            />
          </>
        )}
        <Field label="Note on the paper" problem={at("note")} className="col-span-full">
          {(a) => (
            <textarea
              {...a}
              className="entry w-full"
              rows={2}
              value={d.note}
              maxLength={2000}
              onChange={(e) => set({ note: e.target.value })}
            />
          )}
        </Field>
      </div>
      <AgreementItems draft={draft} currency={currency} />
      <div className="flex items-center gap-3 px-4.5 py-3">
        <Button onClick={() => put({ ...d, items: [...d.items, newItem(d)] })}>Another item</Button>
        <Button type="submit" look="main" disabled={draft.busy || !draft.changed}>
          Keep the draft
        </Button>
        <span role="status" className="text-xs text-ink-2">
          {draft.busy ? "keeping…" : draft.changed ? "Typed, and kept on this device." : "Kept."}
        </span>
        {at("items") && <b className="text-xs text-signal">{at("items")}</b>}
      </div>
    </form>
  );
}
