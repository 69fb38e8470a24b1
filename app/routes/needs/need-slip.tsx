import { useState } from "react";
import { Form, Link } from "react-router";
import type { SourcingId, SupplierId } from "../../../core/ids";
import { factorOf, parseQuantity, purchase, quantityText, toStock } from "../../../core/numbers/quantity";
import { shownChance } from "../../../core/suppliers/chance";
import { count } from "../../../core/text";
import type { NeedRow as Row } from "../../../server/queries/needs/needs";
import type { NeedSlip as Slip } from "../../../server/queries/needs/slip";
import { ChancePart } from "../../parts/chance";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { RecordForm, SelectField } from "../../ui/form";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { StepLine } from "../../ui/step-line";
import { newKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { DecideLine } from "../requisitions/decide-line";
import { AddSupplier } from "./add-supplier";
import type { NeedWord } from "./need-acts";

interface Props {
  need: Row;
  showSum: boolean;
  fresh: unknown;
  address: string;
  /** May this person choose, change and meet it? */
  mayAct: boolean;
  typed: string | null;
  onSource: (sourcing: SourcingId | null) => void;
}

/** About the selected need: how stock goes on, why this much, who can send it, what could stand in. */
export function NeedSlipPanel({ need, showSum, fresh, address, mayAct, typed, onSource }: Props) {
  const { slip, lost } = useSlip<Slip>(`/needs/slip?${address}&key=${encodeURIComponent(need.key)}`, fresh);
  const quantity = typed === null ? null : parseQuantity(typed);
  const buy = quantity?.ok ? quantity.value : need.buy;
  return (
    <>
      <SlipHead over={`${need.code} · ${need.storeName} store`} title={need.name}>
        <p className="mt-1 text-ink-2">
          <Whence need={need} />
        </p>
        {need.item !== null && (
          <Link className="text-xs underline" to={`/items/${need.item}`}>
            All about this item
          </Link>
        )}
        {need.aboveMaximum && (
          <p className="mt-1 font-semibold text-signal">Goes above the most this store should hold.</p>
        )}
      </SlipHead>
      {lost && (
        <p className="text-signal">
          This need is gone, or the connection is. The sheet is read again when either changes.
        </p>
      )}
      {slip?.bench && (
        <p>
          Lies on the bench{" "}
          <Link className="font-semibold underline" to={`/bench/${slip.bench.id}`}>
            {slip.bench.name}
          </Link>
          .
        </p>
      )}
      {slip && slip.levels.length > 0 && (
        <StepLine
          levels={slip.levels}
          last={slip.last}
          reorderPoint={slip.reorderPoint}
          arrivals={slip.stirs.filter((s) => s.quantity > 0)}
          needed={slip.neededOn}
          lands={
            slip.arrives && buy > 0 ? { day: slip.arrives, adds: toStock(purchase(buy), factorOf(slip.factor)) } : null
          }
          unit={need.stockUnit}
        />
      )}
      {slip && showSum && <SumSheet sum={slip.sum} />}
      {slip && (slip.parts.length > 0 || slip.twins > 0) && mayAct && need.item !== null && (
        <Merging need={need} twins={slip.twins} parts={slip.parts} />
      )}
      {slip && slip.suppliers.length > 0 && mayAct && need.requisition && need.item === null && (
        <ChooseSupplier line={need.requisition.line} suppliers={slip.suppliers} chosen={need.supplier?.id} />
      )}
      {slip && (slip.offers.length > 0 || need.item !== null) && (
        <WhoCanSend need={need} offers={slip.offers} mayAct={mayAct} onSource={onSource} fresh={fresh} />
      )}
      {slip?.chance && <ChancePart line={slip.chance} lead="If it is ordered today" />}
      {slip && slip.elsewhere.length > 0 && <Elsewhere need={need} rows={slip.elsewhere} mayAct={mayAct} />}
      {slip && need.usage.last30 + need.usage.before + need.usage.after > 0 && <UsedLately need={need} />}
      {mayAct && need.requisition && (
        <DecideLine
          line={need.requisition.line}
          quantity={quantityText(need.wanted)}
          unit={need.stockUnit}
          others={[...new Map(slip?.elsewhere.filter((e) => e.note !== null).map((e) => [e.item, e])).values()]}
        />
      )}
      {mayAct && need.noted && (
        <SlipForm<NeedWord> does="drop noted" fields={{ noted: need.noted.id }} label="Put aside…" send="Put it aside">
          <input
            name="reason"
            aria-label="Why it is put aside"
            placeholder="why"
            maxLength={200}
            className="entry w-full"
          />
        </SlipForm>
      )}
    </>
  );
}

/** Who can send it. What is chosen shows at once; the row follows when the server has it. */
function Offers({
  need,
  offers,
  mayAct,
  onSource,
}: {
  need: Row;
  offers: Slip["offers"];
  mayAct: boolean;
  onSource: Props["onSource"];
}) {
  const w = useWriting();
  const [ahead, setAhead] = useState<{ of: unknown; sourcing: SourcingId } | null>(null);
  const chosen = ahead?.of === offers ? ahead.sourcing : offers.find((o) => o.chosen)?.sourcing;
  return (
    <table className="w-full border border-rule bg-sheet text-xs">
      <caption className="sr-only">
        Suppliers, price per {need.stockUnit}, arrival and chance to be in time if ordered today
      </caption>
      <tbody>
        {offers.map((o) => (
          <tr
            key={o.sourcing}
            className={`border-b border-rule-2 last:border-0 ${o.sourcing === chosen ? "bg-here" : ""}`}
          >
            {mayAct && (
              <td className="w-7 pl-2.5">
                <input
                  type="radio"
                  name={`source ${need.key}`}
                  aria-label={`Order from ${o.supplier}`}
                  className="align-middle accent-harbour"
                  checked={o.sourcing === chosen}
                  onChange={() => {
                    setAhead({ of: offers, sourcing: o.sourcing });
                    onSource(o.preferred && need.source !== "floor" ? null : o.sourcing);
                  }}
                />
              </td>
            )}
            <th scope="row" className={`py-1 pl-2 text-left ${o.preferred ? "font-semibold" : "font-normal"}`}>
              {o.supplier}
              <span className="block text-2xs font-normal text-ink-3">
                {o.preferred ? "preferred, " : ""}
                {o.from}
              </span>
            </th>
            <td className="figure px-2 text-right whitespace-nowrap">
              {o.perStockUnit === null ? "–" : `${w.price(o.perStockUnit, o.currency)}`}
              <span className="ml-1 font-sans text-2xs text-ink-3">
                {o.currency}/{need.stockUnit}
              </span>
            </td>
            <td className={`pr-2.5 text-right whitespace-nowrap ${o.late ? "font-semibold text-signal" : ""}`}>
              {o.arrives ? w.day(o.arrives, false) : "never"}
              {o.late && <span className="sr-only"> too late</span>}
              {o.chance && (
                <span className="figure block text-2xs font-normal text-ink-2">
                  {w.percent(shownChance(o.chance.basisPoints))}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Merging({ need, twins, parts }: { need: Row; twins: number; parts: Slip["parts"] }) {
  const w = useWriting();
  const busy = useBusy();
  const merged = parts.length > 0;
  return (
    <SlipPart title={merged ? `${count(parts.length, "need")} in one row` : "More needs of the same"}>
      {merged && (
        <ul className="mb-2 border border-rule bg-sheet">
          {parts.map((p) => (
            <li
              key={p.key}
              className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 text-xs last:border-0"
            >
              <span className="truncate">
                {p.href ? (
                  <Link className="underline" to={p.href}>
                    {p.by}
                  </Link>
                ) : (
                  p.by
                )}
                <span className="text-ink-3">, by {w.day(p.neededOn, false)}</span>
              </span>
              <span className="figure whitespace-nowrap">
                {w.quantity(p.wanted)} {need.stockUnit}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Form method="post" preventScrollReset>
        <input type="hidden" name="do" value={(merged ? "part" : "merge") satisfies NeedWord} />
        <input type="hidden" name="item" value={need.item ?? ""} />
        <input type="hidden" name="store" value={need.store} />
        <input type="hidden" name="key" value={newKey()} suppressHydrationWarning />
        {!merged && (
          <p className="mb-1.5 text-ink-2">
            {count(twins, "other need")} of this item stand{twins === 1 ? "s" : ""} in the sheet for this store, too.
          </p>
        )}
        <Button type="submit" disabled={busy}>
          {merged ? "Let them stand apart" : "Let them stand as one row"}
        </Button>
      </Form>
    </SlipPart>
  );
}

function Elsewhere({ need, rows, mayAct }: { need: Row; rows: Slip["elsewhere"]; mayAct: boolean }) {
  const w = useWriting();
  return (
    <SlipPart title="Free elsewhere, or in its place">
      <ul className="border border-rule bg-sheet">
        {rows.map((e) => (
          <li key={`${e.item}/${e.store}`} className="border-b border-rule-2 px-2.5 py-1.5 text-xs last:border-0">
            <div className="flex justify-between gap-3">
              <span className="min-w-0 truncate">
                {e.note === null ? (
                  <b>{e.storeName}</b>
                ) : (
                  <>
                    <Link className="font-semibold underline" to={`/items/${e.item}`}>
                      {e.name}
                    </Link>
                    , {e.storeName}
                  </>
                )}
              </span>
              <span className="figure whitespace-nowrap">
                {w.quantity(e.free)} {e.unit === "each" ? "" : e.unit} free
              </span>
            </div>
            {e.note && <p className="text-ink-3">{e.note}</p>}
            {mayAct && e.store !== need.store && (
              <SlipForm<NeedWord>
                does="transfer"
                fields={{ need: need.key, item: e.item, from: e.store }}
                label="Bring it over…"
                send="Plan the transfer"
              >
                <label className="flex items-center gap-2">
                  <span className="sr-only">How much, in {e.unit}</span>
                  <input
                    name="quantity"
                    defaultValue={quantityText(Math.min(e.free, need.wanted))}
                    inputMode="decimal"
                    maxLength={20}
                    className="entry w-24 text-right font-mono"
                  />
                  {e.unit}
                </label>
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

/** Who supplies what was asked for in free words. */
function ChooseSupplier({
  line,
  suppliers,
  chosen,
}: {
  line: number;
  suppliers: { id: SupplierId; name: string }[];
  chosen: number | undefined;
}) {
  return (
    <RecordForm<NeedWord> does="choose supplier" fields={{ line }} send="Choose" saved="Chosen.">
      {(at) => (
        <SelectField
          label="Who does it"
          name="supplier"
          defaultValue={chosen}
          options={suppliers.map((s) => ({ value: s.id, label: s.name }))}
          problem={at("supplier")}
        />
      )}
    </RecordForm>
  );
}

/** Where the need comes from. */
function Whence({ need }: { need: Props["need"] }) {
  const w = useWriting();
  return (
    <>
      {need.requisition && (
        <>
          <Link className="underline" to={`/requisitions/${need.requisition.id}`}>
            {need.requisition.number}
          </Link>
          , {need.requisition.asker} needs it by {w.day(need.neededOn)}
        </>
      )}
      {need.noted && `Noted by ${need.noted.by}${need.noted.note ? `: ${need.noted.note}` : ""}`}
      {!need.requisition && !need.noted && need.forJob && `Short for ${need.forJob}`}
    </>
  );
}

function WhoCanSend({
  need,
  offers,
  mayAct,
  onSource,
  fresh,
}: {
  need: Props["need"];
  offers: Slip["offers"];
  mayAct: boolean;
  onSource: Props["onSource"];
  fresh: unknown;
}) {
  return (
    <SlipPart title="Who can send it">
      {offers.length > 0 && <Offers need={need} offers={offers} mayAct={mayAct} onSource={onSource} />}
      {offers.length === 0 && (
        <p className="font-semibold text-signal">Nobody is set up to sell this item, so it cannot be ordered yet.</p>
      )}
      {mayAct && need.item !== null && <AddSupplier item={need.item} stockUnit={need.stockUnit} fresh={fresh} />}
    </SlipPart>
  );
}

function UsedLately({ need }: { need: Props["need"] }) {
  const w = useWriting();
  return (
    <p className="text-ink-2">
      <Link className="underline decoration-rule" to={`/items/${need.item}/movements?store=${need.store}`}>
        Used {w.quantity(need.usage.last30)} {need.stockUnit}
      </Link>{" "}
      in the last 30 days. Same weeks last year: {w.quantity(need.usage.before)} before, {w.quantity(need.usage.after)}{" "}
      after.
      {need.cover !== null && ` On hand covers ${w.quantity(need.cover * 1000)} days.`}
    </p>
  );
}
