import { useEffect, useRef, useState } from "react";
import type { Day } from "../../core/calendar/day";
import type { SourcingId, StoreId } from "../../core/ids";
import { quantityText } from "../../core/numbers/quantity";
import { bestDepot, type Served, servedFrom } from "../../core/suppliers/their-stock";
import type { HeardStock } from "../../server/acts/suppliers/ask-stock";
import type { SaidToday, TheirStock } from "../../server/queries/suppliers/their-stock";
import { answerOf } from "../ui/answer-of";
import { Button } from "../ui/button";
import { SlipPart } from "../ui/frame-parts";
import { useKeys } from "../ui/keys";
import { useWriting } from "../ui/locale";
import { newKey } from "../ui/submission";
import { SumSheet } from "../ui/sum";
import { useSlip } from "../ui/use-slip";

/** What is asked about: records of what suppliers sell, each with how much. */
export interface AskedOf {
  sourcing: SourcingId;
  quantity: number;
}

/** What suppliers say of some records today, and how to ask them now; `also` is asked about in the same breath. */
export function useTheirStock(
  of: readonly AskedOf[],
  {
    store,
    wanted,
    also = [],
    fresh,
  }: {
    store: StoreId;
    wanted: Day;
    also?: readonly AskedOf[];
    /** What is read again when it changes, such as a version. */
    fresh: unknown;
  },
) {
  const [round, setRound] = useState(0);
  const [asking, setAsking] = useState(false);
  const [trouble, setTrouble] = useState<ReadonlyMap<number, string>>(new Map());
  const [refused, setRefused] = useState<string | null>(null);
  const busy = useRef(false);
  const address = of.length ? `/their-stock?of=${of.map((a) => a.sourcing).join(",")}` : null;
  const { slip: read } = useSlip<SaidToday>(address && `${address}&round=${round}`, fresh);
  // While it is read again, what was read before stands: the button that was pressed stays where it is.
  const last = useRef<{ address: string | null; slip: SaidToday } | null>(null);
  if (read) last.current = { address, slip: read };
  const slip = read ?? (last.current?.address === address ? last.current.slip : null);
  const ask = async () => {
    if (busy.current) return;
    busy.current = true;
    setAsking(true);
    const ids = new Set(of.map((a) => a.sourcing));
    const lines = [...of, ...also.filter((a) => !ids.has(a.sourcing))].slice(0, 200);
    try {
      const answer = await fetch("/their-stock", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({
          lines: lines.map((a) => ({ sourcing: a.sourcing, quantity: quantityText(a.quantity) })),
          store,
          wanted,
          key: newKey(),
        }),
      });
      if (answer.redirected) throw new Error("signed out");
      const said = await answerOf<{ ok: boolean; value?: HeardStock; problems?: { says: string }[] }>(answer);
      setRefused(said.ok ? null : (said.problems?.[0]?.says ?? "This could not be asked."));
      setTrouble(said.value ? troubleOf(said.value) : new Map());
    } catch {
      setRefused("There is no connection. Ask again in a moment.");
    } finally {
      busy.current = false;
      setAsking(false);
      setRound((r) => r + 1);
    }
  };
  return { said: slip?.said ?? [], answering: slip?.answering ?? [], asking, ask, trouble, refused };
}

const troubleOf = ({ suppliers, wrong }: HeardStock): Map<number, string> =>
  new Map([
    ...suppliers.flatMap(({ says, lines }) => (says === null ? [] : lines.map((l): [number, string] => [l, says]))),
    ...wrong.map((l): [number, string] => [l.sourcing, l.says]),
  ]);

interface Props {
  of: readonly AskedOf[];
  nameOf: (sourcing: SourcingId) => string;
  stock: ReturnType<typeof useTheirStock>;
  /** Takes a price over, where the person may. */
  onTake: ((said: TheirStock) => void) | null;
}

