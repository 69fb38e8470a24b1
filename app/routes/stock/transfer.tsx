import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { cancelTransfer, moveTransfer } from "../../../server/acts/stock/transfers";
import { readTransfer } from "../../../server/queries/stock/transfers";
import { Button } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, notFound, type PageActs, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";

export const loader = page("see transfers", ({ db, params, person }) => {
  const found = readTransfer(db, idOf(params.id));
  if (!found) throw notFound("There is no such transfer.");
  const planned = found.head.state === "Planned";
  return {
    ...found,
    mayMove: planned && may(person.roles, "move stock"),
    mayCancel: planned && may(person.roles, "plan"),
  };
});

const transferActs = { move: moveTransfer, cancel: cancelTransfer } satisfies PageActs;
type TransferWord = keyof typeof transferActs;
export const action = actions("see transfers", transferActs, ({ params }) => ({ transfer: idOf(params.id) }));

/** The paper of one transfer: what goes, from where to where, and the two movements it becomes. */
export default function TransferPage() {
  const { head, lines, mayMove, mayCancel } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(head.version);
  const send = (what: TransferWord) =>
    !busy && submit({ do: what, version: String(head.version), key: `${key()}${what}` }, { method: "post" });
  useKeys(mayMove ? [{ key: "t", label: "it was moved", run: () => send("move") }] : []);
  const moved = head.state === "Moved";
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead title={`Transfer ${head.number}`} sub={`${head.fromName} to ${head.toName}`}>
            <StateSquare state={head.state} />
          </SheetHead>
          <FactStrip
            facts={[
              ["Planned by", `${head.planner}, ${w.moment(head.at)}`],
              ["To be there", w.day(head.day)],
              ["Moved by", head.moved ? `${head.mover}, ${w.moment(head.moved)}` : "–"],
            ]}
          />
          <table className="w-full">
            <caption className="sr-only">What goes</caption>
            <Heads
              heads={[
                { label: "Item" },
                { label: "Bin" },
                { label: "Quantity", align: "right" },
                { label: `On hand, ${head.fromName}`, align: "right" },
                { label: `On hand, ${head.toName}`, align: "right" },
                { label: "For" },
              ]}
            />
            <tbody>
              {lines.map((l) => (
                <tr key={l.id} className="h-10 border-b border-rule-2">
                  <td className="pl-4.5 leading-tight">
                    <Link className="underline decoration-rule" to={`/items/${l.item}`}>
                      {l.name}
                    </Link>
                    <span className="code block">{l.code}</span>
                  </td>
                  <td className="px-2 font-mono text-xs">{l.bin}</td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    <b>{w.quantity(l.quantity)}</b> <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                  </td>
                  <td
                    className={`figure px-2 text-right ${!moved && l.here < l.quantity ? "font-semibold text-signal" : ""}`}
                  >
                    {w.quantity(l.here)}
                  </td>
                  <td className="figure px-2 text-right">{w.quantity(l.there)}</td>
                  <td className="px-2 pr-4.5">
                    {l.requisition && (
                      <Link className="underline" to={`/requisitions/${l.requisition.id}`}>
                        {l.requisition.number}
                      </Link>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      }
      tally={
        <TallyLine
          trouble={answer && !answer.ok ? answer.problems[0]?.says : null}
          act={
            <>
              {mayCancel && (
                <Button disabled={busy} onClick={() => send("cancel")}>
                  Cancel the transfer
                </Button>
              )}
              {mayMove && (
                <Button look="main" hint="T" disabled={busy} onClick={() => send("move")}>
                  It was moved
                </Button>
              )}
            </>
          }
        >
          <span>{moved ? "One movement out, one in, for each line." : "Counts as on its way until it is moved."}</span>
        </TallyLine>
      }
    />
  );
}
