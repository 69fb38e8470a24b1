import { type RefObject, useState } from "react";
import { Link } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import { askedSooner, type LeftShort, type WayOut } from "../../../core/suppliers/ways-out";
import type { OpenAnswer } from "../../../server/queries/suppliers/answers";
import { ChancePart } from "../../parts/chance";
import { differenceWords, partsWords } from "../../parts/said-words";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { FactList } from "../../ui/fact-list";
import { TextField } from "../../ui/field";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { AnswerWord } from "./answer-acts";
import type { AnswerDoes } from "./does";
import { WaysOut } from "./ways";

/** What taking it would do, in a few words; whether somebody waits for it. */
export function doesWords(a: OpenAnswer, w: ReturnType<typeof useWriting>): { says: string; waits: boolean } {
  const waits = a.laterBy > 0 && a.jobs !== null && a.lastSaid !== null && a.lastSaid > a.wanted;
  const needs = a.draws && `${a.draws.label} needs some by ${w.day(a.draws.due, false)}`;
  if (a.said.parts?.length === 0)
    return {
      says: a.jobs ? `${a.jobs} goes without` : (needs ?? "nothing comes any more"),
      waits: a.jobs !== null || needs !== null,
    };
  if (waits) return { says: `later than wanted for ${a.jobs}`, waits };
  if (needs) return { says: needs, waits: true };
  if (a.costs) return { says: `${a.costs > 0 ? "+" : "−"}${w.amount(Math.abs(a.costs))}`, waits: false };
  if (a.lastSaid !== null && a.lastSaid <= a.wanted) return { says: "in time all the same", waits: false };
  return { says: a.laterBy > 0 ? "later than wanted" : "the cost stays", waits: false };
}

/** One answer: who said it, against what stands, what it costs; refused with a reason. */
export function AnswerSlip({
  answer: a,
  does,
  way,
  onWay,
  mayDecide,
  busy,
  reason,
  propose,
  onRefuse,
}: {
  answer: OpenAnswer;
  /** Null until it is worked out. */
  does: AnswerDoes | null;
  way: WayOut | null;
  onWay: (key: string) => void;
  mayDecide: boolean;
  busy: boolean;
  reason: RefObject<HTMLInputElement | null>;
  propose: RefObject<(() => void) | null>;
  onRefuse: (why: string) => void;
}) {
  const w = useWriting();
  const [why, setWhy] = useState("");
  const facts: [string, string][] = [
    ["As it stands", partsWords(a.standing, w, a.unit)],
    ["As they say", partsWords(a.said.parts ?? a.standing, w, a.unit)],
    ["Wanted by", w.day(a.wanted)],
    ...(a.jobs ? [["Serves", a.jobs] satisfies [string, string]] : []),
  ];
  return (
    <>
      <SlipHead
        over={[`said ${w.day(a.saidOn)}`, a.way, a.saidBy].filter(Boolean).join(", ")}
        title={a.differences.map((d) => differenceWords(d, w, a.unit)).join(", ")}
      >
        <p className="mt-1 text-ink-2">
          {a.name}, line {a.position} of{" "}
          <Link className="underline" to={`/orders/${a.order}`}>
            {a.orderName}
          </Link>{" "}
          to {a.supplierName}
        </p>
      </SlipHead>
      {[a.said.remark, a.remark].filter(Boolean).map((text) => (
        <p key={text} className="border-l-4 border-ink pl-3 whitespace-pre-line">
          {text}
        </p>
      ))}
      {does?.short && <WaysOut ways={does.ways} short={does.short} chosen={way?.key ?? ""} onChoose={onWay} />}
      <SlipPart title="The line">
        <FactList facts={facts} />
      </SlipPart>
      <SlipPart title="What the line costs">
        <dl className="border border-rule bg-sheet px-2.5 py-1">
          <Row label="as it stands" value={w.money(a.netBefore, a.currency)} />
          <Row label="as they say" value={w.money(a.netAfter, a.currency)} />
          <div className="flex justify-between border-t-2 border-ink font-semibold">
            <dt>difference, {a.currency}</dt>
            <dd className="figure">
              {a.netAfter > a.netBefore ? "+" : ""}
              {w.money(a.netAfter - a.netBefore, a.currency)}
            </dd>
          </div>
        </dl>
      </SlipPart>
      {a.chance && <ChancePart line={a.chance} />}
      {mayDecide && <Propose answer={a} short={does?.short ?? null} opener={propose} />}
      {mayDecide && (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            onRefuse(why);
          }}
        >
          <label className="flex flex-col gap-1 text-xs font-semibold text-ink-2">
            Why not, for them to read
            <input
              ref={reason}
              className="entry font-normal"
              maxLength={300}
              value={why}
              onChange={(e) => setWhy(e.target.value)}
            />
          </label>
          <div>
            <Button type="submit" disabled={busy || why.trim().length < 3}>
              Refuse it
            </Button>
          </div>
        </form>
      )}
    </>
  );
}

/** What we propose in its place: what they said to begin with, with what is short on the day on which it is wanted. */
function Propose({
  answer: a,
  short,
  opener,
}: {
  answer: OpenAnswer;
  short: LeftShort | null;
  opener: RefObject<(() => void) | null>;
}) {
  const w = useWriting();
  const said = a.said.parts ?? a.standing;
  // What is short is in stock units; they sell by their own.
  const begin = short ? askedSooner(said, short.due, Math.ceil(short.quantity / a.perUnit) * 10_000) : said;
  const [more, setMore] = useState(0);
  const parts = [...begin, ...Array.from({ length: more }, () => null)];
  return (
    <SlipForm<AnswerWord>
      does="counter"
      fields={{ order: a.order, version: a.version, answer: a.id, line: a.line }}
      label="Propose something else…"
      send="Propose it"
      opener={opener}
    >
      {parts.map((p, i) => (
        <div key={`part ${i + 1}`} className="grid grid-cols-2 gap-2">
          <TextField
            label={i === 0 ? `How many (${a.unit})` : "and then"}
            name={`quantity.${i}`}
            inputMode="decimal"
            defaultValue={p ? decimalText(p.quantity, 4) : ""}
          />
          <DateField label="On" name={`day.${i}`} defaultValue={p?.day ?? ""} min={w.today} />
        </div>
      ))}
      {parts.length < 12 && (
        <button type="button" className="self-start text-xs underline" onClick={() => setMore((n) => n + 1)}>
          Another part
        </button>
      )}
      <TextField label="Price, if another" name="price" inputMode="decimal" />
      <TextField label="A word to them" name="remark" maxLength={300} />
    </SlipForm>
  );
}

const Row = ({ label, value }: { label: string; value: string }) => (
  <div className="flex justify-between py-0.5">
    <dt className="text-ink-2">{label}</dt>
    <dd className="figure">{value}</dd>
  </div>
);
