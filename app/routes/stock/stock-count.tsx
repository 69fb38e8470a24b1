import { useEffect, useRef } from "react";
import { Link, useActionData, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { countWords, differenceOf } from "../../../core/stock/stock-count";
import { type PlaceSeen, readStockCount } from "../../../server/queries/stock/stock-counts";
import { ScanBar } from "../../parts/scan-bar";
import { SlipForm } from "../../parts/slip-form";
import { TextField } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { useAt } from "../../ui/use-at";
import { actions, idOf, notFound, page } from "../../web/page";
import { type CountWord, countActs } from "./count-acts";
import { countable, judged, wrongCount } from "./count-texts";
import { FoundBeside } from "./found-beside";
import { JudgeSlip } from "./judge-slip";
import { mayOpenPaper } from "./may-open";
import { CountTallyOfStock } from "./stock-count-tally";
import { useJudging } from "./use-judging";
import { useStockCount } from "./use-stock-count";

export const loader = page("see shelves", ({ db, person, params }) => {
  const judges = may(person.roles, "judge counts");
  const values = may(person.roles, "see stock values");
  const found = readStockCount(db, idOf(params.id), { person: person.id, judges, values });
  if (!found) throw notFound("There is no such count.");
  mayOpenPaper(person, found.head);
  const open = found.head.state === "Open" || found.head.state === "Counted";
  return { ...found, open, judges: judges && open, counts: may(person.roles, "count stock") && open, values };
});

export const action = actions("see shelves", countActs, ({ params }) => ({ count: idOf(params.id) }));

const keyOf = (l: PlaceSeen) => String(l.id);

/** A count of the stock: counted along the walk, then judged line by line, and booked. */
export default function StockCountPage() {
  const { head, lines, open, judges, counts, values } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const w = useWriting();
  const scan = useRef<HTMLInputElement>(null);
  const [at, setAt] = useAt(lines[0] ? keyOf(lines[0]) : null);
  const counting = useStockCount(head, lines, problems, setAt);
  const judging = useJudging(head, lines, judges);
  const here = lines.find((l) => keyOf(l) === at) ?? lines[0] ?? null;
  const { put } = counting;
  useEffect(() => {
    if (answer?.ok && "counted" in answer.value) put(null); // it is handed in
  }, [answer, put]);
  useKeys([
    { key: "c", label: "scan a bin, or goods", run: () => scan.current?.focus() },
    ...(counts ? [{ key: "t", label: "hand in", run: counting.handIn }] : []),
    ...(judging.differ.length ? [{ key: "b", label: "book all that differ", run: () => judging.all("book") }] : []),
  ]);
  const columns = columnsOf(w, counting, counts, values);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title={`Count ${head.number}`}
            sub={`${head.what}, ${head.storeName}${head.blind ? ", counted blind" : ""}`}
          >
            <StateSquare state={head.state} />
          </SheetHead>
          {open && (
            <div className="px-4.5 pb-2.5">
              <ScanBar
                label="Scan a bin, or goods"
                placeholder="scan a bin, or goods"
                scan={scan}
                className="h-12"
                onCode={counting.hear}
              >
                <span aria-live="polite" className="truncate text-xs text-ink-2">
                  {counting.heard}
                </span>
              </ScanBar>
            </div>
          )}
          <Sheet
            label="What is counted"
            columns={columns}
            rows={lines}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            rowHeight={44}
            stateOf={(l) => `${counting.typed.rows[l.id] ?? ""}${counting.problemOf(l.id) ?? ""}`}
            group={{
              of: (l) => l.bin,
              heading: (l) => (l.bin ? <span className="font-mono">{l.bin}</span> : "On the dock"),
            }}
          />
        </>
      }
      slip={
        <>
          {here && <JudgeSlip key={`${here.id} ${here.counted} ${here.verdict}`} line={here} judges={judges} />}
          {counts && (
            <SlipPart title="Not on the list, but there">
              <FoundBeside counting={counting} />
            </SlipPart>
          )}
          {judges && (
            <SlipForm<CountWord> does="drop" fields={{ version: head.version }} label="Drop this count" send="Drop it">
              <TextField label="Why" name="reason" maxLength={200} />
            </SlipForm>
          )}
          {head.paper !== null && (
            <p>
              Booked by {head.judge}:{" "}
              <Link className="underline" to={`/stock-papers/${head.paper}`}>
                {head.paperNumber}
              </Link>
            </p>
          )}
        </>
      }
      tally={
        <CountTallyOfStock
          lines={lines}
          open={open}
          counts={counts}
          counting={counting}
          judging={judging}
          problems={problems}
        />
      }
    />
  );
}

