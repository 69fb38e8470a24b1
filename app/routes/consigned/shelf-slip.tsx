import type { RefObject } from "react";
import { Link } from "react-router";
import { LOOKED_AT } from "../../../core/consigned/outlook";
import { USED_WORDS } from "../../../core/consigned/use";
import { quantityText } from "../../../core/numbers/quantity";
import { unitWords } from "../../../core/text";
import type { ShelfRow, ShelfSlip, SlipMoney, UsedLine } from "../../../server/queries/consigned/shelves";
import { SlipForm } from "../../parts/slip-form";
import { TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { RipeWays } from "./ripe-ways";
import type { ShelfWord } from "./shelf-acts";

export interface ShelfRights {
  moves: boolean;
  uses: boolean;
  asks: boolean;
  orders: boolean;
}
type Opener = RefObject<(() => void) | null>;

/** Goods of one item that a supplier has here: what becomes of them, and what may be done. */
export function ShelfSlipView({
  row: r,
  slip,
  money,
  may,
  openers,
}: {
  row: ShelfRow;
  slip: ShelfSlip;
  money: SlipMoney | null;
  may: ShelfRights;
  openers: { use: Opener; way: Opener };
}) {
  const w = useWriting();
  const next = slip.ripening.find((x) => x.becomes > 0) ?? slip.ripening[0] ?? null;
  return (
    <>
      <SlipHead
        over={`${r.code} · ${r.storeName}`}
        title={
          next && next.becomes > 0 ? `${w.quantity(next.becomes)} become ours on ${w.day(next.oursOn, true)}` : r.name
        }
      >
        <p className="mt-1 text-ink-2">
          {next
            ? next.becomes > 0
              ? `${w.quantity(next.left)} are left of what came on ${w.day(next.day, false)}; you use ${w.quantity(r.used30)} in ${LOOKED_AT} days.`
              : `You use ${w.quantity(r.used30)} in ${LOOKED_AT} days: what is here will be used before it becomes ours.`
            : r.here > 0
              ? "They stay theirs until they are used."
              : "None of theirs are here."}
        </p>
      </SlipHead>
      {next && r.here > 0 && (
        <RipeWays
          row={r}
          next={next}
          slip={slip}
          money={money}
          asks={may.asks}
          moves={may.moves}
          opener={openers.way}
        />
      )}
      {may.uses && r.here > 0 && <UseForm row={r} slip={slip} opener={openers.use} job={!may.moves} />}
      <SumSheet sum={slip.stands} />
      {money && <Unsettled money={money} row={r} />}
      <Uses slip={slip} row={r} takes={may.moves} orders={may.orders} />
      <LeastAndMost row={r} slip={slip} />
      <ByMonth slip={slip} unit={r.unit} />
      {money?.holding && <SumSheet sum={money.holding} />}
      <p className="text-xs text-ink-2">
        <Link className="underline" to={`/items/${r.item}`}>
          The item
        </Link>
        ,{" "}
        <Link className="underline" to={`/items/${r.item}/movements?store=${r.store}`}>
          its movements
        </Link>
      </p>
    </>
  );
}

function UseForm({ row: r, slip, opener, job }: { row: ShelfRow; slip: ShelfSlip; opener: Opener; job: boolean }) {
  const w = useWriting();
  return (
    <SlipForm<ShelfWord>
      does="use"
      fields={{ store: r.store, item: r.item, owner: r.supplier }}
      label="Use some of it for a job, or for somebody"
      send="Use it"
      opener={opener}
    >
      <UnitField label="How much" name="quantity" unit={r.unit} />
      <SelectField
        label="Job"
        name="job"
        defaultValue={String(slip.jobs[0]?.job ?? "")}
        options={[
          ...slip.jobs.map((j) => ({
            value: String(j.job),
            label: `${j.name} wants ${w.quantity(j.open)} ${unitWords(j.open, r.unit)}`,
          })),
          ...(job ? [] : [{ value: "", label: "no job" }]),
        ]}
      />
      {!job && <TextField label="Who gets it and what for, where there is no job" name="reason" maxLength={300} />}
      <p className="text-xs text-ink-2">
        The oldest goes first. Order, receipt and issue write themselves at the agreed price.
      </p>
    </SlipForm>
  );
}

/** What is on no statement yet. */
function Unsettled({ money: m, row: r }: { money: SlipMoney; row: ShelfRow }) {
  const w = useWriting();
  if (m.unsettled.length === 0) return null;
  return (
    <SlipPart title="On no use statement yet">
      <table className="w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">On no use statement yet</caption>
        <tbody>
          {m.unsettled.map((u) => (
            <tr key={u.id} className="h-6">
              <th scope="row" className="pl-2.5 text-left font-normal text-ink-2">
                {w.day(u.day, false)} · {u.what === "used" ? u.about : USED_WORDS[u.what]}
              </th>
              <td className="figure px-2 text-right whitespace-nowrap">{w.quantity(u.quantity)}</td>
              <td className="figure pr-2.5 text-right whitespace-nowrap">{w.money(u.net, m.currency)}</td>
            </tr>
          ))}
          <tr className="h-6 border-t-[1.5px] border-ink font-semibold">
            <th scope="row" className="pl-2.5 text-left font-semibold">
              {r.name}, {m.currency}
            </th>
            <td />
            <td className="figure pr-2.5 text-right">{w.money(m.unsettledNet, m.currency)}</td>
          </tr>
        </tbody>
      </table>
    </SlipPart>
  );
}

/** The last uses, each of which can be taken back. */
function Uses({ slip, row: r, takes, orders }: { slip: ShelfSlip; row: ShelfRow; takes: boolean; orders: boolean }) {
  const w = useWriting();
  if (slip.uses.length === 0) return null;
  return (
    <SlipPart title="What was used">
      <ul className="border border-rule bg-sheet text-xs">
        {slip.uses.map((u) => (
          <li key={u.id} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
            <p className="flex justify-between gap-3">
              <span>
                {w.day(u.day, false)} · {aboutUse(u)}{" "}
                {orders && (
                  <Link className="code underline" to={`/orders/${u.orderId}`}>
                    {u.order}
                  </Link>
                )}
              </span>
              <span className="figure whitespace-nowrap">{w.quantity(u.quantity)}</span>
            </p>
            {takes && u.open > 0 && (u.what === "used" || u.what === "lost") && (
              <SlipForm<ShelfWord>
                does="take back"
                fields={{ use: u.id }}
                label={u.what === "lost" ? "It was found" : "Take it back"}
                send="Take back"
              >
                <UnitField label="How much" name="quantity" unit={r.unit} defaultValue={quantityText(u.open)} />
                <TextField
                  label="Into bin, or empty where theirs lie"
                  name="bin"
                  maxLength={20}
                  autoCapitalize="characters"
                />
                <TextField
                  label="Why"
                  name="reason"
                  maxLength={300}
                  defaultValue={u.what === "lost" ? "found again" : "not used"}
                />
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

const aboutUse = (u: UsedLine): string =>
  u.what === "used" ? (u.job ?? u.note) : `${USED_WORDS[u.what]}${u.job ? `, ${u.job}` : ""}`;

function LeastAndMost({ row: r, slip }: { row: ShelfRow; slip: ShelfSlip }) {
  const w = useWriting();
  const lm = slip.leastMost;
  return (
    <>
      <SlipPart title="Least and most">
        {lm ? (
          <p className="text-ink-2">
            {w.quantity(r.least)} lasts {lm.lasts} days at what you use. By use and refill times{" "}
            <b className="text-ink">{w.quantity(lm.least)} would do</b>
            {lm.most === null
              ? "."
              : lm.most < r.most
                ? `, and of the most only ${w.quantity(lm.most)} are used before they become ours.`
                : `; the most, ${w.quantity(r.most)}, is used before it becomes ours.`}
          </p>
        ) : (
          <p className="text-ink-2">
            Least {w.quantity(r.least)}, most {w.quantity(r.most)}. Nothing was used yet that would say whether they are
            right.
          </p>
        )}
      </SlipPart>
      {lm && <SumSheet sum={lm.sum} />}
      <SumSheet sum={slip.refill} />
    </>
  );
}

/** Use by month, as bars. */
function ByMonth({ slip, unit }: { slip: ShelfSlip; unit: string }) {
  const w = useWriting();
  const most = Math.max(...slip.byMonth.map((m) => m.quantity), 1);
  if (slip.byMonth.every((m) => m.quantity === 0)) return null;
  const name = (month: string) =>
    new Intl.DateTimeFormat(w.locale, { month: "short", timeZone: "UTC" }).format(new Date(`${month}-15T00:00:00Z`));
  return (
    <SlipPart title={`Used by month, ${unit}`}>
      <ol className="flex h-20 items-end gap-1 border border-rule bg-sheet px-2 pt-2">
        {slip.byMonth.map((m) => (
          <li key={m.month} className="flex h-full flex-1 flex-col items-center justify-end">
            <span className="sr-only">
              {m.month}: {w.quantity(m.quantity)}
            </span>
            <span
              aria-hidden
              title={w.quantity(m.quantity)}
              className="w-full bg-harbour"
              style={{ height: `${(76 * Math.max(0, m.quantity)) / most}%` }}
            />
            <span aria-hidden className="text-2xs text-ink-3">
              {name(m.month)}
            </span>
          </li>
        ))}
      </ol>
    </SlipPart>
  );
}
