import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import type { ItemSheet } from "../../../server/queries/records/item";
import { Button } from "../../ui/button";
import { TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { useWriting } from "../../ui/locale";
import { TideBar } from "../../ui/signs";
import { StepLine } from "../../ui/step-line";
import type { ItemWord } from "./item-acts";

/** An item's stock by store: figures, lots, how it goes on, and when it is reordered. */
export function StockPart({
  sheet,
  stores,
  maySource,
}: {
  sheet: ItemSheet;
  stores: { id: StoreId; name: string }[];
  maySource: boolean;
}) {
  const { head, kept } = sheet;
  const [open, setOpen] = useState<number | null>(null);
  const others = stores.filter((s) => !kept.some((k) => k.store === s.id));
  return (
    <div className="border-t border-rule">
      {kept.length === 0 && <p className="px-4.5 py-3 text-ink-2">No store keeps this item yet.</p>}
      {kept.map((k) => (
        <StoreStock
          key={k.store}
          kept={k}
          sheet={sheet}
          open={open === k.store}
          onOpen={maySource ? () => setOpen(open === k.store ? null : k.store) : null}
        />
      ))}
      {maySource && others.length > 0 && (
        <div className="px-4.5 py-3">
          {others.map((s) =>
            open === s.id ? (
              <section key={s.id} aria-label={s.name}>
                <h2 className="mb-2 text-base font-bold">{s.name}</h2>
                <Reordering unit={head.unitName} store={s.id} kept={null} />
              </section>
            ) : (
              <Button key={s.id} look="plain" className="mr-4 px-0 text-xs" onClick={() => setOpen(s.id)}>
                Keep it at {s.name}, too…
              </Button>
            ),
          )}
        </div>
      )}
    </div>
  );
}

/** One store: what lies there, what moves it, and when it is bought again. */
function StoreStock({
  kept: k,
  sheet,
  open,
  onOpen,
}: {
  kept: Kept;
  sheet: ItemSheet;
  open: boolean;
  onOpen: (() => void) | null;
}) {
  const w = useWriting();
  const { head } = sheet;
  return (
    <section
      aria-label={k.name}
      className="grid grid-cols-[minmax(0,1fr)_380px] gap-5 border-b border-rule px-4.5 py-3 max-lg:grid-cols-1"
    >
      <div>
        <h2 className="flex items-baseline gap-2 text-base font-bold">
          {k.name} {k.bin && <span className="code font-normal">bin {k.bin}</span>}
        </h2>
        <dl className="mt-1 grid grid-cols-4 gap-x-4 gap-y-1 max-md:grid-cols-2">
          <Fact term="On hand">
            <Link className="underline decoration-rule" to={`/items/${head.id}/movements?store=${k.store}`}>
              {w.quantity(k.onHand)}
            </Link>
          </Fact>
          {k.theirs > 0 && (
            <Fact term={k.theirsCounted ? "Suppliers’, counted" : "Suppliers’, not counted"}>
              <Link className="underline decoration-rule" to={`/consigned?store=${k.store}`}>
                {w.quantity(k.theirs)}
              </Link>
            </Fact>
          )}
          <Fact term="Committed">{w.quantity(k.committed)}</Fact>
          <Fact term="On order">{w.quantity(k.onOrder)}</Fact>
          <Fact term="Available">{w.quantity(k.available)}</Fact>
          <Fact term="Reorder point">{w.quantity(k.reorderPoint)}</Fact>
          <Fact term="Used, 30 days">{w.quantity(k.usage.last30)}</Fact>
          <Fact term="A year ago">
            {w.quantity(k.usage.before)}, {w.quantity(k.usage.after)}
          </Fact>
          <Fact term="Days of cover">{k.cover === null ? "–" : w.quantity(k.cover * 1000)}</Fact>
        </dl>
        <div className="mt-2 max-w-72">
          <TideBar available={k.onHand - k.unusable} reorderPoint={k.reorderPoint} unit={head.unitName} />
        </div>
        <p className="mt-1 text-xs text-ink-2">
          {k.theirsCounted && "Its supplier refills it, so it is bought for what is lacking alone. Else: "}
          {policyWords(k, head.unitName, w.quantity)}; looked at every {k.reviewDays} days
          {k.maximum !== null && `; at most ${w.quantity(k.maximum)} ${head.unitName}`}.
          {k.unusable > 0 && (
            <b className="text-signal">
              {" "}
              {w.quantity(k.unusable)} {head.unitName} may not be used.
            </b>
          )}
        </p>
        {k.lots.length > 0 && <Lots kept={k} />}
        {onOpen && (
          <Button look="plain" className="mt-1 px-0 text-xs" onClick={onOpen}>
            {open ? "Leave it" : "Change when it reorders…"}
          </Button>
        )}
      </div>
      <div>
        <StepLine
          levels={k.levels}
          last={sheet.last}
          reorderPoint={k.reorderPoint}
          arrivals={k.stirs.filter((s) => s.quantity > 0)}
          lands={null}
          unit={head.unitName}
        />
        {k.stirs.length > 0 && <Stirs kept={k} />}
      </div>
      {open && <Reordering unit={head.unitName} store={k.store} kept={k} />}
    </section>
  );
}

function Lots({ kept: k }: { kept: Kept }) {
  const w = useWriting();
  return (
    <ul className="mt-2 border border-rule text-xs" aria-label={`Lots at ${k.name}`}>
      {k.lots.map((l) => {
        const over = l.expires !== null && l.expires < w.today;
        return (
          <li
            key={`${l.lot}/${l.bin}`}
            className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 last:border-0"
          >
            <span>
              <b className="font-mono">{l.lot}</b> {l.bin && <span className="code">bin {l.bin}</span>}
            </span>
            <span className={over || l.held ? "font-semibold text-signal" : "text-ink-2"}>
              {l.held ? `held: ${l.held}` : l.expires ? `${over ? "expired" : "until"} ${w.day(l.expires)}` : ""}
            </span>
            <span className="figure">{w.quantity(l.onHand)}</span>
          </li>
        );
      })}
    </ul>
  );
}

function Stirs({ kept: k }: { kept: Kept }) {
  const w = useWriting();
  return (
    <ul className="text-xs" aria-label={`What moves the stock at ${k.name}`}>
      {k.stirs.slice(0, 6).map((s, i) => (
        <li key={i} className="flex justify-between gap-3">
          <span className="truncate">
            {s.href ? (
              <Link className="underline decoration-rule" to={s.href}>
                {s.label}
              </Link>
            ) : (
              s.label
            )}
            {s.doubtful && <b className="text-signal"> overdue, doubtful</b>}
          </span>
          <span className="whitespace-nowrap">
            <span className="text-ink-3">{w.day(s.day, false)}</span>{" "}
            <span className="figure inline-block w-16 text-right">
              {s.quantity > 0 ? "+" : ""}
              {w.quantity(s.quantity)}
            </span>
          </span>
        </li>
      ))}
      {k.stirs.length > 6 && <li className="text-ink-3">and {k.stirs.length - 6} more</li>}
    </ul>
  );
}

function Fact({ term, children }: { term: string; children: ReactNode }) {
  return (
    <div>
      <dt className="text-2xs text-ink-3">{term}</dt>
      <dd className="figure">{children}</dd>
    </div>
  );
}

type Kept = ItemSheet["kept"][number];
function policyWords(k: Kept, unit: string, quantity: (n: number) => string): string {
  switch (k.policy) {
    case "top up":
      return `Topped up to ${quantity(k.level)} ${unit}`;
    case "fixed lot":
      return `Bought in lots of ${quantity(k.lot)} ${unit}`;
    case "larger of":
      return `The larger of ${quantity(k.lot)} ${unit} and the shortfall`;
    case "shortfall":
      return "Just the shortfall";
    case "days of cover":
      return `${k.coverDays} days of cover`;
    case "to order":
      return "Bought only for what is lacking";
  }
}

const POLICIES = [
  { value: "larger of", label: "the larger of lot and shortfall" },
  { value: "fixed lot", label: "whole lots" },
  { value: "top up", label: "up to a level" },
  { value: "shortfall", label: "just the shortfall" },
  { value: "days of cover", label: "days of cover" },
  { value: "to order", label: "only what is lacking" },
];

function Reordering({ unit, store, kept }: { unit: string; store: StoreId; kept: Kept | null }) {
  const [policy, setPolicy] = useState<string>(kept?.policy ?? "larger of");
  const q = (n: number | null | undefined) => (n ? quantityText(n) : "");
  return (
    <RecordForm<ItemWord>
      does="keep reordering"
      fields={{ store }}
      send="Keep"
      className="col-span-full grid max-w-3xl grid-cols-4 gap-3 max-md:grid-cols-2"
    >
      {(at) => (
        <>
          <SelectField
            label="How much"
            name="policy"
            options={POLICIES}
            value={policy}
            onChange={(e) => setPolicy(e.target.value)}
            problem={at("policy")}
            className="col-span-2"
          />
          <TextField
            label={`Reorder point, ${unit}`}
            name="reorderPoint"
            defaultValue={q(kept?.reorderPoint)}
            inputMode="decimal"
            problem={at("reorderPoint") ?? at("reorder_point")}
          />
          <TextField
            label="Looked at every, days"
            name="reviewDays"
            defaultValue={kept?.reviewDays ?? 7}
            inputMode="numeric"
            problem={at("reviewDays")}
          />
          <TextField
            label={`Lot, ${unit}`}
            name="lot"
            defaultValue={q(kept?.lot)}
            inputMode="decimal"
            problem={at("lot")}
          />
          <TextField
            label={`Level, ${unit}`}
            name="level"
            defaultValue={q(kept?.level)}
            inputMode="decimal"
            problem={at("level")}
          />
          <TextField
            label="Days of cover"
            name="coverDays"
            defaultValue={kept?.coverDays || ""}
            inputMode="numeric"
            problem={at("coverDays")}
          />
          <TextField
            label={`At most, ${unit}`}
            name="maximum"
            defaultValue={q(kept?.maximum)}
            inputMode="decimal"
            problem={at("maximum")}
          />
          <TextField label="Rack" name="bin" defaultValue={kept?.bin ?? ""} maxLength={20} problem={at("bin")} />
        </>
      )}
    </RecordForm>
  );
}
