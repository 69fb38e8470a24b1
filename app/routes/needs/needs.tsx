import { useMemo, useState } from "react";
import { redirect, useActionData, useLoaderData, useSearchParams, useSubmit } from "react-router";
import { parseQuantity } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { writeOrders } from "../../../server/desk/orders/write-orders";
import { chooseSupplier } from "../../../server/desk/requisitions/choose-supplier";
import { type NeedRow, readNeedRows } from "../../../server/read/needs/needs";
import { Button } from "../../ui/button";
import { CellEntry } from "../../ui/field";
import { Cuts, Empty, SheetHead, Spread } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { pack, usePacked } from "../../ui/packed";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TideBar } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { act, page } from "../../web/page";
import { NeedSlip } from "./need-slip";
import { usePicks } from "./use-picks";

/** As many come with the page; the rest of a large pool follows when it stands. */
const FIRST = 120;

export const loader = page("see needs", ({ db, person, day }) => {
  const rows = readNeedRows(db, day);
  return { first: pack(rows.slice(0, FIRST)), all: rows.length, mayWrite: may(person.roles, "write orders"), day };
});

export const action = act("write orders", (desk, input) => {
  if (input.line !== undefined) return chooseSupplier(desk, input);
  const written = writeOrders(desk, { picks: typeof input.picks === "string" ? parsed(input.picks) : null });
  if (written.ok) {
    const [first, ...more] = written.value.orders;
    throw redirect(more.length ? `/bench?written=${written.value.orders.join(",")}` : `/orders/${first}`);
  }
  return written;
});

function parsed(json: string): unknown {
  try {
    return JSON.parse(json);
  } catch {
    return null;
  }
}

export const shouldRevalidate = unlessOnlyLooking;

type Row = NeedRow;
const CUTS = ["all", "reorder", "requisition", "late"] as const;
type Cut = (typeof CUTS)[number];
const inCut: Record<Cut, (n: Row) => boolean> = {
  all: () => true,
  reorder: (n) => n.source === "reorder",
  requisition: (n) => n.source === "requisition",
  late: (n) => n.missesBy > 0,
};
const keyOf = (n: Row) => n.key;

