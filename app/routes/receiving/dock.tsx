import { Link, Outlet, useLoaderData, useNavigate, useParams, useSearchParams } from "react-router";
import { addDays, daysBetween } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { storeName } from "../../../server/queries/choices";
import { readComingIn } from "../../../server/queries/receiving/dock";
import { Empty } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { page } from "../../web/page";
import { DockPages } from "./dock-pages";

export const loader = page("see dock", ({ db, person, day }) => {
  const counts = may(person.roles, "count in");
  const store = counts ? person.store : null;
  const name = store === null ? "all stores" : storeName(db, store);
  const loads = readComingIn(db, store).map((l) => ({
    ...l,
    overdueBy: l.due < day ? daysBetween(l.due, day) : 0,
  }));
  return { name, loads, day, counts, oneStore: store !== null };
});

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
  const index = loads.findIndex(isHere);
  const go = (by: number) => {
    const next = loads[Math.max(0, Math.min(loads.length - 1, index + by))];
    if (next) void navigate(addressOf(next), { replace: order !== undefined });
  };
  useKeys([
    { key: "j", label: "next load", run: () => go(1) },
    { key: "k", label: "load before", run: () => go(index < 0 ? 1 : -1) },
  ]);
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
              {list.map((l) => {
                const on = isHere(l);
                return (
                  <li key={`${l.order} ${l.store}`}>
                    <Link
                      to={addressOf(l)}
                      aria-current={on ? "page" : undefined}
                      className={`block min-h-12 px-4 py-1.5 ${on ? "bg-sheet shadow-[inset_4px_0_0_var(--color-harbour)]" : "hover:bg-band"}`}
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
                        {!oneStore && ` · ${l.storeName}`}
                        {l.due > later && ` · due ${w.day(l.due)}`}
                      </span>
                    </Link>
                  </li>
                );
              })}
            </ul>
          </section>
        ))}
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
