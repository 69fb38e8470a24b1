import { useEffect, useState } from "react";
import { Link, useLoaderData, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { type AsideDecision, asideWords } from "../../../core/receiving/set-aside";
import { unitWords } from "../../../core/text";
import { readReceipt } from "../../../server/queries/receiving/dock";
import { asidesOfReceipt } from "../../../server/queries/receiving/set-aside";
import { readUndoable, undosOf } from "../../../server/queries/receiving/undo";
import { Button, ButtonLink } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useKeys } from "../../ui/keys";
import { writeLocal } from "../../ui/local-draft";
import { useWriting } from "../../ui/locale";
import { TallyGates } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { actions, idOf, notFound, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";
import { countName } from "./count-name";
import { mayOpenReceipt } from "./may-open";
import { undoActs } from "./undo-acts";
import { UndoSlip } from "./undo-slip";

export const loader = page("keep own inbox", ({ db, person, params }) => {
  const receipt = readReceipt(db, idOf(params.id));
  if (!receipt) throw notFound("There is no such receipt.");
  const { dock, orders } = mayOpenReceipt(db, person, receipt.id);
  const own = person.store === null || person.store === receipt.store;
  return {
    receipt,
    asides: asidesOfReceipt(db, receipt.id),
    undone: undosOf(db, receipt.id),
    undoable: may(person.roles, "undo receipts") && own ? readUndoable(db, receipt.id) : [],
    labels: may(person.roles, "print labels"),
    dock,
    order: orders || !dock,
  };
});

export const action = actions("undo receipts", undoActs);

/** What was counted in, in purchase units and in stock units, and where it lies. */
export default function ReceiptPage() {
  const { receipt: r, asides, undone, undoable, labels, dock, order } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [search] = useSearchParams();
  const taken = search.get("taken") === "1";
  const [undoing, setUndoing] = useState(false);
  const undecided = asides.some((a) => a.undecided > 0);
  const mayUndo = undoable.length > 0;
  useKeys(mayUndo ? [{ key: "u", label: "undo it", run: () => setUndoing(true) }] : []);
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
              ["Delivery note", saidWords(r, w)],
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
                { label: "Bin" },
              ]}
            />
            <tbody>
              {r.lines.map((l, i) => (
                <tr key={i} className="h-10 border-b border-rule-2">
                  <td className="py-1 pl-4.5 leading-tight">
                    {l.name}
                    <span className="code block">
                      {[
                        l.code,
                        l.lot && `lot ${l.lot}`,
                        l.expires && `keeps until ${w.day(l.expires, false)}`,
                        l.weight !== null && `${w.quantity(l.weight)} kg`,
                        l.over > 0 && `${w.quantity(l.over)} over`,
                        l.forWhom && `for ${l.forWhom}`,
                      ]
                        .filter(Boolean)
                        .join(" · ")}
                    </span>
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
          {r.difference && (
            <p className="mx-4.5 mt-3 border-l-4 border-ink pl-3">
              The note says otherwise than the count: {r.difference}
            </p>
          )}
          {undone.length > 0 && <UndoneList undone={undone} />}
          {asides.length > 0 && <AsideList asides={asides} dock={dock} />}
        </div>
      }
      slip={
        undoing && mayUndo ? (
          <UndoSlip
            key={undone.length}
            number={r.number}
            lines={undoable}
            asides={undecided}
            onLeave={() => setUndoing(false)}
          />
        ) : undefined
      }
      tally={
        <TallyLine
          keys={mayUndo ? [["u", "undo it"]] : []}
          act={
            <>
              {mayUndo && !undoing && (
                <Button className="max-lg:min-h-12" onClick={() => setUndoing(true)}>
                  Undo it
                </Button>
              )}
              {labels && <ButtonLink to={`/labels?receipt=${r.id}`}>Labels</ButtonLink>}
              <ButtonLink to={`/receipts/${r.id}/paper.pdf`} reload>
                Paper
              </ButtonLink>
              {dock && (
                <ButtonLink to={`/receipts/${r.id}/receipt-advice.xml`} reload>
                  UBL file
                </ButtonLink>
              )}
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

type Asides = ReturnType<typeof useLoaderData<typeof loader>>["asides"];
type Receipt = ReturnType<typeof useLoaderData<typeof loader>>["receipt"];

/** The delivery note, and what it says came in all. */
function saidWords(r: Receipt, w: ReturnType<typeof useWriting>): string {
  const said = [
    r.saidLines !== null && `${r.saidLines} lines`,
    r.saidPieces !== null && `${w.quantity(r.saidPieces)} pieces`,
    r.saidWeight !== null && `${w.quantity(r.saidWeight)} kg`,
  ].filter(Boolean);
  return [r.note || "none named", said.length && `says ${said.join(", ")}`].filter(Boolean).join(", ");
}

/** What was counted with it and not taken in, and what became of it. */
function AsideList({ asides, dock }: { asides: Asides; dock: boolean }) {
  const w = useWriting();
  return (
    <section className="mx-4.5 mt-4" aria-label="Set aside">
      <h2 className="border-b border-ink pb-1 text-sm font-bold">Set aside</h2>
      <ul>
        {asides.map((a) => (
          <li key={a.id} className="border-b border-rule-2 py-1.5">
            <span className="figure">{w.quantity(a.quantity)}</span> {unitWords(a.quantity, a.unit)} of {a.name}:{" "}
            {asideWords(a)}
            {a.note && <span className="text-ink-2">, {a.note}</span>}
            <span className="block text-xs text-ink-2">
              {a.became
                .map((b) => `${w.quantity(b.quantity)} ${BECAME[b.what]}${b.number ? ` with ${b.number}` : ""}`)
                .join("; ")}
              {a.undecided > 0 && (
                <span className="font-semibold text-signal">
                  {a.became.length > 0 && "; "}
                  {w.quantity(a.undecided)} undecided
                  {dock && (
                    <>
                      {" "}
                      <Link className="underline" to={`/set-aside?at=${a.id}`}>
                        look
                      </Link>
                    </>
                  )}
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** By which papers it was undone. */
function UndoneList({ undone }: { undone: ReturnType<typeof useLoaderData<typeof loader>>["undone"] }) {
  const w = useWriting();
  return (
    <section className="mx-4.5 mt-4" aria-label="Undone">
      <h2 className="border-b border-ink pb-1 text-sm font-bold">Undone</h2>
      <ul>
        {undone.map((u) => (
          <li key={u.id} className="border-b border-rule-2 py-1.5">
            <b>{u.number}</b>, {w.day(u.day)}, {u.person}: {u.reason}
            <span className="block text-xs text-ink-2">
              {u.lines.map((l) => `${w.quantity(l.quantity)} ${unitWords(l.quantity, l.unit)} of ${l.name}`).join("; ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const BECAME: Record<AsideDecision, string> = {
  keep: "kept",
  "send back": "sent back",
  scrap: "thrown away",
  "turned away": "turned away",
  "not counted": "not counted after all",
};
