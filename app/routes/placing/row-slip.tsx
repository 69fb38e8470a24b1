import { useState } from "react";
import { Link } from "react-router";
import type { SupplierId } from "../../../core/ids";
import { ONE, parseQuantity, quantityText, type StockQty, stock } from "../../../core/numbers/quantity";
import type { Choice } from "../../../core/placing/choice";
import { landedSum, nextBreak } from "../../../core/placing/landed-sum";
import type { PlacedRow, PlacingProblem } from "../../../core/placing/problem";
import { perStockUnit } from "../../../core/placing/reckon";
import { count, unitWords } from "../../../core/text";
import type { BenchRow } from "../../../server/queries/placing/bench";
import { type AskedOf, TheirStockPart, useTheirStock } from "../../parts/their-stock";
import { Button } from "../../ui/button";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { AddSupplier } from "../needs/add-supplier";
import { SOURCE_WORDS } from "../needs/columns";
import type { Grid } from "./use-bench";

type Act = { what: string } & Record<string, unknown>;

interface Props {
  row: PlacedRow;
  about: BenchRow;
  grid: Grid;
  problem: PlacingProblem;
  mayWrite: boolean;
  splitting: boolean;
  onSplitting: (on: boolean) => void;
  onAct: (act: Act, now?: Choice[]) => void;
  fresh: unknown;
}

