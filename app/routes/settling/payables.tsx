import { Link, useLoaderData, useSearchParams } from "react-router";
import { parseDay } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { AGES, ageOf, daysOver } from "../../../core/settling/due";
import { count } from "../../../core/text";
import {
  type PayableRow,
  readPayableSums,
  readPayables,
  readPayments,
  summed,
} from "../../../server/queries/settling/payables";
import { ButtonLink } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { PaidLately, PayPart } from "./pay-parts";
import { payActs } from "./settle-acts";

export const loader = page("see payables", ({ db, person, url, day }) => {
  const on = parseDay(url.searchParams.get("on") ?? "") ?? day;
  const sums = readPayableSums(db, on);
  const ages = summed(sums, (s) => ageOf(s.due, on));
  return {
    on,
    rows: readPayables(db, on),
    ages: AGES.map((name) => ages.find((a) => a.name === name) ?? { name, papers: 0, homeLeft: 0 }),
    suppliers: summed(sums, (s) => s.supplier).sort((a, b) => b.homeLeft - a.homeLeft),
    currencies: summed(sums, (s) => s.currency),
    payments: readPayments(db),
    // What was owed on another day is not paid now.
    pays: may(person.roles, "pay") && on === day,
  };
});

export const action = actions("pay", payActs);

const keyOf = (r: PayableRow) => String(r.id);

/** What is owed on a day, by how long it is due, by supplier and currency; each with its paper. */
export default function PayablesPage() {
  const { on, rows, ages, suppliers, currencies, payments, pays } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [, setParams] = useSearchParams();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const columns: SheetColumn<PayableRow>[] = [
    {
      key: "of",
      head: "Owed to",
      gives: true,
      cell: (r) => (
        <Link
          className="hover:underline"
          to={r.invoice === null ? `/statements/${r.statement}` : `/settle/${r.invoice}`}
        >
          <Named name={r.supplierName} code={r.invoice === null ? `use statement ${r.number}` : r.number} />
        </Link>
      ),
    },
    { key: "age", head: "Due", keep: 2, cell: (r) => (r.onList ? `on pay list ${r.onList}` : ageWords(r, on)) },
    { key: "due", head: "Paid by", keep: 3, align: "right", cell: (r) => w.day(r.due, false) },
    {
      key: "total",
      head: "Left of it",
      keep: 3,
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.left, r.currency)}</span>,
    },
    {
      key: "home",
      head: `Booked, ${w.home}`,
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.homeLeft)}</span>,
    },
  ];
  const chosen = rows.find((r) => keyOf(r) === at);
  const all = ages.reduce((a, s) => a + s.homeLeft, 0);
  const papers = ages.reduce((a, s) => a + s.papers, 0);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Payables" sub={`what was owed on ${w.day(on)}`}>
            <Link className="text-xs underline" to="/pay-lists">
              Pay lists
            </Link>
            <Field label="On" className="w-36">
              {(a) => <DayEntry {...a} value={on} onDay={(d) => parseDay(d) && setParams({ on: d })} />}
            </Field>
          </SheetHead>
          <Sheet
            label="Payables"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            empty={
              <Empty title="Nothing was owed">
                What matches, and what suppliers agree to on use statements, is owed.
              </Empty>
            }
          />
        </>
      }
      slip={
        <>
          {chosen && <PayPart at={chosen} rows={rows} pays={pays} />}
          <Totals title="By age" rows={ages} />
          <Totals title="By supplier" rows={suppliers.slice(0, 40)} />
          <Totals title="By currency, booked" rows={currencies} />
          <PaidLately payments={payments} pays={pays} />
        </>
      }
      tally={
        <TallyLine
          act={
            pays && (
              <ButtonLink look="main" to="/pay-lists/new">
                Propose what to pay
              </ButtonLink>
            )
          }
        >
          <span>
            <b>{count(papers, "paper")}</b>
            {papers > rows.length && `, the ${rows.length} due first shown`}
          </span>
          <span>
            owed, as booked <b className="figure">{w.amount(all)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

const ageWords = (r: PayableRow, on: PayableRow["due"]) => {
  const over = daysOver(r.due, on);
  return over <= 0 ? "not yet due" : `${count(over, "day")} over`;
};

/** What some papers come to, in home currency as they were booked. */
function Totals({
  title,
  rows,
}: {
  title: string;
  rows: readonly { name: string; papers: number; homeLeft: number }[];
}) {
  const w = useWriting();
  return (
    <SlipPart title={title}>
      <table className="w-full text-xs">
        <caption className="sr-only">{title}</caption>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                {r.name}
              </th>
              <td className="figure w-12 px-2 text-right text-ink-2">{r.papers || ""}</td>
              <td className="figure w-28 py-1 text-right">{w.money(r.homeLeft)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SlipPart>
  );
}
