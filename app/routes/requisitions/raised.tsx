import { useState } from "react";
import { Link, useSubmit } from "react-router";
import type { ItemId, PersonId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import type { WaitChance } from "../../../core/suppliers/chance";
import { count } from "../../../core/text";
import type { PaperAround } from "../../../server/queries/papers/around";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { Attachments } from "../../parts/attachments";
import { WaitFigure, WaitPart } from "../../parts/chance";
import { PapersAround } from "../../parts/papers-around";
import { Signatures } from "../../parts/signatures";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare, TallyStrip } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { FactStrip } from "../orders/order-head";
import { SignActs } from "../signoff/sign-acts";
import { DecideLine } from "./decide-line";
import type { RequisitionWord } from "./requisition-acts";
import { Trail } from "./trail";

/** A requisition after it was handed in: what became of each line, and the whole trail of papers. */
export function RaisedRequisition({
  sheet,
  own,
  maySign,
  mayPlan,
  mayAsk,
  seesOrders,
  around,
  chances,
  opensLadders,
  alternatives,
  problems,
}: {
  sheet: RequisitionSheet;
  own: boolean;
  /** Others who may sign instead; null where it does not wait for this person. */
  maySign: { id: PersonId; name: string }[] | null;
  opensLadders: boolean;
  mayPlan: boolean;
  mayAsk: boolean;
  seesOrders: boolean;
  /** The papers before and after it. */
  around: readonly PaperAround[];
  /** By line: how likely all that it waits for is here on its day. */
  chances: Record<number, WaitChance>;
  /** By line: what may stand in for what was asked for. */
  alternatives: Record<number, { item: ItemId; name: string }[]>;
  problems?: readonly { field: string; says: string }[];
}) {
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const { head, lines } = sheet;
  const key = useSubmissionKey(head.version);
  const [shown, setShown] = useState<number | null>(null);
  const open = ["In sign-off", "Open", "Part ordered", "Ordered"].includes(head.state);
  const waiting = { paper: "requisition" as const, id: head.id, version: head.version };
  const begun = lines.some((l) => l.orders.length > 0 || l.transfer);
  const copy = () => submit({ do: "copy" satisfies RequisitionWord, key: `${key()}copy` }, { method: "post" });
  const signIt = () =>
    maySign &&
    !busy &&
    submit(
      { do: "sign" satisfies RequisitionWord, version: String(head.version), key: `${key()}sign` },
      { method: "post" },
    );
  useKeys(maySign ? [{ key: "y", label: "sign", run: signIt }] : []);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead title={`Requisition ${head.name}`} sub={head.reason}>
            <StateSquare state={head.state} />
          </SheetHead>
          <FactStrip
            facts={[
              ["Asked by", head.askerName],
              ["For", `${head.storeName} store`],
              ["Needed by", head.neededBy ? w.day(head.neededBy) : "–"],
              ...(sheet.about === null ? [] : [["About", w.amount(sheet.about)] as const]),
            ]}
          />
          <RaisedLines
            lines={lines}
            chances={chances}
            onChance={setShown}
            seesOrders={seesOrders}
            mayDecide={mayPlan && open && head.state !== "In sign-off"}
            alternatives={alternatives}
          />
        </div>
      }
      slip={
        <>
          {maySign && <WaitsForYou sheet={sheet} waiting={waiting} others={maySign} />}
          <Ended sheet={sheet} />
          {shown !== null && chances[shown] && (
            <WaitPart title={`In time, line ${lines.find((l) => l.id === shown)?.position}`} chance={chances[shown]} />
          )}
          <Attachments
            at={`/requisitions/${head.id}`}
            files={sheet.attachments}
            mayAttach={own && open}
            mayTakeOff={false}
          />
          <AskerActs
            sheet={sheet}
            mayReturn={mayPlan && head.state === "Open" && !begun}
            mayWithdraw={own && (head.state === "In sign-off" || head.state === "Open") && !begun}
            onCopy={mayAsk && own ? copy : null}
            busy={busy}
          />
          <PapersAround papers={around} here={`/requisitions/${head.id}`} />
          <Trail trail={sheet.trail} />
          {sheet.about !== null && (
            <Signatures signings={sheet.signings} writes={own ? waiting : null} opensLadders={opensLadders} />
          )}
          {own && head.state === "In sign-off" && (
            <SlipForm<RequisitionWord>
              does="take back"
              fields={waiting}
              label="Take it back to change it…"
              send="Take it back"
            >
              <p className="text-xs text-ink-2">It is a draft again, and what was signed of it does not hold.</p>
            </SlipForm>
          )}
        </>
      }
      tally={
        <TallyLine
          trouble={problemAt(problems, "")}
          keys={maySign ? [["y", "sign"]] : []}
          act={
            maySign && (
              <Button look="main" hint="Y" disabled={busy} onClick={signIt}>
                Sign {w.amount(sheet.about ?? 0)}
              </Button>
            )
          }
        >
          <span>{count(lines.length, "line")}</span>
          {sheet.about !== null && (
            <span>
              about <b className="figure">{w.amount(sheet.about)}</b>
            </span>
          )}
        </TallyLine>
      }
    />
  );
}

