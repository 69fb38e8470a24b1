import { useCallback, useMemo, useRef, useState } from "react";
import { Link, redirect, useActionData, useLoaderData, useRevalidator, useSearchParams, useSubmit } from "react-router";
import { parseQuantity } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { done, refuse } from "../../../server/acts/desk";
import { mergeNeeds, partNeeds } from "../../../server/acts/needs/merge-needs";
import { dropNoted } from "../../../server/acts/needs/note-needs";
import { writeOrders } from "../../../server/acts/orders/write-orders";
import { layOutBench } from "../../../server/acts/placing/lay-out";
import { keepSourcing } from "../../../server/acts/records/keep-sourcing";
import { chooseSupplier } from "../../../server/acts/requisitions/choose-supplier";
import { decideLine, declineLine } from "../../../server/acts/requisitions/decide-line";
import { meetByTransfer } from "../../../server/acts/stock/transfers";
import { dropView, keepView, readViews } from "../../../server/acts/views/keep-view";
import { type NeedRow, readNeedSheet } from "../../../server/queries/needs/needs";
import { readUnknown } from "../../../server/queries/needs/noted";
import { beginPlan, stopPlan } from "../../../server/queries/needs/pool";
import { needQuery, planOf } from "../../../server/queries/needs/query";
import { readBenches } from "../../../server/queries/placing/bench";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { type Packed, pack, usePacked } from "../../ui/packed";
import { RuledSheet } from "../../ui/ruled-sheet";
import { newKey, useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useBusy } from "../../ui/use-busy";
import { useRows } from "../../ui/use-rows";
import { act, page, readJson } from "../../web/page";
import { newSupplier } from "./add-supplier";
import { NEED_SHEET_COLUMNS } from "./columns";
import { NeedSlipPanel } from "./need-slip";
import { SourceCuts, Toolbar } from "./toolbar";
import { useChoices, usePlanTick } from "./use-needs";

/** As many come with the page; the rest of a large pool follows as it is seen. */
const FIRST = 80;
/** So many needs are written at once. */
const MOST = 2_000;

export const loader = page("see needs", ({ db, url, person, day, hour }) => {
  const query = needQuery(url.searchParams);
  const at = url.searchParams.get("at");
  const sheet = readNeedSheet(db, query, { person: person.id, today: day, hour }, { from: 0, most: FIRST, around: at });
  return {
    sheet: pack(sheet) as Packed<typeof sheet>,
    query,
    views: readViews(db, person.id, "needs"),
    unknown: may(person.roles, "plan") ? readUnknown(db).length : 0,
    mayWrite: may(person.roles, "write orders"),
    benches: may(person.roles, "write orders") ? readBenches(db).map(({ id, name }) => ({ id, name })) : [],
  };
});

export const action = act<unknown>("see needs", (desk, input, { url, day, hour, person, db }) => {
  const query = needQuery(url.searchParams);
  switch (input.do) {
    case "lay out": {
      const sheet = readNeedSheet(db, query, { person: person.id, today: day, hour }, { from: 0, most: 1 });
      const laid = layOutBench(desk, {
        needs: sheet.ticked.map((t) => t.key),
        bench: input.bench ?? "",
        run: query.run,
        asOf: query.asOf ?? "",
      });
      if (!laid.ok) return laid;
      throw redirect(`/bench/${laid.value.bench}`);
    }
    case "write": {
      const sheet = readNeedSheet(db, query, { person: person.id, today: day, hour }, { from: 0, most: 1 });
      const chosen = readJson(input.picks);
      const picks = Array.isArray(chosen) ? chosen : sheet.ticked.map((t) => ({ need: t.key }));
      const written = writeOrders(desk, { picks, run: query.run, asOf: query.asOf ?? "" });
      if (!written.ok) return written;
      const [first, ...more] = written.value.orders;
      throw redirect(more.length ? `/bench?written=${written.value.orders.join(",")}` : `/orders/${first}`);
    }
    case "choose supplier":
      return chooseSupplier(desk, input);
    case "add supplier":
      return keepSourcing(desk, newSupplier(input));
    case "decide":
      return decideLine(desk, { quantity: "", offered: "", ...input });
    case "decline":
      return declineLine(desk, input);
    case "transfer":
      return meetByTransfer(desk, input);
    case "merge":
      return mergeNeeds(desk, input);
    case "part":
      return partNeeds(desk, input);
    case "drop noted":
      return dropNoted(desk, input);
    case "keep view":
      return keepView(desk, { ...input, sheet: "needs" });
    case "drop view":
      return dropView(desk, input);
    case "stop plan":
      stopPlan(db, planOf(query, day, hour));
      return done({});
    case "begin plan":
      beginPlan(db, planOf(query, day, hour));
      return done({});
    default:
      return refuse("", "This cannot be done here.");
  }
});

