import { useMemo, useState } from "react";
import { useActionData, useLoaderData, useNavigate, useRevalidator, useSearchParams, useSubmit } from "react-router";
import { KIND_WORDS, ORDER_KINDS } from "../../../core/orders/kinds";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readViews } from "../../../server/acts/views/keep-view";
import {
  type FoundOrder,
  ORDERS,
  type OrderFacets,
  type OrderQuery,
  orderFacets,
} from "../../../server/queries/orders/finder";
import { ColumnsPanel } from "../../parts/columns-panel";
import { FindBox } from "../../parts/find-box";
import { ViewsPanel } from "../../parts/views-panel";
import { Button, ButtonLink } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { FoldingBar } from "../../ui/folding";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { usePacked } from "../../ui/packed";
import { Panel } from "../../ui/popover";
import { RuledSheet } from "../../ui/ruled-sheet";
import { newKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { sortedNext, useAddress, useAskedFor } from "../../ui/use-address";
import { useRowAt } from "../../ui/use-row-at";
import { useRows } from "../../ui/use-rows";
import { readList } from "../../web/list";
import { actions, page } from "../../web/page";
import { BatchPanel } from "../papers/batch-panel";
import { ORDER_COLUMNS } from "./columns";
import { OrderPages } from "./order-pages";
import { OrderSlip } from "./order-slip";
import type { OrderSheetWord } from "./sheet-acts";
import { orderSheetActs } from "./sheet-acts";

export const loader = page(ORDERS.act, (visit) => {
  const { db, person } = visit;
  return {
    ...readList(ORDERS, visit),
    facets: orderFacets(db),
    views: readViews(db, person.id, "orders"),
    mayMark: may(person.roles, "write orders"),
    mayPlace: may(person.roles, "place"),
    mayKeepMarks: may(person.roles, "keep marks"),
  };
});

export const action = actions("see orders", orderSheetActs);

const keyOf = (r: FoundOrder) => String(r.id);

/** Every order there is: found, narrowed, marked, looked at beside the list, and taken along as a file. */
export default function Orders() {
  const loaded = useLoaderData<typeof loader>();
  const { query, facets, mayMark, mayPlace } = loaded;
  const sheet = usePacked(loaded.sheet);
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const navigate = useNavigate();
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  const [search] = useSearchParams();
  const { put } = useAddress();
  const address = useAskedFor();
  const { row, want } = useRows<FoundOrder>(sheet, `/orders/rows?${address}`, revalidate);
  const { at, here, setPlace } = useRowAt(sheet, row);
  const [ticked, setTicked] = useState<ReadonlyMap<string, FoundOrder>>(new Map());
  const columns = ORDER_COLUMNS.inAddress(search.get("cols"));
  const shown = useMemo(() => ORDER_COLUMNS.drawn(columns, { w }), [columns, w]);
  const source = { count: sheet.count, row, groups: NO_GROUPS, want };
  const narrowed = narrowedBy(query);
  const mark = (id: string) => {
    if (!id) return;
    void submit(
      { do: "mark" satisfies OrderSheetWord, mark: id, orders: [...ticked.keys()].join(","), key: newKey() },
      { method: "post", action: `/orders?${search}`, preventScrollReset: true },
    );
    setTicked(new Map());
  };
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="All orders"
            sub={sheet.count === sheet.all ? count(sheet.all, "order") : `${sheet.count} of ${sheet.all} orders`}
          >
            <OrderPages here="all" />
          </SheetHead>
          <Quick query={query} states={facets.states} narrowed={narrowed} />
          <OrdersBar
            loaded={loaded}
            columns={columns}
            ticked={[...ticked.keys()]}
            found={sheet.count}
            address={address}
            problem={answer && !answer.ok ? answer.problems[0]?.says : undefined}
          />
          <RuledSheet
            label="All orders"
            columns={shown}
            source={source}
            keyOf={keyOf}
            place={at}
            onPlace={setPlace}
            onOpen={(r) => navigate(`/orders/${r.id}`)}
            sort={query.sort}
            onSort={(column) => put({ sort: sortedNext(query.sort, column) })}
            onWidth={(key, width) => put({ cols: ORDER_COLUMNS.widened(columns, key, width) })}
            ticks={
              mayMark || mayPlace
                ? {
                    ticked: new Set(ticked.keys()),
                    can: () => true,
                    toggle: (r) => setTicked((was) => toggled(was, keyOf(r), r)),
                    label: (r) => `${r.name}, ${r.supplierName}`,
                  }
                : undefined
            }
            empty={<Empty title="No order is like this">Narrow by less, or look for another word.</Empty>}
          />
        </>
      }
      slip={
        here ? <OrderSlip row={here} quick marks={facets.marks} mayMark={mayMark} /> : <Empty title="No order chosen" />
      }
      tally={
        <TallyLine
          keys={[
            ["arrowdown", "move"],
            [" ", "tick"],
          ]}
          act={
            here && (
              <Button look="main" hint="⏎" onClick={() => navigate(`/orders/${here.id}`)}>
                Open {here.name}
              </Button>
            )
          }
        >
          {ticked.size > 0 ? (
            <TickedOrders ticked={[...ticked.values()]} marks={facets.marks} onMark={mark} />
          ) : (
            <>
              <span>{count(sheet.count, "order")}</span>
              <span>
                <b className="figure">{w.amount(sheet.homeNet)}</b> before tax
                {query.rates && ", in today’s rates"}
              </span>
            </>
          )}
        </TallyLine>
      }
    />
  );
}
const NO_GROUPS: readonly { start: number; heading: string }[] = [];

