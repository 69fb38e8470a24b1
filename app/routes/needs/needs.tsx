import { useCallback, useState } from "react";
import { useActionData, useLoaderData, useRevalidator, useSearchParams, useSubmit } from "react-router";
import { parseQuantity } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { readViews } from "../../../server/acts/views/keep-view";
import { type NeedRow, readNeedSheet } from "../../../server/queries/needs/needs";
import { readUnknown } from "../../../server/queries/needs/noted";
import { needQuery } from "../../../server/queries/needs/query";
import { readBenches } from "../../../server/queries/placing/bench";
import { editEntry } from "../../ui/edit-entry";
import { Empty, SheetAndSlip } from "../../ui/frame-parts";
import { pack, usePacked } from "../../ui/packed";
import { RuledSheet } from "../../ui/ruled-sheet";
import { newKey } from "../../ui/submission";
import { sortedNext, useAddress, useAskedFor } from "../../ui/use-address";
import { useBusy } from "../../ui/use-busy";
import { useRows } from "../../ui/use-rows";
import { actions, page } from "../../web/page";
import { NEED_SHEET_COLUMNS } from "./columns";
import { needActs } from "./need-acts";
import { NeedSlipPanel } from "./need-slip";
import { NeedsHead, NeedsTally, NoNeeds } from "./needs-parts";
import { MOST_WRITTEN, sumOfTicked, whyNotWritten } from "./ticked";
import { SourceCuts, Toolbar } from "./toolbar";
import { useNeedColumns, useNeedKeys, useNeedRows, useWritingNeeds } from "./use-need-sheet";
import { useChoices, usePlanTick } from "./use-needs";
import { usePlace } from "./use-place";

/** As many come with the page; the rest of a large pool follows as it is seen. */
const FIRST = 80;

export const loader = page("see needs", ({ db, url, person, day, hour }) => {
  const query = needQuery(url.searchParams);
  const at = url.searchParams.get("at");
  const sheet = readNeedSheet(db, query, { person: person.id, today: day, hour }, { from: 0, most: FIRST, around: at });
  return {
    sheet: pack(sheet),
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
  const submit = useSubmit();
  const busy = useBusy();
  const { revalidate } = useRevalidator();
  const [search] = useSearchParams();
  const { put } = useAddress();
  const address = useAskedFor();
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
  const ready = keys.size > 0 && !busy;
  const mayLay = ready && !wrong && keys.size <= MOST_WRITTEN;
  const mayWriteNow = ready && whyNot === null;
  const { write, lay } = useWritingNeeds({ sheet, search, bench, mayLay, mayWriteNow, settle: choices.settle });
  const toggle = useCallback(
    (n: Row) => choices.choose(n.key, { ticked: !choices.keys.has(n.key) }),
    [choices.choose, choices.keys],
  );
  useNeedKeys(mayWrite, {
    edit: () => editEntry("data-need", here?.key),
    all: () => void choices.all("tick shown"),
    lay: () => void lay(),
    write: () => void write(),
    sum: () => setShowSum((s) => !s),
  });
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const trouble = problems?.[0]?.says ?? choices.trouble ?? whyNot;
  const { columns, shown } = useNeedColumns(search.get("cols"), choices, mayWrite);
  const source = useNeedRows(sheet, row, want, query.group);
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
            onSort={(column) => put({ sort: sortedNext(query.sort, column, true) })}
            onWidth={(key, width) => put({ cols: NEED_SHEET_COLUMNS.widened(columns, key, width) })}
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
            empty={<NoNeeds working={working !== null} narrowed={narrowed} />}
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
        <NeedsTally
          choices={choices}
          sum={sum}
          trouble={trouble}
          ticked={query.ticked === "yes"}
          onTicked={() => put({ ticked: query.ticked ? null : "yes" })}
          writing={
            mayWrite
              ? {
                  benches,
                  bench,
                  onBench: setBench,
                  onLay: mayLay ? lay : null,
                  onWrite: mayWriteNow ? write : null,
                  busy,
                }
              : null
          }
        />
      }
    />
  );
}

const badlyTyped = (text: string | null) => text !== null && text.trim() !== "" && !parseQuantity(text).ok;