type Row = NeedRow;
const keyOf = (n: Row) => n.key;

export default function Needs() {
  const loaded = useLoaderData<typeof loader>();
  const { query, views, unknown, mayWrite, benches } = loaded;
  const [bench, setBench] = useState("");
  const sheet = usePacked(loaded.sheet);
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const { revalidate } = useRevalidator();
  const [search] = useSearchParams();
  const { put } = useAddress();
  // The address without what only says where the page looks: it is the same for all rows.
  const address = useMemo(() => {
    const rest = new URLSearchParams(search);
    for (const part of ["at", "cols"]) rest.delete(part);
    return rest.toString();
  }, [search]);
  const { row, want } = useRows(sheet, `/needs/rows?${address}`, revalidate);
  const choices = useChoices(sheet.ticked, address, revalidate);
  const tick = usePlanTick(sheet.at, address, revalidate);
  const working = tick?.working ?? sheet.working;
  const stopped = tick?.stopped ?? sheet.stopped;
  const [chosen, setChosen] = useState<{ sheet: unknown; place: number }>({ sheet: null, place: 0 });
  const [lastKey, setLastKey] = useState<string | null>(search.get("at"));
  // Where the list is read anew, the selection stays on its need as far as it is among the first rows.
  const place = useMemo(() => {
    if (chosen.sheet === sheet) return Math.min(chosen.place, sheet.count - 1);
    const found = sheet.rows.findIndex((n) => n.key === lastKey);
    return found >= 0 ? sheet.from + found : sheet.count ? Math.min(chosen.place, sheet.count - 1) : -1;
  }, [chosen, sheet, lastKey]);
  const setPlace = (i: number) => {
    setChosen({ sheet, place: i });
    const key = row(i)?.key;
    if (!key) return;
    setLastKey(key);
    const here = new URL(location.href);
    here.searchParams.set("at", key);
    history.replaceState(history.state, "", here);
  };
  const here = place < 0 ? null : (row(place) ?? null);
  const [showSum, setShowSum] = useState(true);

  const { keys } = choices;
  const known = choices.ticked.filter((t) => keys.has(t.key));
  const wrong = known.some((t) => !t.ok) || (here !== null && badlyTyped(choices.typed(here)));
  const groups = new Set(known.map((t) => `${t.supplier}/${t.store}`));
  const suppliers = new Set(known.map((t) => t.supplier)).size;
  const home = known.reduce((a, t) => a + (t.home ?? 0), 0);
  const unpriced = known.filter((t) => t.home === null).length;
  const late = known.filter((t) => t.missesBy > 0).length;
  const unsupplied = known.filter((t) => t.supplier === null).length;
  const lying = known.filter((t) => t.bench !== null);
  const submissionKey = useSubmissionKey(sheet);
  const write = async () => {
    if (!keys.size || wrong || busy || unsupplied > 0 || keys.size > MOST) return;
    if (!(await choices.settle())) return;
    void submit({ do: "write", picks: "ticked", key: submissionKey() }, { method: "post", action: `/needs?${search}` });
  };
  const layOutKey = useSubmissionKey(sheet);
  const lay = async () => {
    if (!keys.size || wrong || busy || keys.size > MOST) return;
    if (!(await choices.settle())) return;
    void submit({ do: "lay out", bench, key: layOutKey() }, { method: "post", action: `/needs?${search}` });
  };
  const edit = () => {
    const entry = document.querySelector<HTMLInputElement>(`[data-need="${CSS.escape(here?.key ?? "")}"]`);
    entry?.focus();
    entry?.select();
  };
  const toggle = useCallback(
    (n: Row) => choices.choose(n.key, { ticked: !choices.keys.has(n.key) }),
    [choices.choose, choices.keys],
  );
  useKeys([
    ...(mayWrite
      ? [
          { key: "e", label: "edit the quantity", run: edit },
          { key: "a", label: "tick all that is shown", run: () => void choices.all("tick shown") },
          { key: "b", label: "lay the ticked needs out on the bench", run: () => void lay() },
          { key: "o", label: "write the orders", run: () => void write() },
        ]
      : []),
    { key: "w", label: "show or hide the sum", run: () => setShowSum((s) => !s) },
  ]);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const trouble =
    problems?.[0]?.says ??
    choices.trouble ??
    (wrong
      ? "A quantity is not a number above zero."
      : unsupplied > 0
        ? `${unsupplied} of the ticked needs ${unsupplied === 1 ? "has" : "have"} no supplier yet.`
        : keys.size > MOST
          ? "At most 2,000 needs can be written at once."
          : null);
  const cols = search.get("cols");
  const columns = useMemo(() => NEED_SHEET_COLUMNS.inAddress(cols), [cols]);
  // Cells read what is typed when they are drawn; the columns themselves stay, so that other rows are not drawn again.
  const now = useRef({ w, choices });
  now.current = { w, choices };
  // biome-ignore lint/correctness/useExhaustiveDependencies: how figures are written changes with the locale alone
  const shown = useMemo(
    () =>
      NEED_SHEET_COLUMNS.drawn(columns, {
        w: now.current.w,
        mayWrite,
        typed: (n) => now.current.choices.typed(n),
        type: (n, text) => now.current.choices.choose(n.key, { quantity: text }),
      }),
    [columns, mayWrite, w.locale, w.today],
  );
  const source = useMemo(
    () => ({
      count: sheet.count,
      row,
      want,
      groups: sheet.groups.map((g) => ({
        start: g.start,
        heading: (
          <>
            {heading(query.group, g, w.day)}
            <span className="ml-2 font-normal text-ink-3">{g.count}</span>
          </>
        ),
      })),
    }),
    [sheet, row, want, query.group, w.day],
  );
  const sortBy = (column: string) => {
    const down = query.sort?.column === column && !query.sort.down;
    const off = query.sort?.column === column && query.sort.down;
    put({ sort: off ? null : `${down ? "-" : ""}${column}` });
  };
  const narrowed = sheet.count !== sheet.all;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="What has to be bought"
            sub={
              working
                ? `working out ${w.quantity(working.done * 10_000)} of ${w.quantity(working.of * 10_000)}…`
                : narrowed
                  ? `${sheet.count} of ${count(sheet.all, "need")}`
                  : `${count(sheet.all, "need")} at ${count(sheet.facets.store.length, "store")}`
            }
          >
            {working && mayWrite && (
              <Button
                look="plain"
                onClick={() =>
                  submit({ do: "stop plan", key: newKey() }, { method: "post", action: `/needs?${search}` })
                }
              >
                Stop
              </Button>
            )}
            {mayWrite && (
              <>
                {unknown > 0 && (
                  <Link className="font-semibold text-signal underline" to="/needs/sort-out">
                    {count(unknown, "code")} to sort out
                  </Link>
                )}
                <Link className="underline" to="/needs/bring">
                  Bring a file
                </Link>
                <Link className="underline" to="/needs/review">
                  Reorder points
                </Link>
              </>
            )}
          </SheetHead>
          {stopped && (
            <p
              role="status"
              className="mx-4.5 mb-2 flex items-center gap-3 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5"
            >
              The plan was stopped; what stands here is of before.
              <Button
                look="plain"
                onClick={() =>
                  submit({ do: "begin plan", key: newKey() }, { method: "post", action: `/needs?${search}` })
                }
              >
                Work it out again
              </Button>
            </p>
          )}
          <SourceCuts query={query} facets={sheet.facets} all={sheet.all} />
          <Toolbar query={query} facets={sheet.facets} columns={columns} views={views} />
          <RuledSheet
            label="Needs"
            columns={shown}
            source={source}
            keyOf={keyOf}
            stateOf={choices.typed}
            place={place}
            onPlace={setPlace}
            sort={query.sort}
            onSort={sortBy}
            onWidth={(key, width) =>
              put({ cols: NEED_SHEET_COLUMNS.text(columns.map((c) => (c.key === key ? { key, width } : c))) })
            }
            ticks={
              mayWrite
                ? {
                    ticked: keys,
                    can: (n) => n.supplier !== null || keys.has(n.key),
                    toggle,
                    label: (n) => `${n.name}, ${n.storeName}${n.supplier ? "" : ": no supplier yet"}`,
                  }
                : undefined
            }
            empty={
              <Empty
                title={working ? "Working it out" : narrowed ? "Nothing of this kind" : "Nothing has to be bought"}
              >
                {working
                  ? "The needs appear here as soon as the first plan of this day is made."
                  : narrowed
                    ? "Choose another cut above, or find something else."
                    : "No item falls below its reorder point within its lead time, and everything that was asked for is ordered."}
              </Empty>
            }
          />
        </>
      }
      slip={
        here ? (
          <NeedSlipPanel
            key={here.key}
            need={here}
            showSum={showSum}
            fresh={sheet}
            address={address}
            mayAct={mayWrite}
            typed={choices.typed(here)}
            onSource={(sourcing) => choices.choose(here.key, { sourcing })}
          />
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
              <>
                {benches.length > 0 && (
                  <select
                    aria-label="On which bench"
                    value={bench}
                    onChange={(e) => setBench(e.target.value)}
                    className="entry max-w-36"
                  >
                    <option value="">a new bench</option>
                    {benches.map((b) => (
                      <option key={b.id} value={b.id}>
                        {b.name}
                      </option>
                    ))}
                  </select>
                )}
                <Button hint="B" disabled={!keys.size || wrong || busy || keys.size > MOST} onClick={() => void lay()}>
                  Lay out
                </Button>
                <Button
                  look="main"
                  hint="O"
                  disabled={!keys.size || wrong || busy || unsupplied > 0 || keys.size > MOST}
                  onClick={() => void write()}
                >
                  {busy ? "Writing…" : choices.working ? "Write orders" : `Write ${count(groups.size, "order")}`}
                </Button>
              </>
            )
          }
        >
          <button
            type="button"
            className={`hover:underline ${query.ticked ? "underline" : ""}`}
            onClick={() => put({ ticked: query.ticked ? null : "yes" })}
          >
            <b>{keys.size}</b> ticked
          </button>
          {choices.working ? (
            <span className="text-ink-2">adding up…</span>
          ) : (
            <>
              <span>
                <b>{suppliers}</b> {suppliers === 1 ? "supplier" : "suppliers"}
              </span>
              <span>
                <b className="figure">{w.amount(home)}</b> before tax
                {unpriced > 0 && `, ${unpriced} without a price`}
              </span>
              {lying.length > 0 && (
                <span className="font-semibold text-signal">
                  {lying.length === 1 ? `${lying[0]!.name} lies` : `${lying.length} lie`} on{" "}
                  {[...new Set(lying.map((t) => `“${t.bench}”`))].slice(0, 2).join(" and ")} already
                </span>
              )}
              {late > 0 && (
                <span className="font-semibold text-signal">
                  {late === 1 ? "1 misses its date" : `${late} miss their dates`}
                </span>
              )}
            </>
          )}
          {keys.size > 0 && mayWrite && (
            <Button look="plain" className="min-h-0" onClick={() => void choices.all("forget")}>
              Untick all
            </Button>
          )}
        </TallyLine>
      }
    />
  );
}

const badlyTyped = (text: string | null) => text !== null && text.trim() !== "" && !parseQuantity(text).ok;

function heading(group: string, g: { label: string; about: string }, day: (d: string) => string): string {
  if (group === "date") return g.label ? `Order by ${day(g.label)}` : "No day to order by";
  if (group === "supplier" && !g.about) return "No supplier yet: choose one in the slip, or add one there";
  return g.about ? `${g.label} · ${g.about}` : g.label;
}
