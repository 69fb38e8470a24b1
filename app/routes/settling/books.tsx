import { useLoaderData, useSearchParams } from "react-router";
import { type Day, monthStart, parseDay } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import {
  type BookClose,
  journalSums,
  readClosable,
  readCloses,
  readUnbilled,
} from "../../../server/queries/settling/books";
import { readTrialBalance } from "../../../server/queries/stock/values";
import { SlipForm } from "../../parts/slip-form";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { actions, page } from "../../web/page";
import { TrialSlip } from "../stock/value-parts";
import { type BookWord, bookActs } from "./settle-acts";

/** A month of the journal, closed or not. */
type Period = Pick<BookClose, "starts" | "until" | "entries" | "debit"> & { closed: BookClose | null };

export const loader = page("see stock values", ({ db, url, day, person }) => {
  const closes = readCloses(db);
  const { from, ends } = readClosable(db, day);
  const open = [...ends.map((until) => ({ until, over: true })), { until: day, over: false }].map(
    ({ until, over }, i) => {
      const starts = i === 0 && from !== null ? from : monthStart(until);
      return { starts, until, over, ...journalSums(db, starts, until), closed: null };
    },
  );
  const periods: (Period & { over: boolean })[] = [
    ...open.reverse(),
    ...closes.map((c) => ({
      starts: c.starts,
      until: c.until,
      entries: c.entries,
      debit: c.debit,
      over: true,
      closed: c,
    })),
  ];
  const asked = parseDay(url.searchParams.get("at") ?? "");
  const here = periods.find((p) => p.until === asked) ?? periods[0]!;
  return {
    periods,
    at: here.until,
    trial: readTrialBalance(db, here.until),
    unbilled: here.over && here.closed === null ? readUnbilled(db, here.until) : [],
    closes: may(person.roles, "close books"),
  };
});

export const action = actions("close books", bookActs);

const keyOf = (p: Period) => p.until;

/** The journal month by month: what is closed and handed over, what can be closed now, and where the accounts stood. */
export default function Books() {
  const { periods, at, trial, unbilled, closes } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const here = periods.find((p) => p.until === at)!;
  const columns: SheetColumn<Period>[] = [
    {
      key: "of",
      head: "Period",
      gives: true,
      cell: (p) => (
        <Named name={`${w.day(p.starts, false)} to ${w.day(p.until, false)}`} code={p.closed?.number ?? "open"} />
      ),
    },
    {
      key: "closed",
      head: "Closed",
      keep: 1,
      cell: (p) => (p.closed ? `${w.moment(p.closed.at)} by ${p.closed.person}` : ""),
    },
    {
      key: "entries",
      head: "Entries",
      keep: 2,
      align: "right",
      cell: (p) => <span className="figure">{p.entries.toLocaleString(w.locale)}</span>,
    },
    {
      key: "debit",
      head: `Debit and credit, ${w.home}`,
      keep: 3,
      align: "right",
      cell: (p) => <span className="figure">{w.money(p.debit)}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Books" sub="the journal, month by month" />
          <Sheet
            label="Periods"
            columns={columns}
            rows={periods}
            keyOf={keyOf}
            at={at}
            onAt={(until) => setSearch({ at: until }, { replace: true })}
            empty={<Empty title="Nothing is booked yet">What is counted in, billed and paid is booked here.</Empty>}
          />
        </>
      }
      slip={
        <>
          <ClosePart here={here} unbilled={unbilled} closes={closes} />
          <Handed starts={here.starts} until={here.until} />
          <TrialSlip rows={trial} on={at} />
        </>
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(periods.filter((p) => p.closed).length, "period")}</b> closed
          </span>
          <span>debits are credits, in each entry and in all</span>
        </TallyLine>
      }
    />
  );
}

/** What closing a period does, and what is accrued with it. */
function ClosePart({
  here,
  unbilled,
  closes,
}: {
  here: Period & { over: boolean };
  unbilled: ReturnType<typeof readUnbilled>;
  closes: boolean;
}) {
  const w = useWriting();
  if (here.closed)
    return (
      <SlipHead over={here.closed.number} title="Closed">
        <p className="mt-1 text-xs text-ink-2">
          Nothing is booked into it any more: what is said of its days later on is booked on the first day after it.
          {here.closed.accrued > 0 && ` Accrued: ${w.amount(here.closed.accrued)}.`}
        </p>
      </SlipHead>
    );
  if (!here.over)
    return (
      <SlipHead over="open" title="The running month">
        <p className="mt-1 text-xs text-ink-2">A month can be closed when it is over.</p>
      </SlipHead>
    );
  const sum = unbilled.reduce((a, u) => a + u.minor, 0);
  return (
    <>
      <SlipHead over="open" title={`To ${w.day(here.until, false)}`} />
      {unbilled.length > 0 && (
        <SlipPart title="Accrued when it is closed">
          <table className="w-full text-xs">
            <caption className="sr-only">Charges of goods that came, not billed by then</caption>
            <tbody>
              {unbilled.slice(0, 12).map((u) => (
                <tr key={u.line} className="border-b border-rule-2">
                  <th scope="row" className="py-1 text-left font-normal">
                    {u.words} <span className="code">{u.order}</span>
                    <span className="block text-2xs text-ink-3">{u.supplier}</span>
                  </th>
                  <td className="figure text-right">{w.money(u.minor)}</td>
                </tr>
              ))}
            </tbody>
            <tfoot>
              <tr className="font-semibold">
                <th scope="row" className="py-1 text-left">
                  {count(unbilled.length, "charge")} of goods that came, not billed
                </th>
                <td className="figure text-right">{w.money(sum)}</td>
              </tr>
            </tfoot>
          </table>
        </SlipPart>
      )}
      {closes && (
        <SlipForm<BookWord>
          key={here.until}
          does="close"
          fields={{ until: here.until }}
          label={`Close up to ${w.day(here.until, false)}`}
          send="Close it for good"
        >
          <p className="text-xs text-ink-2">
            Everything up to this day is numbered and never added to again
            {sum > 0 && `; ${w.amount(sum)} are accrued and turned round a day later`}. It cannot be opened again.
          </p>
        </SlipForm>
      )}
    </>
  );
}

function Handed({ starts, until }: { starts: Day; until: Day }) {
  const of = `from=${starts}&until=${until}`;
  return (
    <p className="flex gap-4 text-xs">
      <a className="underline" href={`/books/journal.csv?${of}`}>
        Journal, CSV
      </a>
      <a className="underline" href={`/books/audit.xml?${of}`}>
        OECD audit file
      </a>
    </p>
  );
}