export default function Needs() {
  const { first, all, mayWrite, day } = useLoaderData<typeof loader>();
  const head = usePacked(first);
  const { slip: rest } = useSlip<NeedRow[]>(all > head.length ? "/needs/rows" : null, first);
  const rows = rest ?? head;
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const [search, setSearch] = useSearchParams();
  const cut = CUTS.find((c) => c === search.get("cut")) ?? "all";
  const shown = useMemo(() => rows.filter(inCut[cut]), [rows, cut]);
  const [at, setAt] = useAt(shown[0]?.key ?? null);
  const picks = usePicks(rows);
  const submissionKey = useSubmissionKey(rows);
  const [showSum, setShowSum] = useState(true);
  const here = shown.find((n) => n.key === at) ?? shown[0] ?? null;

  const canTick = (n: Row) => mayWrite && n.supplier !== null;
  const wrong = [...picks.ticked].some((k) => !parseQuantity(picks.quantity(k)).ok);
  const ticked = rows.filter((n) => picks.ticked.has(n.key));
  const groups = new Set(ticked.map((n) => `${n.supplier?.id}/${n.store}`));
  const home = ticked.reduce((a, n) => a + picks.homeAmount(n), 0);
  const late = ticked.filter((n) => n.missesBy > 0).length;
  const write = () => {
    if (!ticked.length || wrong || busy) return;
    const chosen = ticked.map((n) => ({ need: n.key, quantity: picks.quantity(n.key) }));
    submit({ picks: JSON.stringify(chosen), key: submissionKey() }, { method: "post" });
  };
  const edit = () => {
    const entry = document.querySelector<HTMLInputElement>(`[data-need="${CSS.escape(here?.key ?? "")}"]`);
    entry?.focus();
    entry?.select();
  };
  useKeys([
    ...(mayWrite
      ? [
          { key: "e", label: "edit the quantity", run: edit },
          { key: "o", label: "write the orders", run: write },
        ]
      : []),
    { key: "w", label: "show or hide the sum", run: () => setShowSum((s) => !s) },
  ]);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const trouble = problems?.[0] ? problems[0].says : wrong ? "A quantity is not a number above zero." : null;

  const columns: SheetColumn<Row>[] = [
    {
      key: "item",
      head: "Item",
      cell: (n) => (
        <Named name={n.name} code={`${n.code} · ${n.storeName}${n.requisition ? ` · ${n.requisition.number}` : ""}`} />
      ),
    },
    {
      key: "hand",
      head: "On hand",
      align: "right",
      cell: (n) => <span className="figure">{n.stock ? w.quantity(n.stock.onHand) : "·"}</span>,
    },
    {
      key: "committed",
      head: "Committed",
      align: "right",
      cell: (n) => <span className="figure">{n.stock?.committed ? w.quantity(n.stock.committed) : "·"}</span>,
    },
    {
      key: "order",
      head: "On order",
      align: "right",
      cell: (n) => <span className="figure">{n.stock?.onOrder ? w.quantity(n.stock.onOrder) : "·"}</span>,
    },
    {
      key: "available",
      head: "Available",
      align: "right",
      cell: (n) => (
        <span className={`figure ${n.stock && n.stock.available < 0 ? "font-semibold text-signal" : ""}`}>
          {n.stock ? w.quantity(n.stock.available) : "·"}
        </span>
      ),
    },
    {
      key: "tide",
      head: "Against reorder point",
      width: "17%",
      cell: (n) =>
        n.stock ? (
          <TideBar available={n.stock.available} reorderPoint={n.stock.reorderPoint} unit={n.stockUnit} />
        ) : (
          <span className="text-xs text-ink-3">not kept in stock</span>
        ),
    },
    { key: "by", head: "Order by", align: "right", cell: (n) => <OrderBy need={n} today={day} /> },
    {
      key: "buy",
      head: "Buy",
      align: "right",
      cell: (n) =>
        mayWrite ? (
          <CellEntry
            label={`Quantity of ${n.name} to buy, in ${n.unit}`}
            data-need={n.key}
            value={picks.quantity(n.key)}
            onChange={(e) => picks.setQuantity(n.key, e.target.value)}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
            aria-invalid={parseQuantity(picks.quantity(n.key)).ok ? undefined : true}
            inputMode="decimal"
            maxLength={20}
            className="w-[68px]"
          />
        ) : (
          <span className="figure">{w.quantity(n.buy)}</span>
        ),
    },
    { key: "unit", head: "", name: "Unit", cell: (n) => <span className="text-ink-2">{n.unit}</span> },
  ];
  const of = (c: Cut) => rows.filter(inCut[c]).length;
  return (
    <Spread
      sheet={
        <>
          <SheetHead
            title="What has to be bought"
            sub={`${count(all, "need")} at ${count(new Set(rows.map((n) => n.store)).size, "store")}, by supplier`}
          />
          <div className="px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={cut}
              onChange={(c) => setSearch(withParts({ cut: c, at: null }), { replace: true })}
              options={[
                { value: "all", label: "All", count: of("all") },
                { value: "reorder", label: "Below reorder point", count: of("reorder") },
                { value: "requisition", label: "Requisitions", count: of("requisition") },
                { value: "late", label: "Will miss their date", count: of("late") },
              ]}
            />
          </div>
          <Sheet
            label="Needs"
            columns={columns}
            rows={shown}
            keyOf={keyOf}
            group={GROUP}
            at={here?.key ?? null}
            onAt={setAt}
            ticks={
              mayWrite
                ? {
                    ticked: picks.ticked,
                    can: canTick,
                    toggle: (n) => picks.toggle(n.key),
                    label: (n) => `${n.name} for ${n.storeName}`,
                  }
                : undefined
            }
            empty={
              <Empty title={cut === "all" ? "Nothing has to be bought" : "Nothing of this kind"}>
                {cut === "all"
                  ? "No item falls below its reorder point within its lead time, and every requisition is ordered."
                  : "Choose another cut above."}
              </Empty>
            }
          />
        </>
      }
      slip={
        here ? (
          <NeedSlip need={here} showSum={showSum} fresh={rows} mayChoose={mayWrite} />
        ) : (
          <Empty title="No need chosen" />
        )
      }
      tally={
        <TallyLine
          trouble={trouble}
          keys={[
            [" ", "tick"],
            ["e", "edit quantity"],
            ["w", "the sum"],
          ]}
          act={
            mayWrite && (
              <Button look="main" hint="O" disabled={!ticked.length || wrong || busy} onClick={write}>
                {busy ? "Writing…" : `Write ${count(groups.size, "order")}`}
              </Button>
            )
          }
        >
          <span>
            <b>{ticked.length}</b> ticked
          </span>
          <span>
            <b>{new Set(ticked.map((n) => n.supplier?.id)).size}</b> suppliers
          </span>
          <span>
            <b className="figure">{w.amount(home)}</b> before tax
          </span>
          {late > 0 && (
            <span className="font-semibold text-signal">
              {late === 1 ? "1 misses its date" : `${late} miss their dates`}
            </span>
          )}
        </TallyLine>
      }
    />
  );
}

const GROUP = {
  of: (n: Row) => n.supplier?.name ?? "no supplier yet",
  heading: (n: Row) =>
    n.supplier
      ? `${n.supplier.name} · ${n.supplier.currency}`
      : "No supplier yet: choose one in the slip, or have one set up",
};

function OrderBy({ need, today }: { need: Row; today: string }) {
  const w = useWriting();
  if (need.missesBy > 0) return <span className="font-semibold text-signal">{count(need.missesBy, "day")} late</span>;
  if (!need.supplier) return <span className="text-ink-3">–</span>;
  if (!need.orderBy) return <span className="text-ink-3">never arrives</span>;
  return need.orderBy <= today ? <b>today</b> : w.day(need.orderBy, false);
}
