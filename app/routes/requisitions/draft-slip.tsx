import type { PersonId } from "../../../core/ids";
import type { Sum } from "../../../core/sums/sum";
import type { BudgetView } from "../../../server/queries/budgets/budgets";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { Attachments } from "../../parts/attachments";
import { Budgets } from "../../parts/budgets";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import type { WritingRequisition } from "./use-draft";

/** Who has to sign it, as far as kept, and why; or why it could not be handed in. */
export type NeededForIt = { who: string[]; sum: Sum } | { says: string } | null;

/** Beside a requisition that is written: who signs, who else is told, budgets, and files. */
export function RequisitionDraftSlip({
  sheet,
  writing,
  needed,
  people,
  onBudgets,
}: {
  sheet: RequisitionSheet;
  writing: WritingRequisition;
  needed: NeededForIt;
  people: { id: PersonId; name: string }[];
  onBudgets: BudgetView[];
}) {
  const w = useWriting();
  const { head } = sheet;
  return (
    <>
      <SlipPart title="Who has to sign">
        <p className="mb-1.5">
          About <b className="figure">{w.amount(sheet.about ?? 0)}</b>, as far as kept.
        </p>
        {needed && "sum" in needed ? (
          <SumSheet sum={needed.sum} heading={false} />
        ) : (
          <p className="font-semibold text-signal">{needed?.says}</p>
        )}
      </SlipPart>
      <SlipPart title="Who else is told">
        <div className="flex flex-col gap-0.5">
          {people.map((p) => (
            <label key={p.id} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={writing.draft.watchers.includes(p.id)}
                onChange={(e) => writing.watch(p.id, e.target.checked)}
              />
              {p.name}
            </label>
          ))}
        </div>
      </SlipPart>
      <Budgets budgets={onBudgets} opens={false} />
      <Attachments at={`/requisitions/${head.id}`} files={sheet.attachments} mayAttach mayTakeOff />
      <p className="text-ink-2">
        After it is handed in, the buyer finds it among the needs. You are told when it is ordered and when it comes.
      </p>
      <p>
        <button type="button" className="underline" onClick={() => void writing.hand("drop")} disabled={writing.busy}>
          {head.number ? "Withdraw this requisition" : "Throw this draft away"}
        </button>
      </p>
    </>
  );
}
