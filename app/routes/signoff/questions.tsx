import type { SigningView } from "../../../server/queries/signoff/signings";
import { SlipForm } from "../../parts/slip-form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { SigningWord } from "./acts";
import type { WaitingPaper } from "./sign-acts";

/** What was asked about a paper and answered; its writer answers here. */
export function Questions({
  questions,
  answers,
}: {
  questions: SigningView["questions"];
  /** The paper, for its writer; null for whoever only reads. */
  answers: WaitingPaper | null;
}) {
  const w = useWriting();
  if (questions.length === 0) return null;
  return (
    <SlipPart title="Asked about it">
      <ul className="border border-rule bg-sheet">
        {questions.map((q, i) => (
          <li key={q.id} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
            <p className="text-xs text-ink-3">
              {q.person}, {w.moment(q.at)}
            </p>
            <p>{q.text}</p>
            {q.answer !== null ? (
              <p className="mt-1 border-l-2 border-ink pl-2">
                {q.answer} <span className="text-xs text-ink-3">{q.answered && w.moment(q.answered)}</span>
              </p>
            ) : answers ? (
              <SlipForm<SigningWord> does="answer" fields={{ ...answers, question: i }} label="Answer…" send="Answer">
                <textarea
                  name="text"
                  aria-label={`Answer to: ${q.text}`}
                  rows={2}
                  maxLength={1000}
                  className="entry w-full"
                />
              </SlipForm>
            ) : (
              <p className="text-xs font-semibold text-signal">not answered yet</p>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}