const columnsOf = (
  w: ReturnType<typeof useWriting>,
  counting: ReturnType<typeof useStockCount>,
  counts: boolean,
  values: boolean,
): SheetColumn<PlaceSeen>[] => [
  {
    key: "goods",
    head: "Goods",
    gives: true,
    cell: (l) => (
      <Named
        name={l.name}
        code={[l.code, l.owner && `of ${l.owner}`, l.lot && `lot ${l.lot}`, l.found && "found"]
          .filter(Boolean)
          .join(" · ")}
      />
    ),
  },
  {
    key: "books",
    head: "By the books",
    keep: 0,
    align: "right",
    cell: (l) => (
      <span className="figure text-ink-3">{l.books ? w.quantity(l.books.lay ?? l.books.expected) : "?"}</span>
    ),
  },
  {
    key: "counted",
    head: "Counted",
    keep: 4,
    align: "right",
    cell: (l) => <CountCell line={l} counting={counting} open={counts} />,
  },
  { key: "stands", head: "Stands", keep: 2, cell: (l) => <Stands line={l} problem={counting.problemOf(l.id)} /> },
  ...(values
    ? [
        {
          key: "value",
          head: "Worth",
          keep: 1,
          align: "right" as const,
          cell: (l: PlaceSeen) => <span className="figure">{l.value === null ? "" : w.amount(l.value)}</span>,
        },
      ]
    : []),
];

function CountCell({
  line: l,
  counting,
  open,
}: {
  line: PlaceSeen;
  counting: ReturnType<typeof useStockCount>;
  open: boolean;
}) {
  const w = useWriting();
  if (!open || !countable(l)) return <span className="figure">{l.counted === null ? "–" : w.quantity(l.counted)}</span>;
  const text = counting.typed.rows[l.id] ?? "";
  return (
    <span className="inline-flex items-baseline gap-1.5">
      <input
        data-place={l.id}
        aria-label={`Counted ${l.name}${l.lot ? `, lot ${l.lot}` : ""}, ${l.bin || "dock"}, in ${l.unit}`}
        aria-invalid={wrongCount(text) ? true : undefined}
        inputMode="decimal"
        maxLength={16}
        placeholder={l.counted === null ? "" : w.quantity(l.counted)}
        value={text}
        onClick={(e) => e.stopPropagation()}
        onChange={(e) => counting.type(l.id, e.target.value)}
        className="entry h-9 w-24 text-right font-mono text-base max-lg:h-11"
      />
      <span className="w-10 text-left text-2xs text-ink-3">{l.unit}</span>
    </span>
  );
}

function Stands({ line: l, problem }: { line: PlaceSeen; problem?: string }) {
  if (problem) return <span className="text-xs font-semibold whitespace-normal text-signal">{problem}</span>;
  const of = judged(l);
  const difference = of && differenceOf(of);
  if (l.counted === null)
    return <span className="text-xs text-ink-3">{l.verdict === "again" ? "count it again" : ""}</span>;
  if (difference === null || difference === undefined) return <span className="text-xs text-ink-3">counted</span>;
  return (
    <span
      className={`text-xs ${difference === 0 ? "text-weed" : l.verdict ? "text-ink-2" : "font-semibold text-signal"}`}
    >
      {countWords(difference)}
      {l.verdict && difference !== 0 && `, ${l.verdict === "book" ? "booked" : "left"}`}
    </span>
  );
}
