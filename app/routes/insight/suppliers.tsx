import { Link, useLoaderData } from "react-router";
import { RECORD_FIGURES, type RecordFigure } from "../../../core/insight/record";
import { count } from "../../../core/text";
import { readSupplierRecords, recordAsked } from "../../../server/queries/insight/record";
import { Field } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { PeriodFields } from "./asked-parts";
import { InsightPages } from "./insight-pages";
import { figureWords } from "./record-words";

export const loader = page("see insight", ({ db, url, day }) => {
  const asked = recordAsked(url.searchParams, day);
  return { asked, rows: readSupplierRecords(db, asked) };
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const HEADS: Record<RecordFigure, string> = {
  promised: "As promised",
  requested: "As asked",
  days: "Days to here",
  inFull: "In full",
  moved: "Moved",
  answered: "Hours",
  price: "Price",
  aside: "Aside",
  held: "Held",
};

/** All suppliers of whom something came, side by side with each figure of their record. */
export default function SuppliersSideBySide() {
  const { asked, rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const { put, search } = useAddress();
  const by = RECORD_FIGURES.find((f) => f === search.get("by")) ?? null;
  const worth = (r: Row) => (by ? figureWords(by, r.figures, w.locale).worth : r.figures.received) ?? -Infinity;
  const sorted = [...rows].sort((a, b) => worth(b) - worth(a));
  const [at, setAt] = useAt(sorted[0] ? String(sorted[0].supplier) : null);
  const here = sorted.find((r) => String(r.supplier) === at) ?? sorted[0];
  const columns: SheetColumn<Row>[] = [
    {
      key: "of",
      head: "Supplier",
      gives: true,
      cell: (r) => (
        <Link
          className="hover:underline"
          to={`/suppliers/${r.supplier}/record?from=${asked.period.from}&to=${asked.period.until}`}
        >
          {r.name}
        </Link>
      ),
    },
    {
      key: "received",
      head: `Received, ${w.home}`,
      keep: 5,
      align: "right",
      cell: (r) => <span className="figure">{w.round(r.figures.received)}</span>,
    },
    ...RECORD_FIGURES.map(
      (f, i): SheetColumn<Row> => ({
        key: f,
        head: HEADS[f],
        keep: 9 - i,
        align: "right",
        cell: (r) => <span className="figure">{figureWords(f, r.figures, w.locale).text?.split(" ±")[0] ?? "–"}</span>,
      }),
    ),
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Suppliers, side by side">
            <InsightPages here="/insight/suppliers" />
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
            <Field label="Sorted by" className="w-60">
              {(a) => (
                <select {...a} className="entry" value={by ?? ""} onChange={(e) => put({ by: e.target.value || null })}>
                  <option value="">what was received</option>
                  {RECORD_FIGURES.map((f) => (
                    <option key={f} value={f}>
                      {HEADS[f]}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            <PeriodFields period={asked.period} />
          </div>
          <Sheet
            label="Suppliers"
            columns={columns}
            rows={sorted}
            keyOf={(r) => String(r.supplier)}
            at={here ? String(here.supplier) : null}
            onAt={setAt}
            empty={<Empty title="Nothing came in these days">Choose other days.</Empty>}
          />
        </>
      }
      slip={
        here && (
          <>
            <SlipHead title={here.name}>
              <Link
                className="text-xs underline"
                to={`/suppliers/${here.supplier}/record?from=${asked.period.from}&to=${asked.period.until}`}
              >
                Their record
              </Link>
            </SlipHead>
            <table className="w-full text-xs">
              <caption className="sr-only">Figures of {here.name}</caption>
              <tbody>
                {RECORD_FIGURES.map((f) => {
                  const words = figureWords(f, here.figures, w.locale);
                  return (
                    <tr key={f} className="border-b border-rule-2">
                      <th scope="row" className="py-1 text-left font-normal">
                        {words.name}
                        <span className="block text-2xs text-ink-3">{words.from}</span>
                      </th>
                      <td className="figure text-right font-semibold whitespace-nowrap">{words.text ?? "–"}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </>
        )
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(rows.length, "supplier")}</b>
          </span>
          <span>
            received <b className="figure">{w.amount(rows.reduce((a, r) => a + r.figures.received, 0))}</b>
          </span>
        </TallyLine>
      }
    />
  );
}
