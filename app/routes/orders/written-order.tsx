import { type RefObject, useRef, useState } from "react";
import { Link, useNavigation, useSubmit } from "react-router";
import type { OrderLineId, PersonId } from "../../../core/ids";
import { KIND_WORDS, type OrderKind } from "../../../core/orders/kinds";
import { refuses } from "../../../core/orders/status";
import { deliveryWords, termsWords } from "../../../core/orders/terms";
import { linePriceSum, sourceWords } from "../../../core/pricing/price";
import { count } from "../../../core/text";
import type { WaitingChange } from "../../../server/acts/orders/change-placed";
import type { BudgetView } from "../../../server/queries/budgets/budgets";
import type { BlanketView } from "../../../server/queries/orders/blankets";
import type { OrderLetter } from "../../../server/queries/orders/letters";
import type { OrderLink } from "../../../server/queries/orders/link";
import type { OrderSheet } from "../../../server/queries/orders/order";
import type { PaperAround } from "../../../server/queries/papers/around";
import type { SaidBefore } from "../../../server/queries/suppliers/answers";
import type { LineChance } from "../../../server/queries/suppliers/chances";
import { Attachments } from "../../parts/attachments";
import { Budgets } from "../../parts/budgets";
import { ChancePart } from "../../parts/chance";
import { PapersAround } from "../../parts/papers-around";
import { Signatures } from "../../parts/signatures";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare, StripLegend } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { SignActs } from "../signoff/sign-acts";
import { BlanketSheet } from "./blanket-sheet";
import { type ChangeChoices, OurChanges } from "./change-line";
import type { OrderWord } from "./order-acts";
import { FactStrip, HeldNote, Stations, type StripFacts } from "./order-head";
import { OrderPapers } from "./order-papers";
import { OrderTotals } from "./order-totals";
import { PrivateLinks } from "./private-links";
import { serves } from "./serves";
import { TheirAnswers } from "./their-answers";
import { WhoGetsIt } from "./who-gets-it";
import { WrittenLines } from "./written-lines";

interface Props {
  sheet: OrderSheet;
  toSign: number;
  mayWrite: boolean;
  mayPlace: boolean;
  mayReopen: boolean;
  /** The papers before and after it. */
  around: PaperAround[];
  /** Others who may sign instead; null where it does not wait for this person. */
  maySign: { id: PersonId; name: string }[] | null;
  own: boolean;
  opensLadders: boolean;
  /** Who may get it and what the e-mail says; null for whoever does not send it. */
  letter: OrderLetter | null;
  budgets: BudgetView[];
  /** By line: how likely each part that is open of it is in time. */
  chances: Record<number, LineChance[]>;
  blanket: BlanketView | null;
  links: OrderLink[];
  /** What the supplier answered, and to which version they can now. */
  answers: { said: SaidBefore[]; revision: number; change: WaitingChange | null };
  /** What a change of it may name; null where nobody asks for one here. */
  changing: ChangeChoices | null;
  problems?: readonly { field: string; says: string }[];
}

