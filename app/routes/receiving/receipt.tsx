import { useEffect } from "react";
import { Link, useLoaderData, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { servesAsker } from "../../../server/queries/orders/lists";
import { readReceipt } from "../../../server/queries/receiving/dock";
import { ButtonLink } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { writeLocal } from "../../ui/local-draft";
import { useWriting } from "../../ui/locale";
import { TallyGates } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { idOf, notAllowed, notFound, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";
import { countName } from "./count-name";

export const loader = page("keep own inbox", ({ db, person, params }) => {
  const receipt = readReceipt(db, idOf(params.id));
  if (!receipt) throw notFound("There is no such receipt.");
  // The dock of one store counts what comes there, and sees no other's.
  const dock =
    may(person.roles, "see dock") &&
    (may(person.roles, "see orders") || person.store === null || receipt.store === person.store);
  const orders = may(person.roles, "see orders");
  if (!dock && !orders && !servesAsker(db, receipt.order, person.id))
    throw notAllowed("Your role does not show this receipt.");
  return { receipt, dock, order: orders || !dock };
});

/** What was counted in, in purchase units and in stock units, and where it lies. */
export default function ReceiptPage() {
  const { receipt: r, dock, order } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [search] = useSearchParams();
  const taken = search.get("taken") === "1";
  useEffect(() => {
    if (taken) writeLocal(countName(r), null); // what was counted is in stock now
  }, [taken, r]);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead title={`Receipt ${r.number}`} sub={<span className="text-base">{r.supplierName}</span>} />
          <FactStrip
            facts={[
              ["Counted by", `${r.person}, ${w.moment(r.at)}`],
              ["Store", r.storeName],
              ["Delivery note", r.note || "none named"],
              ["Order", r.orderNumber],
            ]}
          />
          <table className="w-full">
            <caption className="sr-only">Goods counted in</caption>
            <Heads
              heads={[
                { label: "Goods" },
                { label: "Counted", align: "right" },
                { label: "As tally gates", hidden: true, wide: true },
                { label: "Into stock", align: "right" },
                { label: "On hand now", align: "right" },
                { label: "Rack" },
              ]}
            />
            <tbody>
              {r.lines.map((l, i) => (
                <tr key={i} className="h-10 border-b border-rule-2">
                  <td className="py-1 pl-4.5 leading-tight">
                    {l.name}
                    {(l.code || l.forWhom) && (
                      <span className="code block">
                        {[l.code, l.forWhom && `for ${l.forWhom}`].filter(Boolean).join(" · ")}
                      </span>
                    )}
                  </td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                  </td>
                  <td className="px-2 max-md:hidden">
                    <TallyGates counted={l.quantity} />
                  </td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {l.stockUnit ? w.quantity(l.stockQuantity) : "–"}{" "}
                    <span className="font-sans text-xs text-ink-3">{l.stockUnit}</span>
                  </td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {l.onHand === null ? "–" : w.quantity(l.onHand)}
                  </td>
                  <td className="px-2 pr-4.5">{l.bin || "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      }
      tally={
        <TallyLine
          act={
            <>
              {order && <ButtonLink to={`/orders/${r.order}`}>Order {r.orderNumber}</ButtonLink>}
              {dock && (
                <ButtonLink to="/dock" look="main">
                  Next load
                </ButtonLink>
              )}
            </>
          }
        >
          <span>
            <b>{r.lines.length}</b> {r.lines.length === 1 ? "line" : "lines"} in stock
          </span>
          {dock && (
            <Link to={`/dock/${r.order}`} className="underline">
              what is still open on {r.orderNumber}
            </Link>
          )}
        </TallyLine>
      }
    />
  );
}
