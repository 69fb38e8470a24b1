import { type RefObject, useState } from "react";
import { Link } from "react-router";
import type { OpenAnswer } from "../../../server/queries/suppliers/answers";
import { ChancePart } from "../../parts/chance";
import { differenceWords, partsWords } from "../../parts/said-words";
import { Button } from "../../ui/button";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** What taking it would do, in a few words; whether somebody waits for it. */
export function doesWords(a: OpenAnswer, w: ReturnType<typeof useWriting>): { says: string; waits: boolean } {
  const waits = a.laterBy > 0 && a.jobs !== null && a.lastSaid !== null && a.lastSaid > a.wanted;
  if (a.said.parts?.length === 0)
    return { says: a.jobs ? `${a.jobs} goes without` : "nothing comes any more", waits: a.jobs !== null };
  if (waits) return { says: `${a.jobs} waits`, waits };
  if (a.costs) return { says: `${a.costs > 0 ? "+" : "−"}${w.amount(Math.abs(a.costs))}`, waits: false };
  if (a.lastSaid !== null && a.lastSaid <= a.wanted) return { says: "in time all the same", waits: false };
  return { says: a.laterBy > 0 ? "later than wanted" : "the cost stays", waits: false };
}

/** One answer: who said it, against what stands, what it costs; refused with a reason. */
export function AnswerSlip({
  answer: a,
  mayDecide,
  busy,
  reason,
  onRefuse,
}: {
  answer: OpenAnswer;
  mayDecide: boolean;
  busy: boolean;
  reason: RefObject<HTMLInputElement | null>;
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
      <SlipPart title="The line">
        <dl className="border border-rule bg-sheet">
          {facts.map(([what, is]) => (
            <div key={what} className="flex justify-between gap-4 border-b border-rule-2 px-2.5 py-1 last:border-0">
              <dt className="shrink-0 text-ink-2">{what}</dt>
              <dd className="text-right">{is}</dd>
            </div>
          ))}
        </dl>
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

const Row = ({ label, value }: { label: string; value: string }) => (
  <div className="flex justify-between py-0.5">
    <dt className="text-ink-2">{label}</dt>
    <dd className="figure">{value}</dd>
  </div>
);
