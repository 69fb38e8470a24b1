import { Link, useLoaderData } from "react-router";
import { parseDay } from "../../../core/calendar/day";
import { SPEND_CAUSES, type SpendSteps, WHY_BY } from "../../../core/insight/why";
import { count } from "../../../core/text";
import { aYearBefore, readWhy, type WhyAsked, type WhyRow, whyOf } from "../../../server/queries/insight/why";
import { StairChart } from "../../parts/stair-chart";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { Cuts, Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { InsightPages } from "./insight-pages";
import { CAUSE_SAYS } from "./words";

export const loader = page("see insight", ({ db, url, day }) => {
  const asked = whyOf(url.searchParams, day);
  return { asked, why: readWhy(db, asked), yearBefore: aYearBefore(asked) };
});

const stepsOf = (s: SpendSteps) =>
  SPEND_CAUSES.filter((c) => s[c] !== 0).map((c) => ({ label: CAUSE_SAYS[c], minor: s[c] }));

/** Why what was received came to more, or to less, than before: a stair over all of it, and of each row. */
export default function WhyPage() {
  const { asked, why, yearBefore } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(why.rows[0]?.key ?? null);
  const row = why.rows.find((r) => r.key === at) ?? why.rows[0];
  const money = (minor: number) => <span className="figure">{minor === 0 ? "" : w.round(minor)}</span>;
  const signed = (minor: number) => (
    <span className={`figure ${minor > 0 ? "text-signal" : ""}`}>
      {minor === 0 ? "" : `${minor > 0 ? "+" : ""}${w.round(minor)}`}
    </span>
  );
  const columns: SheetColumn<WhyRow>[] = [
    { key: "of", head: asked.by, gives: true, cell: (r) => r.label },
    { key: "before", head: "Before", keep: 2, align: "right", cell: (r) => money(r.before) },
    { key: "after", head: "After", keep: 3, align: "right", cell: (r) => money(r.after) },
    { key: "change", head: "Changed by", keep: 4, align: "right", cell: (r) => signed(r.after - r.before) },
    { key: "price", head: "Price", keep: 2, align: "right", cell: (r) => signed(r.steps.price) },
    { key: "currency", head: "Rates", keep: 1, align: "right", cell: (r) => signed(r.steps.currency) },
    { key: "quantity", head: "Quantity", keep: 2, align: "right", cell: (r) => signed(r.steps.quantity) },
    {
      key: "turned",
      head: "New and gone",
      keep: 1,
      align: "right",
      cell: (r) => signed(r.steps.new + r.steps.gone + r.steps.other),
    },
  ];
  const days = (d: { from: string; until: string }) => `${w.day(d.from, false)} to ${w.day(d.until, false)}`;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Why it changed" sub={`what was received, before tax, in ${w.home}`}>
            <InsightPages here="/insight/why" />
          </SheetHead>
          <Periods asked={asked} yearBefore={yearBefore} />
          <Sheet
            label="Why it changed"
            columns={columns}
            rows={why.rows}
            keyOf={(r) => r.key}
            at={row?.key ?? null}
            onAt={setAt}
            empty={<Empty title="Nothing in these days">Nothing was received in either of them.</Empty>}
          />
          {why.rows.length > 0 && (
            <StairChart
              caption={`All of it, ${w.home}: ${days(asked.before)}, then ${days(asked)}`}
              currency={w.home}
              from={{ label: "before", minor: why.before }}
              steps={stepsOf(why.steps)}
              to={{ label: "after", minor: why.after }}
            />
          )}
        </>
      }
      slip={row && <WhySlip asked={asked} row={row} />}
      tally={
        <TallyLine>
          <span>
            <b>{count(why.rows.length, "row")}</b>
          </span>
          <span>
            before <b className="figure">{w.amount(why.before)}</b>
          </span>
          <span>
            after <b className="figure">{w.amount(why.after)}</b>
          </span>
          <span>
            changed by <b className="figure">{w.amount(why.after - why.before)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

/** The days, those that they are held against, and by what. */
function Periods({ asked, yearBefore }: { asked: WhyAsked; yearBefore: string }) {
  const { put } = useAddress();
  const of = (label: string, name: string, value: string) => (
    <Field label={label} className="w-36">
      {(a) => <DayEntry {...a} value={value} onDay={(d) => parseDay(d) && put({ [name]: d })} />}
    </Field>
  );
  return (
    <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
      <Cuts
        label="By"
        value={asked.by}
        options={WHY_BY.map((by) => ({ value: by, label: `by ${by}` }))}
        onChange={(by) => put({ by })}
      />
      <span className="flex-1" />
      {of("From", "from", asked.from)}
      {of("To", "to", asked.until)}
      {of("Against as many days from", "than", asked.before.from)}
      <Cuts
        label="Against"
        value={asked.before.from === yearBefore ? "year" : ""}
        options={[{ value: "year", label: "a year before" }]}
        onChange={() => put({ than: asked.before.from === yearBefore ? null : yearBefore })}
      />
    </div>
  );
}

/** One row's own steps, and where it went. */
function WhySlip({ asked, row }: { asked: WhyAsked; row: WhyRow }) {
  const w = useWriting();
  const papers = (d: { from: string; until: string }) =>
    `/insight?${new URLSearchParams({ rows: asked.by === "item" ? "supplier" : "item", from: d.from, to: d.until, [`is-${asked.by}`]: row.key })}`;
  return (
    <>
      <SlipHead over={asked.by} title={row.label}>
        <p className="mt-1 text-ink-2">Each item taken apart on its own, and added up.</p>
      </SlipHead>
      <table className="figure w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">Why {row.label} changed</caption>
        <tbody>
          <StepRow label="before" minor={row.before} />
          {stepsOf(row.steps).map((s) => (
            <StepRow key={s.label} label={s.label} minor={s.minor} sign />
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-2 border-ink font-semibold">
            <th scope="row" className="px-2.5 py-1 text-left font-sans">
              after
            </th>
            <td className="px-2.5 text-right">{w.money(row.after)}</td>
          </tr>
        </tfoot>
      </table>
      <p className="text-xs">
        <Link className="underline" to={papers(asked.before)}>
          Its papers before
        </Link>{" "}
        ·{" "}
        <Link className="underline" to={papers(asked)}>
          and after
        </Link>
      </p>
    </>
  );
}

function StepRow({ label, minor, sign = false }: { label: string; minor: number; sign?: boolean }) {
  const w = useWriting();
  return (
    <tr>
      <th scope="row" className="px-2.5 py-0.5 text-left font-sans font-normal">
        {label}
      </th>
      <td className="px-2.5 text-right">
        {sign && minor > 0 && "+"}
        {w.money(minor)}
      </td>
    </tr>
  );
}