/** About one need on the bench: where it goes and why it costs what it costs; locked, split, quantity, set aside. */
export function RowSlip({ row, about, grid, problem, mayWrite, splitting, onSplitting, onAct, fresh }: Props) {
  const w = useWriting();
  const chosen = grid.chosen(row);
  const nameOf = (id: number) => problem.suppliers.find((s) => s.id === id)?.name ?? "";
  return (
    <>
      <SlipHead over={`${about.code} · ${about.storeName}`} title={row.name}>
        <p className="mt-1 text-ink-2">
          <span className="figure">{w.quantity(row.wanted)}</span> {about.unit}
          {about.typed && ` typed, where the need asks for ${w.quantity(about.asked)}`}
          {about.warning
            ? `. It falls below its reorder point on ${w.day(about.neededOn)}; nobody goes without.`
            : ` by ${w.day(about.neededOn)}${about.parts.length ? "" : `, from ${about.forJob ?? SOURCE_WORDS[about.source]}`}.`}
        </p>
        <p className="mt-0.5 text-xs text-ink-3">
          {about.by}, {w.moment(about.at)}
        </p>
      </SlipHead>
      {about.parts.length > 0 && (
        <SlipPart title="Merged from">
          <ul className="border border-rule bg-sheet">
            {about.parts.map((p) => (
              <li key={p.by} className="flex justify-between gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0">
                {p.href ? (
                  <Link to={p.href} className="underline">
                    {p.by}
                  </Link>
                ) : (
                  <span>{p.by}</span>
                )}
                <span className="figure whitespace-nowrap">
                  {w.quantity(p.wanted)} <span className="font-sans text-2xs text-ink-3">{about.unit}</span>
                </span>
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      {row.offers.length === 0 && (
        <p className="border-l-4 border-signal pl-3">
          <b>Nobody sells it yet.</b> Add a supplier here; until then it stays on the bench.
        </p>
      )}
      {chosen.length === 0 && row.offers.length > 0 && (
        <p className="border-l-4 border-signal pl-3">
          <b>No supplier chosen.</b> → takes the first who sells it.
        </p>
      )}
      {chosen.map(({ supplier }) => {
        const landed = grid.cell(row, supplier);
        return landed && <Landed key={supplier} row={row} landed={landed} home={problem.home} />;
      })}
      <Others
        row={row}
        grid={grid}
        home={problem.home}
        nameOf={nameOf}
        mayPick={mayWrite && !about.locked}
        onAct={onAct}
      />
      <RowStock row={row} about={about} grid={grid} nameOf={nameOf} mayWrite={mayWrite} onAct={onAct} fresh={fresh} />
      {mayWrite && splitting && row.offers.length > 1 && (
        <Split
          row={row}
          about={about}
          nameOf={nameOf}
          choices={grid.choices[row.id] ?? []}
          onLeave={() => onSplitting(false)}
          onKeep={(parts) => {
            onSplitting(false);
            onAct(
              { what: "split", parts: parts.map((p) => ({ supplier: p.supplier, share: quantityText(p.share) })) },
              parts.map((p) => ({ ...p, share: parts.length === 1 ? null : p.share, buy: null })),
            );
          }}
        />
      )}
      {mayWrite && (
        <RowActs
          row={row}
          about={about}
          chosen={chosen.length > 0}
          splitting={splitting}
          onSplitting={onSplitting}
          onAct={onAct}
        />
      )}
      {mayWrite && about.item !== null && <AddSupplier item={about.item} stockUnit={about.unit} fresh={fresh} />}
    </>
  );
}

/** What those who sell it have, and their price for us today; taking one over chooses them, too. */
function RowStock({
  row,
  about,
  grid,
  nameOf,
  mayWrite,
  onAct,
  fresh,
}: Pick<Props, "row" | "about" | "grid" | "mayWrite" | "onAct" | "fresh"> & {
  nameOf: (supplier: SupplierId) => string;
}) {
  const of = row.offers.flatMap(({ supplier }): AskedOf[] => {
    const sourcing = about.sourcings[supplier];
    const buys = grid.cell(row, supplier)?.buy;
    return sourcing === undefined ? [] : [{ sourcing, quantity: buys ?? ONE }];
  });
  const stock = useTheirStock(of, { store: about.store, wanted: about.neededOn, fresh });
  const supplierOf = (sourcing: number) => row.offers.find((o) => about.sourcings[o.supplier] === sourcing)?.supplier;
  return (
    <TheirStockPart
      of={of}
      nameOf={(sourcing) => nameOf(supplierOf(sourcing) ?? 0)}
      stock={stock}
      onTake={
        mayWrite && !about.locked
          ? ({ said, supplier }) => onAct({ what: "said", said }, [{ supplier, share: null, buy: null }])
          : null
      }
    />
  );
}

/** What the chosen supplier's goods cost when they are here, and when that is. */
function Landed({
  row,
  landed,
  home,
}: {
  row: PlacedRow;
  landed: NonNullable<ReturnType<Grid["cell"]>>;
  home: string;
}) {
  const w = useWriting();
  const { offer } = landed.line;
  const next = nextBreak(landed);
  return (
    <section className="flex flex-col gap-1.5">
      <SumSheet sum={landedSum(row, landed, home)} />
      <p className="text-xs text-ink-2">
        {offer.arrives === null ? (
          <b className="text-signal">Never arrives: they and the store share no day.</b>
        ) : offer.lateBy > 0 ? (
          <b className="text-signal">
            Arrives {w.day(offer.arrives)}, {count(offer.lateBy, "day")} late.
          </b>
        ) : (
          `Arrives ${w.day(offer.arrives)}, in time.`
        )}
        {offer.packing.minimum > 0 && ` They sell ${w.quantity(offer.packing.minimum)} ${offer.packing.unit} at least.`}
        {offer.packing.multiple > 0 && ` In multiples of ${w.quantity(offer.packing.multiple)}.`}
        {next &&
          ` ${w.quantity(next.more)} ${unitWords(next.more, offer.packing.unit)} more would reach ${w.price(next.price, landed.order.terms.currency)} ${landed.order.terms.currency}.`}
        {landed.order.lacks > 0 && (
          <b className="text-signal">
            {" "}
            The order lacks {w.amount(landed.order.lacks, landed.order.terms.currency)} to their least order.
          </b>
        )}
      </p>
    </section>
  );
}

/** What can be done with the need on the bench. */
function RowActs({
  row,
  about,
  chosen,
  splitting,
  onSplitting,
  onAct,
}: Pick<Props, "row" | "about" | "splitting" | "onSplitting" | "onAct"> & {
  /** It has a supplier. */ chosen: boolean;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-xs">
      {chosen && (
        <Button look="plain" className="min-h-6 px-0" onClick={() => onAct({ what: "lock", on: !about.locked })}>
          {about.locked ? "Unlock the choice" : "Lock the choice"}
        </Button>
      )}
      {!splitting && row.offers.length > 1 && !about.locked && (
        <Button look="plain" className="min-h-6 px-0" onClick={() => onSplitting(true)}>
          Split it
        </Button>
      )}
      {row.offers.length > 1 && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={row.maySplit}
            onChange={(e) => onAct({ what: "may split", on: e.target.checked })}
            className="size-[15px] accent-harbour"
          />
          plans may split it
        </label>
      )}
      {about.typed && (
        <Button look="plain" className="min-h-6 px-0" onClick={() => onAct({ what: "quantity", wanted: "" })}>
          As much as the need says
        </Button>
      )}
      <Button look="plain" className="min-h-6 px-0" onClick={() => onAct({ what: "set aside" })}>
        Back to Needs
      </Button>
    </div>
  );
}

/** Suppliers who are not chosen: what it would cost there and why, before one moves it. */
function Others({
  row,
  grid,
  home,
  nameOf,
  mayPick,
  onAct,
}: {
  row: PlacedRow;
  grid: Grid;
  home: string;
  nameOf: (supplier: SupplierId) => string;
  mayPick: boolean;
  onAct: Props["onAct"];
}) {
  const w = useWriting();
  const [open, setOpen] = useState<number | null>(null);
  const chosen = grid.chosen(row);
  const others = row.offers.filter((o) => !chosen.some((p) => p.supplier === o.supplier));
  if (others.length === 0) return null;
  return (
    <SlipPart title={chosen.length ? "Or at" : "Who sells it"}>
      <ul className="border border-rule bg-sheet">
        {others.map((o) => {
          const landed = grid.cell(row, o.supplier);
          const each = landed && perStockUnit(landed, home);
          return (
            <li key={o.supplier} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
              <div className="flex items-baseline gap-2">
                <span className="min-w-0 flex-1 truncate">{nameOf(o.supplier)}</span>
                <span className={`text-xs ${o.lateBy || !o.arrives ? "font-semibold text-signal" : "text-ink-2"}`}>
                  {o.arrives ? w.day(o.arrives, false) : "never arrives"}
                </span>
                <span className="figure">{each == null ? "·" : w.price(each)}</span>
              </div>
              <div className="flex gap-3 text-xs">
                {landed && (
                  <Button
                    look="plain"
                    className="min-h-6 py-0 font-normal"
                    aria-expanded={open === o.supplier}
                    onClick={() => setOpen((now) => (now === o.supplier ? null : o.supplier))}
                  >
                    Why this price
                  </Button>
                )}
                {mayPick && (
                  <Button
                    look="plain"
                    className="min-h-6 py-0 font-normal"
                    onClick={() =>
                      onAct({ what: "supplier", supplier: o.supplier }, [
                        { supplier: o.supplier, share: null, buy: null },
                      ])
                    }
                  >
                    Choose
                  </Button>
                )}
              </div>
              {open === o.supplier && landed && <SumSheet sum={landedSum(row, landed, home)} heading={false} />}
            </li>
          );
        })}
      </ul>
    </SlipPart>
  );
}

interface Shared {
  supplier: SupplierId;
  share: StockQty;
}

/** A need divided by hand: how much of it goes where, in its own unit. */
function Split({
  row,
  about,
  nameOf,
  choices,
  onKeep,
  onLeave,
}: {
  row: PlacedRow;
  about: BenchRow;
  nameOf: (supplier: SupplierId) => string;
  choices: readonly Choice[];
  onKeep: (parts: Shared[]) => void;
  onLeave: () => void;
}) {
  const w = useWriting();
  const first = (supplier: SupplierId) => {
    const c = choices.find((x) => x.supplier === supplier);
    return c ? quantityText(c.share ?? row.wanted) : "";
  };
  const [texts, setTexts] = useState<Record<number, string>>(() =>
    Object.fromEntries(row.offers.map((o) => [o.supplier, first(o.supplier)])),
  );
  const read = row.offers.map((o) => {
    const text = (texts[o.supplier] ?? "").trim();
    const parsed = text === "" || text === "0" ? null : parseQuantity(text);
    return { supplier: o.supplier, parsed };
  });
  const wrong = read.find((r) => r.parsed && !r.parsed.ok);
  const parts = read.flatMap((r): Shared[] =>
    r.parsed?.ok ? [{ supplier: r.supplier, share: stock(r.parsed.value) }] : [],
  );
  const left = row.wanted - parts.reduce((a, p) => a + p.share, 0);
  return (
    <form
      className="border border-ink bg-sheet p-2.5"
      onSubmit={(e) => {
        e.preventDefault();
        if (!wrong && parts.length) onKeep(parts);
      }}
    >
      <fieldset className="flex flex-col gap-1.5">
        <legend className="mb-1 text-xs font-semibold text-ink-2">How much goes where, in {about.unit}</legend>
        {row.offers.map((o, i) => (
          <label key={o.supplier} className="flex items-center justify-between gap-2">
            {nameOf(o.supplier)}
            <input
              // biome-ignore lint/a11y/noAutofocus: the form was just asked for
              autoFocus={i === 0}
              value={texts[o.supplier] ?? ""}
              onChange={(e) => setTexts((t) => ({ ...t, [o.supplier]: e.target.value }))}
              inputMode="decimal"
              maxLength={20}
              className="entry w-24 text-right font-mono"
            />
          </label>
        ))}
      </fieldset>
      <p
        aria-live="polite"
        className={`mt-1.5 text-xs ${wrong || left > 0 ? "font-semibold text-signal" : "text-ink-2"}`}
      >
        {wrong && !wrong.parsed!.ok
          ? wrong.parsed!.says
          : left > 0
            ? `${w.quantity(left)} ${about.unit} go nowhere yet.`
            : left < 0
              ? `${w.quantity(-left)} ${about.unit} more than wanted.`
              : "All of it is placed."}
      </p>
      <div className="mt-2 flex gap-2">
        <Button type="submit" look="main" disabled={!!wrong || parts.length === 0}>
          Keep the split
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  );
}
