import { fillPlaceholders, type PaperTexts, type Placeholder } from "../../../core/orders/papers";

/** The e-mail that brings an order, as its contacts read it. */
export function LetterPreview({
  letter,
  values,
}: {
  letter: Pick<PaperTexts, "subject" | "message">;
  values: Partial<Record<Placeholder, string>>;
}) {
  return (
    <article aria-label="The e-mail" className="border border-rule bg-sheet">
      <p className="border-b border-rule px-4 py-2.5 font-semibold">{fillPlaceholders(letter.subject, values)}</p>
      <p className="px-4 py-3 whitespace-pre-wrap">{fillPlaceholders(letter.message, values)}</p>
      <p className="border-t border-rule px-4 py-2 text-xs text-ink-3">
        with the order as PDF and as UBL, and its files
      </p>
    </article>
  );
}
