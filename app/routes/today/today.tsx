import { Link, useFetcher, useLoaderData, useNavigate } from "react-router";
import { addDays, weekday } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import type { Ranked } from "../../../core/today/waiting";
import { readNotices } from "../../../server/acts/today/read-notices";
import { readMovedMost } from "../../../server/queries/insight/moved";
import { readToday } from "../../../server/queries/today/today";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { act, page } from "../../web/page";
import { MovedPart } from "../insight/moved-part";

/** Nobody reads further down than this in a day; the rest stands at its stops. */
const MOST = 60;

export const loader = page("keep own inbox", ({ db, person, day, hour }) => {
  const { forYou, withOthers, ...rest } = readToday(db, person, day, hour);
  return {
    ...rest,
    forYou: forYou.slice(0, MOST),
    withOthers: withOthers.slice(0, MOST),
    all: { forYou: forYou.length, withOthers: withOthers.length, late: forYou.filter((r) => r.daysLate > 0).length },
    day,
    first: person.name.split(" ")[0],
    mayAsk: may(person.roles, "ask"),
    moved: may(person.roles, "follow spend") ? readMovedMost(db, day) : [],
    days: Array.from({ length: 7 }, (_, i) => addDays(day, i))
      .filter((d) => weekday(d) <= 5)
      .slice(0, 5),
  };
});

export const action = act("keep own inbox", (desk, input) => readNotices(desk, input));
export const shouldRevalidate = unlessOnlyLooking;

export default function Today() {
  const {
    forYou,
    withOthers,
    notices,
    coming,
    weeks,
    day,
    days,
    mayAsk,
    moved,
    all: counts,
  } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const all = [...forYou, ...withOthers];
  const [at, setAt] = useAt(all[0]?.key ?? null);
  const here = all.find((r) => r.key === at) ?? all[0] ?? null;
  const index = here ? all.indexOf(here) : -1;
  const move = (by: number) => {
    const next = all[Math.max(0, Math.min(all.length - 1, index + by))];
    if (!next) return;
    setAt(next.key);
    document.getElementById(`waits-${next.key}`)?.scrollIntoView({ block: "nearest" });
  };
  useKeys([
    { key: "arrowdown", label: "next", run: () => move(1) },
    { key: "arrowup", label: "the one before", run: () => move(-1) },
    { key: "enter", label: "open it", run: () => here && navigate(here.href) },
  ]);
  const title = new Intl.DateTimeFormat(w.locale, { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" })
    .format(new Date(`${day}T00:00:00Z`))
    .replace(",", "");
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead
            title={title}
            sub={
              forYou.length
                ? `${count(counts.forYou, "thing waits", "things wait")} for you${counts.forYou > 1 ? ", in the order in which waiting costs most" : ""}`
                : undefined
            }
          >
            {mayAsk && <ButtonLink to="/requisitions?new=1">Ask for something</ButtonLink>}
          </SheetHead>
          <Inbox notices={notices} />
          {forYou.length === 0 ? (
            <div className="border-t-2 border-ink">
              <Empty title="Nothing waits for you">
                {withOthers.length
                  ? "What others hold stands below."
                  : "What comes up will stand here, the costliest to leave first."}
              </Empty>
            </div>
          ) : (
            <>
              <List label="Waits for you" rows={forYou} at={here?.key ?? null} onAt={setAt} />
              {counts.forYou > forYou.length && (
                <p className="px-4.5 py-2 text-ink-2">
                  And {counts.forYou - forYou.length} more, less urgent: they stand at their stops.
                </p>
              )}
            </>
          )}
          {withOthers.length > 0 && (
            <>
              <div className="flex items-baseline gap-3 px-4.5 pt-6 pb-2">
                <h2 className="text-lg font-bold">With others</h2>
                <p className="text-ink-2">nothing to do, unless it stays</p>
              </div>
              <List label="With others" rows={withOthers} at={here?.key ?? null} onAt={setAt} quiet />
            </>
          )}
        </div>
      }
      slip={
        <>
          {here ? <WhatWaits row={here} /> : <SlipHead title="A quiet day" />}
          {coming.length > 0 && <Week days={days} coming={coming} today={day} />}
          {weeks.some((k) => k.minor > 0) && <Committed weeks={weeks} />}
          <MovedPart moved={moved} />
        </>
      }
      tally={<TodayTally counts={counts} onOpen={here ? () => void navigate(here.href) : null} />}
    />
  );
}