function Narrow({ facets, query }: { facets: OrderFacets; query: OrderQuery }) {
  const { put, list } = useAddress();
  const toggle = (name: string, value: string) => {
    const chosen = new Set(list(name));
    if (!chosen.delete(value)) chosen.add(value);
    put({ [name]: [...chosen].join(",") || null });
  };
  const groups: [name: string, word: string, options: { value: string; label: string }[]][] = [
    ["supplier", "Supplier", facets.suppliers.map((s) => ({ value: String(s.id), label: s.name }))],
    ["kind", "Kind", ORDER_KINDS.filter((k) => k !== "standing").map((k) => ({ value: k, label: KIND_WORDS[k] }))],
    ["store", "Store", facets.stores.map((s) => ({ value: String(s.id), label: s.name }))],
    ["writer", "Buyer", facets.writers.map((s) => ({ value: String(s.id), label: s.name }))],
    ["mark", "Mark", facets.marks.map((s) => ({ value: String(s.id), label: s.name }))],
  ];
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-3 max-md:grid-cols-1">
      {groups.map(([name, word, options]) => (
        <fieldset key={name} className="min-w-0">
          <legend className="mb-1 text-xs font-semibold text-ink-2">{word}</legend>
          <div className="max-h-44 overflow-y-auto">
            {options.map((o) => (
              <label key={o.value} className="flex items-center gap-2 py-[2px]">
                <input
                  type="checkbox"
                  className="accent-harbour"
                  checked={list(name).includes(o.value)}
                  onChange={() => toggle(name, o.value)}
                />
                <span className="truncate">{o.label}</span>
              </label>
            ))}
          </div>
        </fieldset>
      ))}
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">Written</legend>
        <div className="flex items-center gap-2 py-[2px]">
          from
          <DayEntry aria-label="from" value={query.from ?? ""} onDay={(from) => put({ from: from || null })} />
        </div>
        <div className="flex items-center gap-2 py-[2px]">
          to
          <DayEntry aria-label="to" value={query.to ?? ""} onDay={(to) => put({ to: to || null })} />
        </div>
      </fieldset>
    </div>
  );
}

/** The cuts that are looked at most. */
function Quick({ query, states, narrowed }: { query: OrderQuery; states: OrderFacets["states"]; narrowed: number }) {
  const { put } = useAddress();
  const one = (state: string) => query.state.length === 1 && query.state[0] === state;
  return (
    <fieldset className="flex min-w-0 flex-wrap items-center gap-1.5 px-4.5 pb-1.5 max-md:flex-nowrap max-md:overflow-x-auto">
      <legend className="sr-only">Show</legend>
      <Cut label="All" on={narrowed === 0 && !query.late && !query.held} onCut={() => put(NOT_NARROWED)} />
      {states.map((s) => (
        <Cut
          key={s.value}
          label={`${s.value} ${s.count}`}
          on={one(s.value)}
          onCut={() => put({ state: one(s.value) ? null : s.value })}
        />
      ))}
      <Cut label="Overdue" on={query.late === "yes"} onCut={() => put({ late: query.late ? null : "yes" })} />
      <Cut label="Held" on={query.held === "yes"} onCut={() => put({ held: query.held ? null : "yes" })} />
    </fieldset>
  );
}