/** An order that can no longer be edited here: being signed, cleared, or with the supplier. */
export function WrittenOrder({
  sheet,
  toSign,
  mayWrite,
  mayPlace,
  mayReopen,
  around,
  maySign,
  letter,
  budgets,
  chances,
  blanket,
  links,
  answers,
  changing,
  own,
  opensLadders,
  problems,
}: Props) {
  const submit = useSubmit();
  const navigation = useNavigation();
  const busy = useBusy();
  const { head, lines, totals } = sheet;
  const key = useSubmissionKey(head.version);
  const [at, setAt] = useState(lines[0]?.id ?? null);
  const here = lines.find((l) => l.id === at) ?? lines[0];
  const waiting = { paper: "order" as const, id: head.id, version: head.version };
  const writes = own ? waiting : null;
  const post = useRef<HTMLFormElement>(null);
  const send = (what: OrderWord) => {
    if (busy) return;
    const body = what === "place" && post.current ? new FormData(post.current) : new FormData();
    body.set("do", what);
    body.set("version", String(head.version));
    body.set("key", `${key()}${what}`);
    void submit(body, { method: "post" });
  };
  const canPlace = mayPlace && head.state === "Cleared" && !head.held;
  const open = head.placed !== null && refuses(head, "close") === null;
  const arrives = open && head.kind === "direct" && mayPlace;
  const canCancel = mayWrite && head.state === "Cleared";
  const move = (by: number) => {
    const i = lines.findIndex((l) => l.id === here?.id);
    setAt(lines[Math.max(0, Math.min(lines.length - 1, i + by))]?.id ?? null);
  };
  useKeys([
    { key: "arrowdown", label: "next line", run: () => move(1) },
    { key: "arrowup", label: "line before", run: () => move(-1) },
    ...(maySign ? [{ key: "y", label: "sign", run: () => send("sign") }] : []),
    ...(canPlace ? [{ key: "p", label: "place the order", run: () => send("place") }] : []),
  ]);
  const placing = busy && navigation.formData?.get("do") === ("place" satisfies OrderWord);
  return (
    <SheetAndSlip
      sheet={
        <OrderBody
          sheet={sheet}
          blanket={blanket}
          mayWrite={mayWrite}
          busy={busy}
          at={here?.id ?? null}
          onAt={setAt}
          onLetGo={() => send("let go")}
          problems={problems}
        />
      }
      slip={
        <>
          {maySign && <WaitsForYou sheet={sheet} toSign={toSign} waiting={waiting} others={maySign} />}
          {head.state === "Cleared" && letter && (
            <WaitsToBePlaced post={post} head={head} letter={letter} problems={problems} />
          )}
          <TheirAnswers sheet={sheet} line={here} answers={answers} mayWrite={mayWrite} />
          <OurChanges sheet={sheet} line={here} waits={answers.change} writes={writes} choices={changing} />
          <OrderSums
            sheet={sheet}
            line={here}
            chances={chances}
            budgets={budgets}
            writes={writes}
            opensLadders={opensLadders}
          />
          {sheet.receipts.length > 0 && <CountedIn receipts={sheet.receipts} />}
          <PapersAround papers={around} here={`/orders/${head.id}`} />
          <OrderPapers
            sheet={sheet}
            mayWrite={mayWrite}
            mayReopen={mayReopen}
            letter={head.placed ? letter : null}
            open={open}
            canCancel={canCancel}
            busy={busy}
            send={send}
          />
          {head.placed && mayPlace && <PrivateLinks links={links} />}
          <Attachments
            at={`/orders/${head.id}`}
            files={sheet.files}
            mayAttach={mayWrite && head.state !== "In sign-off"}
            mayTakeOff={false}
            sends={head.placed === null}
          />
        </>
      }
      tally={
        <TallyLine
          trouble={problemAt(problems, "")}
          keys={maySign ? [["y", "sign"]] : [["arrowdown", "move"]]}
          act={
            <MainAct
              toSign={maySign ? toSign : null}
              arrives={arrives}
              places={canPlace}
              posted={letter !== null && letter.people.length > 0}
              busy={busy}
              placing={placing}
              send={send}
            />
          }
        >
          <OrderTotals head={head} lines={lines} totals={totals} />
        </TallyLine>
      }
    />
  );
}

const titleOf = (kind: OrderKind) => `${KIND_WORDS[kind][0]!.toUpperCase()}${KIND_WORDS[kind].slice(1)}`;

function factsOf(sheet: OrderSheet, w: ReturnType<typeof useWriting>): StripFacts {
  const { head } = sheet;
  const references = [
    head.ourReference && `ours ${head.ourReference}`,
    head.theirReference && `theirs ${head.theirReference}`,
    head.brought && `elsewhere ${head.brought}`,
  ].filter(Boolean);
  return [
    ["Deliver to", head.deliverAddress ? head.deliverName || head.deliverAddress : `${head.storeName} store`],
    head.kind === "blanket"
      ? ["Holds", `${w.day(head.starts!, false)} to ${w.day(head.ends!, false)}`]
      : ["Wanted by", w.day(head.required)],
    ["Terms", `${termsWords(head.terms)}, ${head.currency}`],
    ...(head.deliveryTerms
      ? [["Delivery", deliveryWords(head.deliveryTerms, head.deliveryPlace).replace(" (Incoterms 2020)", "")] as const]
      : []),
    ...(references.length ? [["References", references.join(", ")] as const] : []),
    head.kind === "blanket" ? ["Called", head.title || "–"] : ["Serves", head.jobName ?? serves(sheet)],
  ];
}

