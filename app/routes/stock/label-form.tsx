import { useState } from "react";
import { useSubmit } from "react-router";
import { CODE_KINDS, LABEL_FIELD_WORDS, LABEL_FIELDS, LABEL_KINDS, type LabelLayout } from "../../../core/stock/label";
import { PaperView } from "../../parts/paper-view";
import { SlipForm } from "../../parts/slip-form";
import { usePreview } from "../../parts/use-preview";
import { Button } from "../../ui/button";
import { Problems, TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import type { LabelWord } from "./label-acts";
import { type LabelTexts, labelTexts, movedField, sentLabel } from "./label-texts";

export const KIND_NAMES: Record<LabelLayout["kind"], string> = {
  item: "an item",
  lot: "goods of a lot",
  bin: "a bin",
  load: "a load",
};
const SHEET_FIELDS = [
  ["width", "Sheet wide"],
  ["height", "Sheet high"],
  ["columns", "Across"],
  ["rows", "Down"],
  ["left", "From the left"],
  ["top", "From the top"],
  ["gapX", "Gap across"],
  ["gapY", "Gap down"],
] as const;

/** One layout as it is typed, with a picture of how it prints beside each key. */
export function LabelForm({
  id,
  version,
  name: kept,
  layout,
}: {
  id: number | null;
  version: number;
  name: string;
  layout: LabelLayout;
}) {
  const [name, setName] = useState(kept);
  const [texts, setTexts] = useState(() => labelTexts(layout));
  const sent = sentLabel(texts);
  const { pdf, problems, leftOut } = usePreview("/labels/preview", sent);
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(JSON.stringify([name, sent]));
  const set = (part: Partial<LabelTexts>) => setTexts({ ...texts, ...part });
  const keep = () =>
    void submit(
      { do: "keep" satisfies LabelWord, layout: id ?? "", version, name, ...sent, key: key() },
      { method: "post", encType: "application/json" },
    );
  return (
    <>
      <PaperView pdf={pdf} label="A label in this layout, as it prints" />
      <Problems problems={problems} only={() => true} />
      {leftOut.length > 0 && (
        <p className="font-semibold text-signal">
          No room for:{" "}
          {LABEL_FIELDS.filter((f) => leftOut.includes(f))
            .map((f) => LABEL_FIELD_WORDS[f])
            .join(", ")}
          .
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        <TextField
          className="col-span-2"
          label="Name"
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
        />
        <SelectField
          label="For"
          value={texts.kind}
          onChange={(e) => set({ kind: e.target.value })}
          options={LABEL_KINDS.map((k) => ({ value: k, label: KIND_NAMES[k] }))}
        />
        <SelectField
          label="Scanned"
          value={texts.code}
          onChange={(e) => set({ code: e.target.value })}
          options={CODE_KINDS.map((k) => ({ value: k, label: k }))}
        />
        <UnitField label="Wide" unit="mm" value={texts.width} onChange={(e) => set({ width: e.target.value })} />
        <UnitField label="High" unit="mm" value={texts.height} onChange={(e) => set({ height: e.target.value })} />
      </div>
      <SlipPart title="What stands on it, from the top">
        <FieldList texts={texts} onTexts={setTexts} />
      </SlipPart>
      <label className="flex gap-2">
        <input
          type="checkbox"
          checked={!texts.roll}
          onChange={(e) => set({ roll: !e.target.checked })}
          className="accent-harbour"
        />
        on sheets; else on a roll
      </label>
      {!texts.roll && (
        <div className="grid grid-cols-2 gap-2">
          {SHEET_FIELDS.map(([field, label]) => (
            <UnitField
              key={field}
              label={label}
              unit={field === "columns" || field === "rows" ? "" : "mm"}
              value={texts.sheet[field]}
              onChange={(e) => set({ sheet: { ...texts.sheet, [field]: e.target.value } })}
            />
          ))}
        </div>
      )}
      <Button look="main" disabled={busy || name.trim().length < 2 || problems.length > 0} onClick={keep}>
        {id === null ? "Make the layout" : "Keep the layout"}
      </Button>
      {id !== null && (
        <SlipForm<LabelWord> does="drop" fields={{ layout: id }} label="Take this layout away" send="Take it away">
          <p>Labels that are printed stay as they are.</p>
        </SlipForm>
      )}
    </>
  );
}

/** The fields of a label: which, how large, and in which order. */
function FieldList({ texts, onTexts }: { texts: LabelTexts; onTexts: (t: LabelTexts) => void }) {
  const put = (index: number, part: Partial<LabelTexts["fields"][number]>) =>
    onTexts({ ...texts, fields: texts.fields.map((f, i) => (i === index ? { ...f, ...part } : f)) });
  return (
    <ul className="border border-rule bg-sheet">
      {texts.fields.map((f, i) => {
        const word = LABEL_FIELD_WORDS[f.field];
        return (
          <li key={f.field} className="flex items-center gap-2 border-b border-rule-2 px-2 py-0.5 last:border-0">
            <label className="flex min-w-0 flex-1 items-center gap-2">
              <input
                type="checkbox"
                checked={f.on}
                onChange={(e) => put(i, { on: e.target.checked })}
                className="accent-harbour"
              />
              <span className={f.on ? "" : "text-ink-3"}>{word}</span>
            </label>
            {f.on && (
              <>
                <input
                  aria-label={`Points of ${word}`}
                  inputMode="numeric"
                  maxLength={2}
                  value={f.size}
                  onChange={(e) => put(i, { size: e.target.value })}
                  className="entry w-11 text-right font-mono"
                />
                <label className="flex items-center gap-1 text-xs">
                  <input
                    type="checkbox"
                    aria-label={`${word} is bold`}
                    checked={f.bold}
                    onChange={(e) => put(i, { bold: e.target.checked })}
                    className="accent-harbour"
                  />
                  bold
                </label>
                <button
                  type="button"
                  className="min-h-6 px-1.5"
                  aria-label={`${word} further up`}
                  disabled={i === 0}
                  onClick={() => onTexts(movedField(texts, i, -1))}
                >
                  ↑
                </button>
                <button
                  type="button"
                  className="min-h-6 px-1.5"
                  aria-label={`${word} further down`}
                  onClick={() => onTexts(movedField(texts, i, 1))}
                >
                  ↓
                </button>
              </>
            )}
          </li>
        );
      })}
    </ul>
  );
}
