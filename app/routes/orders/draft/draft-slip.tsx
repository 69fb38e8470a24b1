import type { DraftChoices } from "../../../../server/queries/orders/draft";
import type { MoveTarget } from "../../../../server/queries/orders/moves";
import type { OrderLine, OrderSheet } from "../../../../server/queries/orders/order";
import { Attachments } from "../../../parts/attachments";
import { Budgets } from "../../../parts/budgets";
import { Signatures } from "../../../parts/signatures";
import { SlipForm } from "../../../parts/slip-form";
import { Button, ButtonLink } from "../../../ui/button";
import { problemAt, TextField } from "../../../ui/field";
import { SlipPart } from "../../../ui/frame-parts";
import { SumSheet } from "../../../ui/sum";
import type { OrderWord } from "../order-acts";
import { LineSlipPanel } from "./line-slip";
import { MoveTo } from "./move-to";
import type { useDraft } from "./use-draft";

/** Beside a draft: its chosen line, where that could go, budgets, sums, signatures, files, and the paper. */
export function DraftSlip({
  draft,
  sheet,
  here,
  moves,
  choices,
  problems,
  showSum,
  busy,
  onSend,
}: {
  draft: ReturnType<typeof useDraft>;
  sheet: OrderSheet;
  here: OrderLine | undefined;
  /** Where each line could go, and all of them under 0. */
  moves: Record<number, MoveTarget[]>;
  choices: DraftChoices;
  problems: readonly { field: string; says: string }[];
  showSum: boolean;
  busy: boolean;
  onSend: (what: OrderWord, extra?: Record<string, string>) => void;
}) {
  const { lines } = draft;
  const { head, totals, needed, budgets } = draft.facts;
  const order = head.id;
  const standing = head.kind === "standing";
  return (
    <>
      {here && (
        <LineSlipPanel
          draft={draft}
          order={order}
          line={here}
          choices={choices}
          showSum={showSum}
          problem={(field) => problemAt(problems, `line.${here.id}.${field}`)}
        />
      )}
      {here && ((moves[here.id]?.length ?? 0) > 0 || (moves[0]?.length ?? 0) > 0) && (
        <SlipPart title="Move to another order">
          <div className="flex flex-col gap-2">
            <MoveTo
              key={here.id}
              label={lines.length > 1 ? "This line" : "Its line"}
              targets={moves[here.id] ?? []}
              disabled={busy}
              onMove={(to) => onSend("move", { to, line: String(here.id) })}
            />
            {lines.length > 1 && (
              <MoveTo
                label={`All ${lines.length} lines`}
                targets={moves[0] ?? []}
                disabled={busy}
                onMove={(to) => onSend("move", { to })}
              />
            )}
          </div>
        </SlipPart>
      )}
      <Budgets budgets={budgets} />
      {showSum && <SumSheet sum={totals.sum} />}
      {!standing && needed.sum && <SumSheet sum={needed.sum} />}
      {!standing && needed.again && <p className="font-semibold">{needed.again} So it is signed again.</p>}
      {!standing && needed.says && <p className="font-semibold text-signal">{needed.says}</p>}
      <Signatures signings={sheet.signings} />
      <Attachments at={`/orders/${order}`} files={sheet.files} mayAttach mayTakeOff sends={!standing} />
      <SlipPart title={standing ? "The list" : "Paper"}>
        <div className="flex flex-wrap gap-2">
          {!standing && (
            <>
              <ButtonLink to={`/orders/${order}/paper.pdf`} reload>
                See it as PDF
              </ButtonLink>
              <ButtonLink to={`/orders/${order}/order.xml`} reload>
                UBL file
              </ButtonLink>
            </>
          )}
          <Button disabled={busy} onClick={() => onSend("delete")}>
            {head.number ? "Cancel this order" : standing ? "Delete this list" : "Delete this draft"}
          </Button>
        </div>
        {!standing && !head.held && (
          <div className="mt-2">
            <SlipForm<OrderWord> does="hold" fields={{ version: head.version }} label="Hold it back…" send="Hold it">
              <TextField label="What it waits for" name="reason" maxLength={300} required />
            </SlipForm>
          </div>
        )}
      </SlipPart>
    </>
  );
}