function CountedIn({ receipts }: { receipts: OrderSheet["receipts"] }) {
  const w = useWriting();
  return (
    <SlipPart title="Counted in">
      <ul className="border border-rule bg-sheet">
        {receipts.map((r) => (
          <li key={r.id} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
            <Link to={`/receipts/${r.id}`} className="underline">
              {r.number}
            </Link>
            <span className="text-ink-2">
              {w.day(r.day)}, {r.person}
            </span>
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

/** The one act that the order waits for. */
function MainAct({
  toSign,
  arrives,
  places,
  posted,
  busy,
  placing,
  send,
}: {
  /** What is signed, home currency; null where it does not wait for this person. */
  toSign: number | null;
  arrives: boolean;
  places: boolean;
  /** Somebody gets it. */
  posted: boolean;
  busy: boolean;
  placing: boolean;
  send: (what: OrderWord) => void;
}) {
  const w = useWriting();
  if (toSign !== null)
    return (
      <Button look="main" hint="Y" disabled={busy} onClick={() => send("sign")}>
        Sign {w.amount(toSign)}
      </Button>
    );
  if (arrives)
    return (
      <Button look="main" disabled={busy} onClick={() => send("arrived")}>
        It has arrived
      </Button>
    );
  return (
    places && (
      <Button look="main" hint="P" disabled={busy || !posted} onClick={() => send("place")}>
        {placing ? "Placing…" : "Place the order"}
      </Button>
    )
  );
}

type Waiting = { paper: "order"; id: number; version: number };

/** What is to be signed, and the ways to answer. */
function WaitsForYou({
  sheet: { head, lines },
  toSign,
  waiting,
  others,
}: {
  sheet: OrderSheet;
  toSign: number;
  waiting: Waiting;
  others: { id: PersonId; name: string }[];
}) {
  const w = useWriting();
  return (
    <>
      <SlipHead over="waits for you" title={`${w.amount(toSign)} with ${head.supplierName}`}>
        <p className="mt-1 text-ink-2">
          Written by {head.writerName}, {count(lines.length, "line")}, wanted by {w.day(head.required)}.
        </p>
      </SlipHead>
      <SignActs waiting={waiting} others={others} />
    </>
  );
}

/** Who gets it when it is placed, and what the e-mail says. */
function WaitsToBePlaced({
  post,
  head,
  letter,
  problems,
}: {
  post: RefObject<HTMLFormElement | null>;
  head: OrderSheet["head"];
  letter: OrderLetter;
  problems: Props["problems"];
}) {
  return (
    <SlipHead
      over="waits to be placed"
      title={letter.people.length ? "It goes out by e-mail" : `No e-mail address at ${head.supplierName}`}
    >
      {letter.people.length ? (
        <form ref={post} className="mt-2" onSubmit={(e) => e.preventDefault()}>
          <WhoGetsIt letter={letter} problems={problems} />
          <p className="mt-1 text-xs text-ink-2">
            With the order as PDF and as UBL. From then on nothing on it is deleted.
          </p>
        </form>
      ) : (
        <p className="mt-1">
          <Link to={`/suppliers/${head.supplier}`} className="underline">
            Add one in their record
          </Link>
        </p>
      )}
    </SlipHead>
  );
}

/** What the order comes to, line and whole; who signed it, and taking it back. */
function OrderSums({
  sheet,
  line,
  chances,
  budgets,
  writes,
  opensLadders,
}: {
  sheet: OrderSheet;
  /** By line: how likely each part that is open of it is in time. */
  chances: Record<number, LineChance[]>;
  /** The selected line. */
  line: OrderSheet["lines"][number] | undefined;
  budgets: BudgetView[];
  /** Null for whoever did not write it. */
  writes: Waiting | null;
  opensLadders: boolean;
}) {
  const { head, totals } = sheet;
  return (
    <>
      {line && line.price !== null && (
        <SlipPart title={`Line ${line.position}: ${sourceWords(line.priceSource)}`}>
          <SumSheet sum={linePriceSum(line, head.currency)!} heading={false} />
        </SlipPart>
      )}
      {line && chances[line.id]?.map((part) => <ChancePart key={`${part.by} ${part.promised}`} line={part} />)}
      <Budgets budgets={budgets} />
      <SumSheet sum={totals.sum} />
      <Signatures signings={sheet.signings} writes={writes} opensLadders={opensLadders} />
      {writes && head.state === "In sign-off" && (
        <SlipForm<OrderWord> does="take back" fields={writes} label="Take it back to change it…" send="Take it back">
          <p className="text-xs text-ink-2">It is a draft again, and what was signed of it does not hold.</p>
        </SlipForm>
      )}
    </>
  );
}

/** The order as the supplier has it or gets it, line by line. */
function OrderBody({
  sheet,
  blanket,
  mayWrite,
  busy,
  at,
  onAt,
  onLetGo,
  problems,
}: Pick<Props, "sheet" | "blanket" | "mayWrite" | "problems"> & {
  busy: boolean;
  /** The selected line. */
  at: number | null;
  onAt: (line: OrderLineId) => void;
  onLetGo: () => void;
}) {
  const w = useWriting();
  const { head, lines } = sheet;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto">
        <SheetHead
          title={`${titleOf(head.kind)} ${head.name}`}
          sub={<span className="text-base">{head.supplierName}</span>}
        >
          <StateSquare state={head.state} />
        </SheetHead>
        <Stations sheet={sheet} />
        <HeldNote head={head} busy={busy} onLetGo={mayWrite ? onLetGo : null} />
        {head.closed && (
          <p className="mx-4.5 mb-3 border-l-4 border-ink px-3 py-2">
            <b>Closed short</b> {w.moment(head.closed)}: {head.closedWhy}
          </p>
        )}
        <FactStrip facts={factsOf(sheet, w)} />
        {blanket && (
          <BlanketSheet
            blanket={blanket}
            head={head}
            mayCall={mayWrite && head.state !== "Closed short"}
            problems={problems}
          />
        )}
        {!blanket && <WrittenLines head={head} lines={lines} at={at} onAt={onAt} />}
        {[head.note, head.texts].filter(Boolean).map((t) => (
          <p key={t} className="mx-4.5 my-3 border-l-2 border-ink pl-3 whitespace-pre-line">
            {t}
          </p>
        ))}
      </div>
      <div className="border-t border-rule px-4.5 py-2">{!blanket && <StripLegend />}</div>
    </div>
  );
}