const BY = ["state", "kind", "supplier", "store", "writer", "mark"] as const;
const NOT_NARROWED = Object.fromEntries([...BY, "late", "held", "from", "to"].map((part) => [part, null]));
/** By how many things the list is narrowed. */
const narrowedBy = (query: OrderQuery) =>
  BY.reduce((n, part) => n + query[part].length, query.from || query.to ? 1 : 0);

function Cut({ label, on, onCut }: { label: string; on: boolean; onCut: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onCut}
      className="shrink-0 rounded-[2px] border border-rule bg-field px-2.5 py-[3px] text-xs whitespace-nowrap text-ink-2 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
    >
      {label}
    </button>
  );
}

/** What the ticked orders come to, and a mark for all of them. */
function TickedOrders({
  ticked,
  marks,
  onMark,
}: {
  ticked: readonly FoundOrder[];
  marks: OrderFacets["marks"];
  onMark: (mark: string) => void;
}) {
  const w = useWriting();
  return (
    <>
      <span>
        <b>{ticked.length}</b> ticked, <b className="figure">{w.amount(ticked.reduce((a, r) => a + r.homeNet, 0))}</b>
      </span>
      <label className="flex items-center gap-1.5">
        mark them
        <select
          aria-label="Put a mark on the ticked orders"
          className="entry min-h-[26px] py-0"
          value=""
          onChange={(e) => onMark(e.target.value)}
        >
          <option value="">with…</option>
          {marks.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

/** The same map with a row more, or without it. */
function toggled<R>(was: ReadonlyMap<string, R>, key: string, row: R): ReadonlyMap<string, R> {
  const next = new Map(was);
  if (!next.delete(key)) next.set(key, row);
  return next;
}

/** What narrows and arranges the list, prints its papers and takes it along. */
function OrdersBar({
  loaded: { query, facets, views, mayPlace, mayKeepMarks },
  columns,
  ticked,
  found,
  address,
  problem,
}: {
  loaded: Omit<Awaited<ReturnType<typeof useLoaderData<typeof loader>>>, "sheet">;
  columns: ReturnType<typeof ORDER_COLUMNS.inAddress>;
  ticked: string[];
  found: number;
  address: string;
  problem: string | undefined;
}) {
  const { put } = useAddress();
  const narrowed = narrowedBy(query);
  return (
    <FoldingBar label="Narrow and arrange" first={<FindBox text={query.find} />}>
      <Panel label={narrowed ? `Narrowed by ${narrowed}` : "Narrow"} marked={narrowed > 0} wide>
        <Narrow facets={facets} query={query} />
      </Panel>
      <Panel label="Columns" marked={ORDER_COLUMNS.text(columns) !== null}>
        <ColumnsPanel set={ORDER_COLUMNS} />
      </Panel>
      <Panel label="Views" marked={false}>
        <ViewsPanel views={views} path="/orders" />
      </Panel>
      <Panel label="Papers" marked={false}>
        <BatchPanel ticked={ticked} found={found} mayPlace={mayPlace} problem={problem} />
      </Panel>
      <Cut
        label="In today’s rates"
        on={query.rates === "today"}
        onCut={() => put({ rates: query.rates ? null : "today" })}
      />
      <span className="ml-auto flex items-center gap-3 text-xs">
        {mayKeepMarks && (
          <ButtonLink look="plain" to="/marks">
            Marks and their rules
          </ButtonLink>
        )}
        <a className="underline" href={`/orders.csv?${address}`}>
          CSV
        </a>
        <a className="underline" href={`/orders.xlsx?${address}`}>
          XLSX
        </a>
      </span>
    </FoldingBar>
  );
}
