import type { SupplierId } from "../../../core/ids";
import { KIND_WORDS } from "../../../core/orders/kinds";
import { LANGUAGE_CODES, LANGUAGES, PAPER_KINDS } from "../../../core/orders/papers";
import type { StandingText } from "../../../server/queries/papers/templates";
import { SlipForm } from "../../parts/slip-form";
import { Field } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import type { PaperWord } from "./paper-acts";

/** Texts that stand on orders by themselves: on all, on those of a kind, or on those to a supplier. */
export function StandingTexts({
  texts,
  suppliers,
}: {
  texts: readonly StandingText[];
  suppliers: readonly { id: SupplierId; name: string }[];
}) {
  return (
    <section aria-labelledby="standing" className="border-t border-rule px-4.5 py-3">
      <h2 id="standing" className="text-lg font-bold">
        Standing texts
      </h2>
      <p className="mb-2 text-xs text-ink-2">They stand on every order they are for, where a buyer may change them.</p>
      <ul className="mb-3 border-t border-rule">
        {texts.map((t) => (
          <li key={t.id} className="border-b border-rule-2 py-1.5">
            <p className="text-xs text-ink-3">
              {t.supplierName ?? "every supplier"}, {t.kind ? `each ${KIND_WORDS[t.kind]}` : "every kind"}
              {t.language && `, written to in ${LANGUAGES[t.language]}`}
            </p>
            <p className="whitespace-pre-wrap">{t.text}</p>
            <SlipForm<PaperWord> does="drop text" fields={{ id: t.id }} label="Take it away…" send="Take it away">
              <p className="text-xs text-ink-2">Drafts lose it; orders that were placed keep it.</p>
            </SlipForm>
          </li>
        ))}
      </ul>
      <RecordForm<PaperWord>
        key={texts.length}
        does="add text"
        send="Add the text"
        className="flex flex-col gap-3"
        saved="Added."
      >
        {(at) => (
          <>
            <Field label="A new text" problem={at("text")}>
              {(a) => <textarea {...a} name="text" rows={2} className="entry" maxLength={2000} />}
            </Field>
            <div className="grid grid-cols-3 gap-3">
              <SelectField
                label="On"
                name="kind"
                defaultValue=""
                problem={at("kind")}
                options={[
                  { value: "", label: "every kind" },
                  ...PAPER_KINDS.map((k) => ({ value: k, label: KIND_WORDS[k] })),
                ]}
              />
              <SelectField
                label="To"
                name="supplier"
                defaultValue=""
                problem={at("supplier")}
                options={[
                  { value: "", label: "every supplier" },
                  ...suppliers.map((s) => ({ value: s.id, label: s.name })),
                ]}
              />
              <SelectField
                label="Written to in"
                name="language"
                defaultValue=""
                problem={at("language")}
                options={[
                  { value: "", label: "every language" },
                  ...LANGUAGE_CODES.map((l) => ({ value: l, label: LANGUAGES[l] })),
                ]}
              />
            </div>
          </>
        )}
      </RecordForm>
    </section>
  );
}
