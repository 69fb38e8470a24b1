import { useEffect, useState } from "react";
import {
  type Language,
  PAPER_COLUMN_NAMES,
  PAPER_COLUMNS,
  PAPER_TEXTS,
  type PaperKind,
  type PaperLayout,
  type PaperTexts,
  PLACEHOLDERS,
} from "../../../core/orders/papers";
import type { PreviewProblem } from "../../parts/use-preview";
import { Button } from "../../ui/button";
import { Field, problemAt } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import type { PaperWord } from "./paper-acts";

type Paper = PaperLayout & PaperTexts;

const TEXTS: Record<(typeof PAPER_TEXTS)[number], { label: string; rows: number; most: number }> = {
  above: { label: "Above the lines", rows: 2, most: 1000 },
  below: { label: "Below the totals", rows: 2, most: 2000 },
  foot: { label: "At the foot of each page", rows: 2, most: 300 },
  subject: { label: "Subject of the e-mail", rows: 1, most: 150 },
  message: { label: "Text of the e-mail", rows: 12, most: 4000 },
};

/** What was typed and not kept yet, so that looking at another kind or language loses nothing. */
const unkept = new Map<string, Paper>();

/** How one kind of paper looks, and its texts in one language. */
export function PaperForm({
  kind,
  language,
  kept,
  usual,
  problems,
  shown,
  onType,
}: {
  kind: PaperKind;
  language: Language;
  kept: Paper;
  usual: PaperTexts;
  /** Of the preview, which looks at what is typed before it is kept. */
  problems: readonly PreviewProblem[];
  /** Only the fields of what is looked at are shown; all are kept. */
  shown: "paper" | "mail";
  onType: (paper: Paper) => void;
}) {
  const key = `${kind} ${language}`;
  const [paper, setPaper] = useState(kept);
  const changed = JSON.stringify(paper) !== JSON.stringify(kept);
  useEffect(() => {
    const before = unkept.get(key);
    if (before) setPaper(before);
  }, [key]);
  useEffect(() => {
    if (changed) unkept.set(key, paper);
    else unkept.delete(key);
    onType(paper);
  }, [key, paper, changed, onType]);
  const set = (part: Partial<Paper>) => setPaper((was) => ({ ...was, ...part }));
  return (
    <RecordForm<PaperWord>
      does="keep"
      fields={{ kind, language, prices: paper.prices ? "yes" : "no" }}
      send="Keep"
      saved="Kept: papers from now on look like this."
      className="flex flex-col gap-3 px-4.5 py-3"
    >
      {(at) => (
        <>
          <fieldset className={shown === "paper" ? "" : "hidden"}>
            <legend className="mb-1 text-xs font-semibold text-ink-2">Each line shows, in every language</legend>
            <div className="grid grid-cols-4 gap-x-3 gap-y-1">
              {PAPER_COLUMN_NAMES.map((c) => (
                <label key={c} className="flex min-h-6 items-center gap-1.5">
                  <input
                    type="checkbox"
                    name="columns[]"
                    value={c}
                    className="accent-harbour"
                    checked={paper.columns.includes(c)}
                    onChange={(e) =>
                      set({
                        columns: PAPER_COLUMN_NAMES.filter((o) =>
                          o === c ? e.target.checked : paper.columns.includes(o),
                        ),
                      })
                    }
                  />
                  {PAPER_COLUMNS[c]}
                </label>
              ))}
            </div>
            <label className="mt-1 flex min-h-6 items-center gap-1.5 font-semibold">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={paper.prices}
                onChange={(e) => set({ prices: e.target.checked })}
              />
              with prices and totals
            </label>
          </fieldset>
          {PAPER_TEXTS.map((name) => {
            const { label, rows, most } = TEXTS[name];
            return (
              <Field
                key={name}
                label={label}
                className={(name === "subject" || name === "message") === (shown === "mail") ? "" : "hidden"}
                problem={at(name) ?? problemAt(problems, name)}
              >
                {(a) => (
                  <textarea
                    {...a}
                    name={name}
                    rows={rows}
                    maxLength={most}
                    className="entry"
                    value={paper[name]}
                    onChange={(e) => set({ [name]: e.target.value })}
                  />
                )}
              </Field>
            );
          })}
          <details>
            <summary className="text-xs font-semibold text-ink-2">What may stand in braces</summary>
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-xs">
              {Object.entries(PLACEHOLDERS).map(([name, says]) => (
                <div key={name} className="contents">
                  <dt className="font-mono">{`{${name}}`}</dt>
                  <dd className="text-ink-2">{says}</dd>
                </div>
              ))}
            </dl>
            <p className="mt-1 text-xs text-ink-2">A line whose words in braces have nothing to say is left out.</p>
          </details>
          {changed && (
            <p className="text-xs">
              <b>Not kept yet.</b>{" "}
              <Button look="plain" className="min-h-6 py-0 text-xs font-normal" onClick={() => setPaper(kept)}>
                Go back to what is kept
              </Button>
            </p>
          )}
          {PAPER_TEXTS.some((t) => paper[t] !== usual[t]) && (
            <p className="text-xs">
              <Button look="plain" className="min-h-6 py-0 text-xs font-normal" onClick={() => set(usual)}>
                Take the usual texts
              </Button>
            </p>
          )}
        </>
      )}
    </RecordForm>
  );
}