const sentence = (t: string) => `${t.charAt(0).toUpperCase()}${t.slice(1)}${/[.!?]$/.test(t) ? "" : "."}`;

function When({ row }: { row: Ranked }) {
  const w = useWriting();
  if (row.daysLate > 0) return <span className="font-semibold text-signal">{count(row.daysLate, "day")} late</span>;
  if (!row.by) return <span className="text-ink-3">any day</span>;
  return <span className="font-semibold">{row.by === w.today ? "today" : `by ${w.day(row.by)}`}</span>;
}

function List({
  label,
  rows,
  at,
  onAt,
  quiet = false,
}: {
  label: string;
  rows: Ranked[];
  at: string | null;
  onAt: (k: string) => void;
  quiet?: boolean;
}) {
  const w = useWriting();
  return (
    <ol aria-label={label} className={`border-t-2 ${quiet ? "border-rule" : "border-ink"}`}>
      {rows.map((r) => (
        <li
          key={r.key}
          id={`waits-${r.key}`}
          aria-current={r.key === at ? "true" : undefined}
          onPointerDown={() => onAt(r.key)}
          className={`grid grid-cols-[112px_minmax(0,1fr)_190px_112px] items-center gap-3 border-b border-rule-2 px-4.5 py-[7px] max-md:grid-cols-[90px_1fr] ${r.key === at ? "bg-here shadow-[inset_4px_0_0_var(--color-harbour)]" : "hover:bg-band/70"}`}
        >
          <When row={r} />
          <span className="min-w-0">
            <Link
              to={r.href}
              onFocus={() => onAt(r.key)}
              className={`block truncate ${quiet ? "" : "font-semibold"} hover:underline`}
            >
              {r.title}
            </Link>
            <span className="block truncate text-xs text-ink-2">{r.detail}</span>
          </span>
          <span className="max-md:col-start-2">
            {r.figure ? (
              <span className="figure">{w.amount(r.figure.minor, r.figure.currency)}</span>
            ) : (
              (r.doing ?? r.ifItStays)
            )}
          </span>
          <span className="text-right text-ink-2 max-md:hidden">{r.stop}</span>
        </li>
      ))}
    </ol>
  );
}

