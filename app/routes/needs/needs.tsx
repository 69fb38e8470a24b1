import { useCallback, useMemo, useRef, useState } from "react";
import { useActionData, useLoaderData, useRevalidator, useSearchParams, useSubmit } from "react-router";
import { parseQuantity } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readViews } from "../../../server/acts/views/keep-view";
import { type NeedRow, readNeedSheet } from "../../../server/queries/needs/needs";
import { readUnknown } from "../../../server/queries/needs/noted";
import { needQuery } from "../../../server/queries/needs/query";
import { readBenches } from "../../../server/queries/placing/bench";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { type Packed, pack, usePacked } from "../../ui/packed";
import { RuledSheet } from "../../ui/ruled-sheet";
import { newKey, useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useBusy } from "../../ui/use-busy";
import { useRows } from "../../ui/use-rows";
import { actions, page } from "../../web/page";
import { NEED_SHEET_COLUMNS } from "./columns";
import type { NeedWord } from "./need-acts";
import { needActs } from "./need-acts";
import { NeedSlipPanel } from "./need-slip";
import { NeedsHead, TickedWords } from "./needs-parts";
import { MOST_WRITTEN, sumOfTicked, whyNotWritten } from "./ticked";
import { SourceCuts, Toolbar } from "./toolbar";
import { useChoices, usePlanTick } from "./use-needs";
import { usePlace } from "./use-place";

/** As many come with the page; the rest of a large pool follows as it is seen. */
const FIRST = 80;

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

export const action = actions("see needs", needActs);

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
  const { place, here, setPlace } = usePlace(sheet, row, search.get("at"));
  const [showSum, setShowSum] = useState(true);

  const { keys } = choices;
  const known = choices.ticked.filter((t) => keys.has(t.key));
  const sum = sumOfTicked(known);
  const wrong = sum.wrong || (here !== null && badlyTyped(choices.typed(here)));
  const whyNot = whyNotWritten({ ...sum, wrong }, keys.size);
  const mayLay = keys.size > 0 && !wrong && !busy && keys.size <= MOST_WRITTEN;
  const mayWriteNow = keys.size > 0 && whyNot === null && !busy;
  const submissionKey = useSubmissionKey(sheet);
  const write = async () => {
    if (!mayWriteNow) return;
    if (!(await choices.settle())) return;
    void submit(
      { do: "write" satisfies NeedWord, picks: "ticked", key: submissionKey() },
      { method: "post", action: `/needs?${search}` },
    );
  };
  const layOutKey = useSubmissionKey(sheet);
  const lay = async () => {
    if (!mayLay) return;
    if (!(await choices.settle())) return;
    void submit(
      { do: "lay out" satisfies NeedWord, bench, key: layOutKey() },
      { method: "post", action: `/needs?${search}` },
    );
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
  const trouble = problems?.[0]?.says ?? choices.trouble ?? whyNot;
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
          <NeedsHead
            working={working}
            stopped={stopped}
            shown={sheet.count}
            all={sheet.all}
            stores={sheet.facets.store.length}
            unknown={unknown}
            mayWrite={mayWrite}
            onPlan={(act) => submit({ do: act, key: newKey() }, { method: "post", action: `/needs?${search}` })}
          />
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
                <Button hint="B" disabled={!mayLay} onClick={() => void lay()}>
                  Lay out
                </Button>
                <Button look="main" hint="O" disabled={!mayWriteNow} onClick={() => void write()}>
                  {busy ? "Writing…" : choices.working ? "Write orders" : `Write ${count(sum.orders, "order")}`}
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
          {choices.working ? <span className="text-ink-2">adding up…</span> : <TickedWords sum={sum} />}
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