function WaitsForYou({
  sheet: { head, about },
  waiting,
  others,
}: {
  sheet: RequisitionSheet;
  waiting: { paper: "requisition"; id: number; version: number };
  others: { id: PersonId; name: string }[];
}) {
  const w = useWriting();
  return (
    <>
      <SlipHead over="waits for you" title={`${w.amount(about ?? 0)} for ${head.askerName}`}>
        <p className="mt-1 text-ink-2">{head.reason}</p>
      </SlipHead>
      <SignActs waiting={waiting} others={others} />
    </>
  );
}

/** How it ended, and who is told. */
function Ended({ sheet: { head, watchers } }: { sheet: RequisitionSheet }) {
  return (
    <>
      {head.endedWhy && (
        <p>
          <b>{head.state}:</b> {head.endedWhy}
        </p>
      )}
      {watchers.length > 0 && <p className="text-ink-2">Told, too: {watchers.map((p) => p.name).join(", ")}.</p>}
    </>
  );
}

/** Sending it back, taking it away, asking again. */
function AskerActs({
  sheet: { head },
  mayReturn,
  mayWithdraw,
  onCopy,
  busy,
}: {
  sheet: RequisitionSheet;
  mayReturn: boolean;
  mayWithdraw: boolean;
  onCopy: (() => void) | null;
  busy: boolean;
}) {
  return (
    <>
      {mayReturn && (
        <SlipForm<RequisitionWord>
          does="return"
          fields={{ version: head.version }}
          label="Send it back to the asker…"
          send="Send back"
        >
          <input
            name="reason"
            aria-label="Why"
            placeholder="why, so that the asker knows what to change"
            maxLength={500}
            className="entry w-full"
          />
        </SlipForm>
      )}
      {mayWithdraw && (
        <SlipForm<RequisitionWord>
          does="withdraw"
          fields={{ version: head.version }}
          label="Withdraw it…"
          send="Withdraw it"
        >
          <input
            name="reason"
            aria-label="Why, if you like"
            placeholder="why, if you like"
            maxLength={300}
            className="entry w-full"
          />
        </SlipForm>
      )}
      {onCopy && (
        <div>
          <Button disabled={busy} onClick={onCopy}>
            Ask for the same again
          </Button>
        </div>
      )}
    </>
  );
}

function RaisedLines({
  lines,
  chances,
  onChance,
  seesOrders,
  mayDecide,
  alternatives,
}: {
  lines: RequisitionSheet["lines"];
  chances: Record<number, WaitChance>;
  /** Shows the sum behind the chance of a line. */
  onChance: (line: number) => void;
  seesOrders: boolean;
  mayDecide: boolean;
  alternatives: Record<number, { item: ItemId; name: string }[]>;
}) {
  return (
    <table className="w-full">
      <caption className="sr-only">Lines</caption>
      <Heads
        heads={[
          { label: "#", width: "w-8" },
          { label: "Item or service" },
          { label: "Quantity", align: "right" },
          { label: "Where it stands", width: "w-[24%]", wide: true },
          { label: "In time", align: "right" },
          { label: "Order" },
        ]}
      />
      <tbody>
        {lines.map((l) => (
          <LineRow
            key={l.id}
            line={l}
            chance={chances[l.id] ?? null}
            onChance={() => onChance(l.id)}
            seesOrders={seesOrders}
            mayDecide={mayDecide && l.orders.length === 0 && l.transfer === null && l.declined === null}
            others={alternatives[l.id] ?? []}
          />
        ))}
      </tbody>
    </table>
  );
}

function Standing({ line: l }: { line: RequisitionSheet["lines"][number] }) {
  const w = useWriting();
  return (
    <>
      {l.orders.length > 0 ? (
        l.orders.map((o) => (
          <TallyStrip
            key={o.id}
            ordered={o.quantity}
            received={o.received}
            late={o.due < w.today}
            promised={false}
            label={`${w.quantity(o.received)} of ${w.quantity(o.quantity)} in, due ${w.day(o.due)}`}
          />
        ))
      ) : l.transfer ? (
        <span className="text-xs">
          {l.transfer.state === "Moved" ? "brought over" : "is brought over"} from {l.transfer.from}
        </span>
      ) : (
        <span className={`text-xs ${l.declined ? "font-semibold text-signal" : "text-ink-3"}`}>
          {l.declined ? "declined" : "not ordered yet"}
        </span>
      )}
    </>
  );
}

