import { useState } from "react";
import { useLoaderData, useSearchParams } from "react-router";
import { KIND_WORDS } from "../../../core/orders/kinds";
import { LANGUAGE_CODES, LANGUAGES, PAPER_KINDS } from "../../../core/orders/papers";
import { paperValues } from "../../../exchange/pdf/order-document";
import { languageOf, usualTexts } from "../../../exchange/pdf/paper-words";
import { supplierChoices } from "../../../server/queries/choices";
import { theCompany } from "../../../server/queries/company";
import { exampleDocument } from "../../../server/queries/papers/example";
import { logoNow, ownTexts, readLayout, readStandingTexts, readTexts } from "../../../server/queries/papers/templates";
import { PaperView } from "../../parts/paper-view";
import { usePreview } from "../../parts/use-preview";
import { Cuts, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { withParts } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { LetterPreview } from "./letter-preview";
import { Letterhead } from "./letterhead";
import { paperActs } from "./paper-acts";
import { PaperForm } from "./paper-form";
import { StandingTexts } from "./standing-texts";

export const loader = page("keep papers", ({ db, url, day }) => {
  const kind = PAPER_KINDS.find((k) => k === url.searchParams.get("kind")) ?? "one-off";
  const usual = languageOf(theCompany(db).locale);
  const language = LANGUAGE_CODES.find((l) => l === url.searchParams.get("language")) ?? usual;
  const texts = readTexts(db, kind, language);
  const layout = readLayout(db, kind);
  const example = exampleDocument(db, kind, language, { ...layout, ...texts }, day);
  return {
    kind,
    language,
    usual,
    kept: { ...layout, ...texts },
    usualTexts: usualTexts(kind, language),
    own: ownTexts(db),
    values: example && paperValues(example, "https://…/order/…"),
    shownWith: example?.number ?? null,
    logo: logoNow(db),
    standing: readStandingTexts(db),
    suppliers: supplierChoices(db),
  };
});

export const action = actions("keep papers", paperActs);

const titleOf = (words: string) => words[0]!.toUpperCase() + words.slice(1);

/** What leaves the house on paper and by e-mail: letterhead, columns, and texts by kind and language, shown as they print. */
export default function Papers() {
  const { kind, language, usual, kept, usualTexts, own, values, shownWith, logo, standing, suppliers } =
    useLoaderData<typeof loader>();
  const [, setSearch] = useSearchParams();
  const [typed, setTyped] = useState(kept);
  const [shown, setShown] = useState<"paper" | "mail">("paper");
  const key = `${kind} ${language}`;
  const [of, setOf] = useState(key);
  if (of !== key) {
    setOf(key);
    setTyped(kept);
  }
  const { pdf, problems, busy } = usePreview("/papers/preview", { kind, language, ...typed, logo });
  const go = (part: Record<string, string>) =>
    setSearch(withParts({ kind, language, ...part }), { replace: true, preventScrollReset: true });
  return (
    <SheetAndSlip
      sheet={
        <div className="flex min-h-0 flex-1 flex-col">
          <SheetHead title="Papers and letters" sub="what leaves the house, by kind and language" />
          <div className="grid min-h-0 flex-1 grid-cols-[minmax(380px,460px)_minmax(0,1fr)] border-t-2 border-ink max-lg:grid-cols-1">
            <div className="min-h-0 overflow-y-auto border-r border-rule pb-8 max-lg:border-0">
              <div className="flex flex-col gap-2 px-4.5 pt-3">
                <Cuts
                  label="Kind of paper"
                  value={kind}
                  onChange={(k) => go({ kind: k })}
                  options={PAPER_KINDS.map((k) => ({ value: k, label: titleOf(KIND_WORDS[k]) }))}
                />
                <Cuts
                  label="Language"
                  value={language}
                  onChange={(l) => go({ language: l })}
                  options={LANGUAGE_CODES.map((l) => ({
                    value: l,
                    label: `${LANGUAGES[l]}${l === usual ? ", ours" : ""}${own.some((o) => o.kind === kind && o.language === l) ? " ·" : ""}`,
                  }))}
                />
              </div>
              <PaperForm
                key={key}
                kind={kind}
                language={language}
                kept={kept}
                usual={usualTexts}
                problems={problems}
                shown={shown}
                onType={setTyped}
              />
              <Letterhead logo={logo} />
              <StandingTexts texts={standing} suppliers={suppliers} />
            </div>
            <section aria-label="How it looks" className="min-h-0 overflow-y-auto bg-paper px-6 py-3">
              <div className="mb-2 flex items-center gap-3">
                <Cuts
                  label="Show"
                  value={shown}
                  onChange={setShown}
                  options={[
                    { value: "paper", label: "The paper" },
                    { value: "mail", label: "The e-mail" },
                  ]}
                />
                <span className="text-xs text-ink-3" aria-live="polite">
                  {busy ? "drawing…" : shownWith ? `with ${shownWith} as it stands` : ""}
                </span>
              </div>
              {problems.find((p) => p.field === "") && (
                <p className="py-6 text-ink-2">{problems.find((p) => p.field === "")!.says}</p>
              )}
              <div className={shown === "paper" ? "" : "hidden"}>
                <PaperView pdf={pdf} label="The paper as it prints" />
              </div>
              {shown === "mail" && values && <LetterPreview letter={typed} values={values} />}
            </section>
          </div>
        </div>
      }
      tally={
        <TallyLine>
          <span>Papers that left the house stay as they were; drafts follow what is kept here.</span>
        </TallyLine>
      }
    />
  );
}
