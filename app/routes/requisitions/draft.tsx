import type { PersonId, StoreId } from "../../../core/ids";
import type { BudgetView } from "../../../server/queries/budgets/budgets";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { Button } from "../../ui/button";
import { Problems } from "../../ui/field";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { KeepingNote, StaleChoice } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { DraftHead } from "./draft-head";
import { type LineChoices, RequisitionLines } from "./draft-lines";
import { type NeededForIt, RequisitionDraftSlip } from "./draft-slip";
import { draftDifferences, fromSheet, isBlank } from "./draft-values";
import { useRequisitionDraft } from "./use-draft";

interface Props extends LineChoices {
  sheet: RequisitionSheet;
  stores: { id: StoreId; name: string }[];
  departments: { id: number; name: string }[];
  needed: NeededForIt;
  /** The budgets that its lines go against, as they stand with it. */
  onBudgets: BudgetView[];
  people: { id: PersonId; name: string }[];
  problems?: readonly { field: string; says: string }[];
}

/** A requisition as it is written: kept while one types, handed in when it is whole. */
export function DraftRequisition({
  sheet,
  stores,
  departments,
  needed,
  accounts,
  budgets,
  onBudgets,
  people,
  problems,
}: Props) {
  const w = useWriting();
  const { head } = sheet;
  const writing = useRequisitionDraft(sheet);
  const { draft, kept, busy, stale } = writing;
  useKeys([{ key: "n", label: "new line", run: writing.addLine }]);
  const all = [...kept.problems, ...(problems ?? [])];
  const real = draft.lines.filter((l) => !isBlank(l));
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-10">
          <SheetHead
            title={head.number ? `Requisition ${head.number}` : "New requisition"}
            sub={<KeepingNote state={kept.state} />}
          />
          {stale && (
            <StaleChoice
              differences={draftDifferences(fromSheet(sheet, w.home), draft, stores)}
              onTheirs={writing.takeTheirs}
              onMine={() => kept.insist(head.version)}
            />
          )}
          {head.sentBack && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
              <b>Sent back:</b> {head.sentBack}
            </p>
          )}
          <div className="px-4.5">
            <Problems problems={all} only={(p) => p.field === "" || p.field === "lines"} />
          </div>
          <DraftHead writing={writing} stores={stores} departments={departments} problems={all} />
          <RequisitionLines sheet={sheet} writing={writing} problems={all} choices={{ accounts, budgets }} />
          <div className="px-4.5 py-3">
            <Button onClick={writing.addLine} hint="N">
              Add a line
            </Button>
          </div>
        </div>
      }
      slip={
        <RequisitionDraftSlip sheet={sheet} writing={writing} needed={needed} people={people} onBudgets={onBudgets} />
      }
      tally={
        <TallyLine
          trouble={
            all.find((p) => p.field === "")?.says ??
            (all.length ? "Some fields need another look; they are marked." : null)
          }
          keys={[["n", "new line"]]}
          act={
            <Button look="main" disabled={busy || stale || real.length === 0} onClick={() => writing.hand("submit")}>
              {busy ? "Handing in…" : "Hand in"}
            </Button>
          }
        >
          <span>
            <b>{real.length}</b> {real.length === 1 ? "line" : "lines"}
          </span>
          <span>
            about <b className="figure">{w.amount(sheet.about ?? 0)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}