function LineOrders({ line: l, seesOrders }: { line: RequisitionSheet["lines"][number]; seesOrders: boolean }) {
  const w = useWriting();
  return (
    <td className="px-2 pr-4.5 whitespace-nowrap max-md:whitespace-normal">
      {l.orders.map((o) => (
        <span key={o.id} className="block">
          {seesOrders ? (
            <Link to={`/orders/${o.id}`} className="underline">
              {o.name}
            </Link>
          ) : (
            o.name
          )}
          <span className="ml-2 text-xs text-ink-3">due {w.day(o.due)}</span>
        </span>
      ))}
      {l.transfer && (
        <Link to={`/transfers/${l.transfer.id}`} className="underline">
          {l.transfer.number}
        </Link>
      )}
    </td>
  );
}

type Line = RequisitionSheet["lines"][number];

/** How much was asked for, and how much the buyer made of it. */
function HowMany({ line: { quantity, decided } }: { line: Line }) {
  const w = useWriting();
  if (decided?.quantity && !decided.offered)
    return (
      <>
        <span className="text-ink-3 line-through">{quantity === null ? "" : w.quantity(quantity)}</span>{" "}
        {w.quantity(decided.quantity)}
      </>
    );
  return quantity === null ? "–" : w.quantity(quantity);
}

/** What the buyer decided about a line, or decides now. */
function DecidedRow({
  line: l,
  mayDecide,
  others,
}: {
  line: Line;
  mayDecide: boolean;
  others: { item: ItemId; name: string }[];
}) {
  const w = useWriting();
  const { decided } = l;
  return (
    <tr className="border-b border-rule-2">
      <td />
      <td colSpan={5} className="px-2 pr-4.5 pb-1.5">
        {l.declined && (
          <p className="text-ink-2">
            {decided?.by ?? "The buyer"} declined it: {l.declined}
          </p>
        )}
        {decided && !l.declined && (
          <p className="text-ink-2">
            {decided.by} offers{" "}
            {decided.offered ? (
              <b>
                {decided.quantity !== null && `${w.quantity(decided.quantity)} ${decided.offered.unit} of `}
                {decided.offered.name}
              </b>
            ) : (
              <b>
                {decided.quantity !== null && w.quantity(decided.quantity)} {l.unit}
              </b>
            )}
            : {decided.why}
          </p>
        )}
        {mayDecide && (
          <DecideLine
            line={l.id}
            quantity={l.quantity === null ? "1" : quantityText(decided?.quantity ?? l.quantity)}
            unit={l.unit}
            others={others}
          />
        )}
      </td>
    </tr>
  );
}

function LineRow({
  line: l,
  chance,
  onChance,
  seesOrders,
  mayDecide,
  others,
}: {
  line: RequisitionSheet["lines"][number];
  chance: WaitChance | null;
  onChance: () => void;
  seesOrders: boolean;
  mayDecide: boolean;
  others: { item: ItemId; name: string }[];
}) {
  const { decided } = l;
  return (
    <>
      <tr className={`h-9 border-rule-2 ${decided || l.declined || mayDecide ? "" : "border-b"}`}>
        <td className="pl-4.5 text-ink-3">{l.position}</td>
        <td className="px-2 leading-tight">
          <span className={l.declined || decided?.offered ? "text-ink-3 line-through" : ""}>
            {l.item ? (
              <Link className="underline decoration-rule" to={`/items/${l.item}`}>
                {l.itemName}
              </Link>
            ) : (
              l.words
            )}
          </span>{" "}
          {l.code && <span className="code ml-1">{l.code}</span>}
          {(l.budget || l.account) && (
            <span className="code block">
              {[l.budget?.code, l.account && `account ${l.account}`].filter(Boolean).join(" · ")}
            </span>
          )}
        </td>
        <td className="figure px-2 text-right">
          <HowMany line={l} /> <span className="font-sans text-xs text-ink-3">{l.unit}</span>
        </td>
        <td className="px-2 max-md:hidden">
          <Standing line={l} />
        </td>
        <td className="px-2 text-right">
          <WaitFigure chance={chance} of={l.itemName ?? l.words} onShow={onChance} />
        </td>
        <LineOrders line={l} seesOrders={seesOrders} />
      </tr>
      {(decided || l.declined || mayDecide) && <DecidedRow line={l} mayDecide={mayDecide} others={others} />}
    </>
  );
}
