import { Link, useSubmit } from "react-router";
import { count } from "../../../core/text";
import type { RequisitionSheet } from "../../../server/read/requisitions/requisition";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetHead, SlipHead, Spread } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare, TallyStrip } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { Facts } from "../orders/order-head";
import { SendBack, Signatures } from "../parts/signatures";
import { Trail } from "./trail";

/** A requisition after it was handed in: what became of each line, and the whole trail of papers. */
export function RaisedRequisition({
  sheet,
  maySign,
  problems,
}: {
  sheet: RequisitionSheet;
  maySign: boolean;
  problems?: readonly { field: string; says: string }[];
}) {
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const { head, lines } = sheet;
  const key = useSubmissionKey(head.version);
  const signIt = () =>
    maySign && !busy && submit({ do: "sign", version: String(head.version), key: `${key()}sign` }, { method: "post" });
  useKeys(maySign ? [{ key: "y", label: "sign", run: signIt }] : []);
  return (
    <Spread
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead title={`Requisition ${head.name}`} sub={head.reason}>
            <StateSquare state={head.state} />
          </SheetHead>
          <Facts
            facts={[
              ["Asked by", head.askerName],
              ["For", `${head.storeName} store`],
              ["Needed by", head.neededBy ? w.day(head.neededBy) : "–"],
              ["About", w.amount(sheet.about)],
            ]}
          />
          <table className="w-full">
            <caption className="sr-only">Lines</caption>
            <Heads
              heads={[
                { label: "#", width: "w-8" },
                { label: "Item or service" },
                { label: "Quantity", align: "right" },
                { label: "Where it stands", width: "w-[24%]" },
                { label: "Order" },
              ]}
            />
            <tbody>
              {lines.map((l) => (
                <tr key={l.id} className="h-9 border-b border-rule-2">
                  <td className="pl-4.5 text-ink-3">{l.position}</td>
                  <td className="px-2">
                    {l.itemName ?? l.words} {l.code && <span className="code ml-1">{l.code}</span>}
                  </td>
                  <td className="figure px-2 text-right">
                    {l.quantity === null ? "–" : w.quantity(l.quantity)}{" "}
                    <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                  </td>
                  <td className="px-2">
                    {l.order ? (
                      <TallyStrip
                        ordered={l.order.quantity}
                        received={l.order.received}
                        late={l.order.due < w.today}
                        promised={false}
                        label={`${w.quantity(l.order.received)} of ${w.quantity(l.order.quantity)} in, due ${w.day(l.order.due)}`}
                      />
                    ) : (
                      <span className="text-xs text-ink-3">not ordered yet</span>
                    )}
                  </td>
                  <td className="px-2 pr-4.5 whitespace-nowrap">
                    {l.order && (
                      <>
                        <Link to={`/orders/${l.order.id}`} className="underline">
                          {l.order.name}
                        </Link>
                        <span className="ml-2 text-xs text-ink-3">due {w.day(l.order.due)}</span>
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      }
      slip={
        <>
          {maySign && (
            <>
              <SlipHead over="waits for you" title={`${w.amount(sheet.about)} for ${head.askerName}`}>
                <p className="mt-1 text-ink-2">{head.reason}</p>
              </SlipHead>
              <SendBack version={head.version} problem={problemAt(problems, "reason")} />
            </>
          )}
          <Trail trail={sheet.trail} />
          <Signatures signatures={sheet.signatures} />
        </>
      }
      tally={
        <TallyLine
          trouble={problemAt(problems, "")}
          keys={maySign ? [["y", "sign"]] : []}
          act={
            maySign && (
              <Button look="main" hint="Y" disabled={busy} onClick={signIt}>
                Sign {w.amount(sheet.about)}
              </Button>
            )
          }
        >
          <span>{count(lines.length, "line")}</span>
          <span>
            about <b className="figure">{w.amount(sheet.about)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}
