import { useEffect, useState } from "react";
import { Link, Outlet, useFetcher, useLoaderData, useNavigate, useParams, useSearchParams } from "react-router";
import { addDays, daysBetween } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { receiveWhole } from "../../../server/acts/receiving/receive-whole";
import { storeName } from "../../../server/queries/choices";
import { announcedByLoad } from "../../../server/queries/receiving/announced";
import { readComingIn } from "../../../server/queries/receiving/dock";
import { useKeptPages, useSending } from "../../parts/use-sending";
import { WaitingNote } from "../../parts/waiting-note";
import { Button } from "../../ui/button";
import { Empty } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { act, page } from "../../web/page";
import { DockPages } from "./dock-pages";

export const loader = page("see dock", ({ db, person, day }) => {
  const counts = may(person.roles, "count in");
  const store = counts ? person.store : null;
  const name = store === null ? "all stores" : storeName(db, store);
  const announced = announcedByLoad(db);
  const loads = readComingIn(db, store).map((l) => ({
    ...l,
    announced: announced.get(`${l.order} ${l.store}`) ?? null,
    overdueBy: l.due < day ? daysBetween(l.due, day) : 0,
  }));
  return { name, loads, day, counts, oneStore: store !== null };
});

export const action = act("count in", (desk, input) => receiveWhole(desk, input));

type DockLoad = ReturnType<typeof useLoaderData<typeof loader>>["loads"][number];
const keyOf = (l: DockLoad) => `${l.order} ${l.store}`;

/** What should come, overdue first; beside it the count sheet of the load that is chosen. */
export default function Dock() {
  const { name, loads, day, counts, oneStore } = useLoaderData<typeof loader>();
  const { order } = useParams();
  const w = useWriting();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const chosen = search.get("store");
  const isHere = (l: (typeof loads)[number]) =>
    String(l.order) === order && (oneStore || !chosen || String(l.store) === chosen);
  const addressOf = (l: (typeof loads)[number]) => `/dock/${l.order}${oneStore ? "" : `?store=${l.store}`}`;
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const toggle = (key: string) =>
    setTicked((was) => {
      const next = new Set(was);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  const index = loads.findIndex(isHere);
  const go = (by: number) => {
    const next = loads[Math.max(0, Math.min(loads.length - 1, index + by))];
    if (next) void navigate(addressOf(next), { replace: order !== undefined });
  };
  useKeys([
    { key: "j", label: "next load", run: () => go(1) },
    { key: "k", label: "load before", run: () => go(index < 0 ? 1 : -1) },
  ]);
  const sending = useSending();
  useKeptPages(counts ? ["/open-count"] : []);
  const later = addDays(day, 14);
  const groups = new Map<string, typeof loads>();
  for (const l of loads) {
    const group =
      l.due < day
        ? "Overdue"
        : l.due === day
          ? `Today, ${w.day(l.due)}`
          : l.due <= later
            ? w.day(l.due)
            : `After ${w.day(later)}`;
    groups.set(group, [...(groups.get(group) ?? []), l]);
  }
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)_auto] lg:grid-cols-[318px_minmax(0,1fr)] max-lg:grid-rows-[1fr]">
      <nav
        aria-label="Coming in"
        className={`min-h-0 overflow-y-auto border-r border-rule bg-paper ${order ? "max-lg:hidden" : ""}`}
      >
        <div className="flex items-baseline gap-3 px-4 pt-3.5 pb-2.5">
          {!order && <title>Dock · Wharf Tally</title>}
          {order ? <h2 className="text-xl font-bold">Coming in</h2> : <h1 className="text-xl font-bold">Coming in</h1>}
          <p className="text-ink-2">{name}</p>
        </div>
        <div className="px-4 pb-2.5">
          <DockPages here="dock" counts={counts} />
        </div>
        {counts && !order && <WaitingNote sending={sending} />}
        {loads.length === 0 && (
          <Empty title="Nothing is on its way">Orders stand here from the day they are placed.</Empty>
        )}
        {[...groups].map(([group, list]) => (
          <section key={group} className="border-t border-rule">
            <h2
              className={`flex justify-between px-4 pt-2 pb-1 text-sm font-bold ${group === "Overdue" ? "text-signal" : ""}`}
            >
              {group} <span className="font-mono text-xs font-medium text-ink-3">{list.length}</span>
            </h2>
            <ul>
              {list.map((l) => (
                <LoadEntry
                  key={keyOf(l)}
                  load={l}
                  to={addressOf(l)}
                  here={isHere(l)}
                  where={!oneStore}
                  later={l.due > later}
                  tick={counts ? { on: ticked.has(keyOf(l)), toggle: () => toggle(keyOf(l)) } : null}
                />
              ))}
            </ul>
          </section>
        ))}
        {ticked.size > 0 && (
          <TakeWhole loads={loads.filter((l) => ticked.has(keyOf(l)))} onTaken={() => setTicked(new Set())} />
        )}
      </nav>
      {order ? (
        <Outlet />
      ) : (
        <>
          <main id="sheet" tabIndex={-1} className="bg-sheet max-lg:hidden">
            <Empty title="Choose a load">
              Pick what has come from the list, or press J. Then scan, type, or take the rest as ordered.
            </Empty>
          </main>
          <TallyLine keys={[["j", "next load"]]}>
            <span>
              <b>{loads.filter((l) => l.due <= day).length}</b> loads due
            </span>
            {loads.some((l) => l.overdueBy) && (
              <span className="font-semibold text-signal">{loads.filter((l) => l.overdueBy).length} overdue</span>
            )}
          </TallyLine>
        </>
      )}
    </div>
  );
}