/** What suppliers have and their price for us today, beside ours. Nothing where none of them can be asked. */
export function TheirStockPart({ of, nameOf, stock, onTake }: Props) {
  const { answering, said, asking, trouble, refused, ask } = stock;
  const able = of.filter((a) => answering.includes(a.sourcing));
  const first = said.find((s) => !s.not && !s.taken);
  const may = onTake !== null && able.length > 0;
  useKeys(
    may
      ? [
          { key: "k", label: "ask what they have", run: () => void ask() },
          ...(first ? [{ key: "t", label: "take their price over", run: () => onTake(first) }] : []),
        ]
      : [],
  );
  // Whoever asked sees what comes: it may lie below what the slip shows.
  const heard = useRef<HTMLDivElement>(null);
  const was = useRef(asking);
  useEffect(() => {
    if (was.current || asking) heard.current?.scrollIntoView({ block: "nearest" });
    was.current = asking;
  });
  if (able.length === 0) return null;
  return (
    <SlipPart title="Their stock, and their price today">
      <div ref={heard} aria-live="polite" className="flex scroll-mb-14 flex-col gap-1.5">
        {able.map(({ sourcing }) => {
          const now = said.find((s) => s.sourcing === sourcing);
          const says = trouble.get(sourcing);
          if (!now && !says) return null;
          return (
            <article key={sourcing} className="border border-rule bg-sheet px-2.5 py-1.5">
              <h3 className="text-xs font-semibold">{nameOf(sourcing)}</h3>
              {says && <p className="text-xs font-semibold text-signal">{says}</p>}
              {now && !says && <Said now={now} takes={now === first} onTake={onTake} />}
            </article>
          );
        })}
        {refused && <p className="text-xs font-semibold text-signal">{refused}</p>}
      </div>
      {may && (
        <Button className="mt-1.5" hint="K" disabled={asking} onClick={() => void ask()}>
          {asking ? "Asking…" : said.length || trouble.size ? "Ask them again" : "Ask what they have"}
        </Button>
      )}
    </SlipPart>
  );
}

/** What one supplier said: price against ours, and each depot. */
function Said({ now, takes, onTake }: { now: TheirStock; takes: boolean; onTake: Props["onTake"] }) {
  const w = useWriting();
  const [open, setOpen] = useState(false);
  const { against, depots, quantity, unit, currency } = now;
  const best = bestDepot(depots, quantity);
  return (
    <>
      <p className="flex items-baseline justify-between gap-2">
        <span className="text-ink-2">theirs, {w.moment(now.at)}</span>
        <span className="figure">
          {now.price === null ? "no price" : w.price(now.price, currency)}{" "}
          <span className="font-sans text-2xs text-ink-3">{`${currency}/${unit}`}</span>
        </span>
      </p>
      {now.ours && !now.taken && (
        <p className="flex items-baseline justify-between gap-2">
          <span className="text-ink-2">ours, {now.ours.words}</span>
          <span className="figure">
            {w.price(now.ours.price, currency)}{" "}
            <span className="font-sans text-2xs text-ink-3">{`${currency}/${unit}`}</span>
          </span>
        </p>
      )}
      <ul className="mt-1 border-t border-rule-2">
        {depots.map((d) => (
          <li
            key={d.depot}
            className={`flex items-baseline justify-between gap-2 py-0.5 ${d === best ? "font-semibold" : "text-ink-2"}`}
          >
            <span className="min-w-0 flex-1 truncate">{d.depot}</span>
            <span className="figure">{w.quantity(d.onHand)}</span>
            <span className="w-[150px] shrink-0 text-right text-xs">{servedWords(servedFrom(d, quantity), w)}</span>
          </li>
        ))}
        {depots.length === 0 && <li className="py-0.5 text-ink-2">They name no depot.</li>}
      </ul>
      <div className="mt-0.5 flex flex-wrap items-center gap-x-3 text-xs">
        {now.taken ? (
          <span className="font-semibold text-weed">Their price is taken over, until {w.day(now.until, false)}.</span>
        ) : now.not ? (
          <span className="text-ink-2">{now.not}</span>
        ) : (
          onTake && (
            <Button hint={takes ? "T" : undefined} onClick={() => onTake(now)}>
              Take their price over
            </Button>
          )
        )}
        {against && !now.taken && (
          <Button look="plain" className="min-h-6 px-0 font-normal" aria-expanded={open} onClick={() => setOpen(!open)}>
            {against.more === 0
              ? "the same as ours"
              : `${w.amount(Math.abs(against.more), currency)} ${against.more > 0 ? "dearer" : "cheaper"} for ${w.quantity(quantity)}`}
          </Button>
        )}
      </div>
      {open && against && <SumSheet sum={against.sum} heading={false} />}
    </>
  );
}

const servedWords = (served: Served, w: ReturnType<typeof useWriting>): string =>
  served.whole
    ? served.arrives
      ? `all here ${w.day(served.arrives, false)}`
      : "all, no day named"
    : served.has > 0
      ? `only ${w.quantity(served.has)}`
      : "none";