function Inbox({ notices }: { notices: { id: number; at: string; text: string; detail: string; href: string }[] }) {
  const w = useWriting();
  const fetcher = useFetcher();
  const key = useSubmissionKey(notices);
  if (notices.length === 0) return null;
  const put = (notice?: number) =>
    fetcher.submit({ ...(notice ? { notice: String(notice) } : {}), key: key() }, { method: "post" });
  return (
    <section aria-label="News for you" className="mx-4.5 mb-3 border border-rule bg-band">
      <div className="flex items-baseline gap-3 border-b border-rule px-3 py-1.5">
        <h2 className="font-sans text-xs font-semibold">{count(notices.length, "piece", "pieces")} of news for you</h2>
        <button type="button" className="ml-auto text-xs underline" onClick={() => put()}>
          Put all away
        </button>
      </div>
      <ul className="max-h-44 overflow-y-auto">
        {notices.map((n) => (
          <li key={n.id} className="flex items-baseline gap-3 px-3 py-1">
            <span className="code w-24 shrink-0">{w.moment(n.at)}</span>
            <Link to={n.href} className="shrink-0 font-semibold hover:underline" onClick={() => put(n.id)}>
              {n.text}
            </Link>
            <span className="min-w-0 truncate text-ink-2">{n.detail}</span>
            <button
              type="button"
              className="ml-auto shrink-0 text-xs underline"
              onClick={() => put(n.id)}
              aria-label={`Put away: ${n.text}`}
            >
              Put away
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Week({
  days,
  coming,
  today,
}: {
  days: string[];
  coming: { order: OrderId; due: string; supplierName: string; number: string }[];
  today: string;
}) {
  const w = useWriting();
  return (
    <SlipPart title="On the dock this week">
      <ul className="grid grid-cols-5 border border-rule bg-sheet">
        {days.map((d) => (
          <li
            key={d}
            className={`min-h-24 min-w-0 border-r border-rule p-1.5 last:border-0 ${d === today ? "shadow-[inset_0_3px_0_var(--color-ink)]" : ""}`}
          >
            <p className="mb-1 font-display text-xs font-bold">{w.day(d).replace(/ \w+$/, "")}</p>
            {coming
              .filter((l) => l.due === d)
              .slice(0, 5)
              .map((l) => (
                <p key={l.order} className="truncate text-2xs text-ink-2" title={`${l.supplierName}, ${l.number}`}>
                  {l.supplierName}
                </p>
              ))}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

function Committed({ weeks }: { weeks: { week: string; minor: number }[] }) {
  const w = useWriting();
  const most = Math.max(...weeks.map((k) => k.minor), 1);
  return (
    <SlipPart title={`Committed by week of delivery, ${w.home}`}>
      <ol className="flex h-[96px] items-end gap-1 border-b-[1.5px] border-ink">
        {weeks.map((k) => (
          <li
            key={k.week}
            className="flex min-w-0 flex-1 flex-col items-center justify-end"
            title={`Week of ${w.day(k.week)}: ${w.amount(k.minor)}`}
          >
            <span className="sr-only">{`Week of ${w.day(k.week)}: ${w.amount(k.minor)}`}</span>
            <span aria-hidden="true" className="font-mono text-[10px] text-ink-3">
              {k.minor ? w.short(k.minor) : ""}
            </span>
            <span className="w-full bg-harbour" style={{ height: `${(k.minor / most) * 72}px` }} />
          </li>
        ))}
      </ol>
      <p className="mt-1 flex justify-between text-2xs text-ink-3">
        <span>from {w.day(weeks[0]!.week, false)}</span>
        <span>{w.day(weeks.at(-1)!.week, false)}</span>
      </p>
    </SlipPart>
  );
}

/** Why it waits, what it costs to leave it, and where it is done. */
function WhatWaits({ row }: { row: Ranked }) {
  const w = useWriting();
  return (
    <SlipHead over={row.stop} title={row.title}>
      <p className="mt-1.5 text-ink-2">{sentence(row.detail)}</p>
      <p className="mt-2">
        If it stays: <b className={row.daysLate ? "text-signal" : ""}>{row.ifItStays}</b>.
        {row.by && (
          <> {row.daysLate ? `It should have been done by ${w.day(row.by)}.` : `To be done by ${w.day(row.by)}.`}</>
        )}
      </p>
      <p className="mt-2.5">
        <Link to={row.href} className="font-semibold underline">
          {row.doing ? sentence(row.doing).replace(/\.$/, "") : `Open in ${row.stop}`}
        </Link>
      </p>
    </SlipHead>
  );
}

function TodayTally({
  counts,
  onOpen,
}: {
  counts: { forYou: number; late: number; withOthers: number };
  onOpen: (() => void) | null;
}) {
  return (
    <TallyLine
      keys={[
        ["arrowdown", "move"],
        ["g", "go to a stop"],
        ["?", "all keys"],
      ]}
      act={
        onOpen && (
          <Button look="main" hint="⏎" onClick={onOpen}>
            Open
          </Button>
        )
      }
    >
      <span>
        <b>{counts.forYou}</b> for you
      </span>
      {counts.late > 0 && <span className="font-semibold text-signal">{counts.late} late</span>}
      <span>
        <b>{counts.withOthers}</b> with others
      </span>
    </TallyLine>
  );
}