/** A load that should come; ticked, it can be taken in as ordered together with others. */
function LoadEntry({
  load: l,
  to,
  here,
  where,
  later,
  tick,
}: {
  load: DockLoad;
  to: string;
  here: boolean;
  /** Its store is named, and its day. */
  where: boolean;
  later: boolean;
  tick: { on: boolean; toggle: () => void } | null;
}) {
  const w = useWriting();
  return (
    <li
      className={`flex items-stretch ${here ? "bg-sheet shadow-[inset_4px_0_0_var(--color-harbour)]" : "hover:bg-band"}`}
    >
      {tick && (
        <label className="flex w-9 shrink-0 items-center justify-end max-lg:w-12 max-lg:justify-center">
          <input
            type="checkbox"
            checked={tick.on}
            onChange={tick.toggle}
            aria-label={`${l.number} came whole`}
            className="size-6 accent-harbour"
          />
        </label>
      )}
      <Link
        to={to}
        aria-current={here ? "page" : undefined}
        className={`block min-h-12 min-w-0 flex-1 py-1.5 pr-4 ${tick ? "pl-2" : "pl-4"}`}
      >
        <span className="flex justify-between gap-2">
          <span className="truncate font-semibold">{l.supplierName}</span>
          {l.overdueBy > 0 && (
            <span className="font-semibold whitespace-nowrap text-signal">
              {l.overdueBy === 1 ? "1 day" : `${l.overdueBy} days`}
            </span>
          )}
        </span>
        <span className="text-2xs text-ink-3">
          {l.number} · {l.what}
          {l.partIn && ", the rest"}
          {l.announced && ` · announced${l.announced.arrives ? ` for ${w.day(l.announced.arrives)}` : ""}`}
          {where && ` · ${l.storeName}`}
          {later && ` · due ${w.day(l.due)}`}
        </span>
      </Link>
    </li>
  );
}

/** Takes the ticked loads in as ordered, all that is open of each. */
function TakeWhole({ loads, onTaken }: { loads: readonly DockLoad[]; onTaken: () => void }) {
  const fetcher = useFetcher<typeof action>();
  const key = useSubmissionKey(loads.map(keyOf).join()); // other loads are another wish
  const problem = fetcher.data && !fetcher.data.ok ? fetcher.data.problems[0]?.says : undefined;
  useEffect(() => {
    if (fetcher.state === "idle" && fetcher.data?.ok) onTaken();
  }, [fetcher.state, fetcher.data, onTaken]);
  return (
    <div className="sticky bottom-0 border-t-2 border-ink bg-paper px-4 py-2.5">
      {problem && (
        <p role="alert" className="mb-1.5 text-xs font-semibold text-signal">
          {problem}
        </p>
      )}
      <Button
        look="main"
        className="w-full justify-center max-lg:min-h-12"
        disabled={fetcher.state !== "idle"}
        onClick={() => {
          void fetcher.submit(
            { key: `${key()}whole`, loads: loads.map(({ order, store, version }) => ({ order, store, version })) },
            { method: "post", action: "/dock", encType: "application/json" },
          );
        }}
      >
        Take {count(loads.length, "load")} in as ordered
      </Button>
    </div>
  );
}
