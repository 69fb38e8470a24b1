import type { ReactNode } from "react";

type Writing = ReturnType<typeof useWriting>;

import { useLoaderData, useNavigate } from "react-router";
import { KIND_WORDS } from "../../../core/orders/kinds";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { putAwayBench, renameBench } from "../../../server/acts/placing/keep-bench";
import { type OrderRow, readDrafts, readStanding } from "../../../server/queries/orders/lists";
import { type BenchRowHead, readBenches } from "../../../server/queries/placing/bench";
import { type QuoteRow, readQuotesAsked } from "../../../server/queries/quotes/quotes";
import { SlipForm } from "../../parts/slip-form";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { actions, type PageActs, page } from "../../web/page";
import { OrderSlip } from "../orders/order-slip";

export const loader = page("see benches", ({ db, day, person }) => ({
  benches: readBenches(db),
  quotes: readQuotesAsked(db, day).filter((q) => q.ended === null),
  drafts: readDrafts(db, day),
  lists: readStanding(db, day),
  mayWrite: may(person.roles, "write orders"),
}));
export const shouldRevalidate = unlessOnlyLooking;

const benchesActs = { rename: renameBench, "put away": putAwayBench } satisfies PageActs;
type BenchesWord = keyof typeof benchesActs;
export const action = actions("write orders", benchesActs);

type Row =
  | { kind: "bench"; bench: BenchRowHead }
  | { kind: "quote"; quote: QuoteRow }
  | { kind: "draft" | "list"; order: OrderRow };
const keyOf = (r: Row) =>
  r.kind === "bench" ? `b${r.bench.id}` : r.kind === "quote" ? `q${r.quote.id}` : String(r.order.id);
const GROUPS = {
  of: (r: Row) => r.kind,
  heading: (r: Row) =>
    ({ bench: "Needs laid out", quote: "Prices asked for", draft: "Orders being written", list: "Standing lists" })[
      r.kind
    ],
};

/** Needs that are laid out to be placed, and orders that are being written. */
export default function Benches() {
  const { benches, quotes, drafts, lists, mayWrite } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const rows: Row[] = [
    ...benches.map((bench): Row => ({ kind: "bench", bench })),
    ...quotes.map((quote): Row => ({ kind: "quote", quote })),
    ...drafts.map((order): Row => ({ kind: "draft", order })),
    ...lists.map((order): Row => ({ kind: "list", order })),
  ];
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const open = (r: Row) => navigate(partsOf(r, w).href);
  const columns = columnsIn(w);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Bench"
            sub={`${count(benches.length, "bench", "benches")}, ${count(drafts.length, "draft")}`}
          />
          <Sheet
            label="Benches and orders being written"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            group={GROUPS}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={open}
            empty={
              <Empty title="Nothing is laid out or being written">
                Tick needs and lay them out to compare suppliers; orders stand here until they are submitted.
              </Empty>
            }
          />
        </>
      }
      slip={here && <RowSlip row={here} mayWrite={mayWrite} />}
      tally={
        <TallyLine
          keys={[
            ["arrowdown", "move"],
            ["g", "go to a stop"],
          ]}
          act={
            <span className="flex items-center gap-2">
              {mayWrite && <ButtonLink to="/orders/new">New order</ButtonLink>}
              {here && (
                <Button look="main" hint="⏎" onClick={() => open(here)}>
                  Open {partsOf(here, w).called}
                </Button>
              )}
            </span>
          }
        >
          <span>
            <b>{benches.reduce((a, b) => a + b.rows, 0)}</b> needs laid out
          </span>
          <span>
            <b>{drafts.length}</b> {drafts.length === 1 ? "draft" : "drafts"}
          </span>
          <span>
            <b className="figure">{w.amount(drafts.reduce((a, r) => a + r.homeNet, 0))}</b> before tax
          </span>
        </TallyLine>
      }
    />
  );
}

/** What one row says in each column; benches, requests and orders say it of different things. */
interface Parts {
  href: string;
  called: string;
  name: string;
  code: string;
  lines: number;
  /** Null where it has none of its own. */
  net: { minor: number; currency: string } | null;
  wanted: string | null;
  writer: string | null;
  state: ReactNode;
}
const alarming = (words: string) => <span className="font-semibold text-signal">{words}</span>;

function partsOf(r: Row, w: Writing): Parts {
  if (r.kind === "bench") return benchParts(r.bench);
  return r.kind === "quote" ? quoteParts(r.quote, w) : orderParts(r.order, r.kind === "list", w);
}

const benchParts = (b: BenchRowHead): Parts => ({
  href: `/bench/${b.id}`,
  called: `“${b.name}”`,
  name: b.name,
  code: `by ${b.maker}`,
  lines: b.rows,
  net: null,
  wanted: null,
  writer: b.lastBy,
  state:
    b.chosen === b.rows ? (
      "each has a supplier"
    ) : (
      <span className="text-signal">{b.rows - b.chosen} without a supplier</span>
    ),
});

const quoteParts = (q: QuoteRow, w: Writing): Parts => ({
  href: `/quotes/${q.id}`,
  called: q.number,
  name: q.suppliers,
  code: q.number,
  lines: q.lines,
  net: null,
  wanted: w.day(q.answerBy),
  writer: q.asker,
  state: q.late ? alarming(`${q.late} late`) : `${q.answered} of ${q.asked} answered`,
});

function orderParts(o: OrderRow, list: boolean, w: Writing): Parts {
  const code = [
    list || o.kind === "one-off" ? "" : KIND_WORDS[o.kind],
    o.title ? o.supplierName : "",
    list ? "" : o.name,
    o.storeName,
  ];
  return {
    href: `/orders/${o.id}`,
    called: o.title || o.name,
    name: o.title || o.supplierName,
    code: code.filter(Boolean).join(" · "),
    lines: o.lines,
    net: { minor: o.net, currency: o.currency },
    wanted: list ? null : w.day(o.required),
    writer: o.writerName,
    state: list ? <span className="text-ink-3">kept</span> : draftState(o),
  };
}
function draftState(o: OrderRow): ReactNode {
  if (o.held) return alarming("held");
  return o.sentBack ? alarming("sent back") : <StateSquare state={o.state} />;
}

const columnsIn = (w: Writing): SheetColumn<Row>[] => {
  const none = <span className="text-ink-3">·</span>;
  const cell = (of: (parts: Parts) => ReactNode) => (r: Row) => of(partsOf(r, w));
  return [
    {
      key: "what",
      gives: true,
      head: "Bench, request or order",
      cell: cell((r) => <Named name={r.name} code={r.code} strong />),
    },
    { key: "lines", head: "Lines", align: "right", cell: cell((r) => <span className="figure">{r.lines}</span>) },
    {
      key: "net",
      keep: 1,
      head: "Before tax",
      align: "right",
      cell: cell(({ net }) =>
        net ? (
          <>
            <span className="figure">{w.money(net.minor, net.currency)}</span>{" "}
            <span className="text-2xs text-ink-3">{net.currency}</span>
          </>
        ) : (
          none
        ),
      ),
    },
    { key: "required", head: "Wanted by", align: "right", cell: cell((r) => r.wanted ?? none) },
    { key: "writer", head: "Last by", cell: cell((r) => r.writer) },
    { key: "state", keep: 2, head: "State", cell: cell((r) => r.state) },
  ];
};

function RowSlip({ row, mayWrite }: { row: Row; mayWrite: boolean }) {
  if (row.kind === "bench") return <BenchSlip bench={row.bench} mayWrite={mayWrite} />;
  return row.kind === "quote" ? <QuoteSlip quote={row.quote} /> : <OrderSlip row={row.order} />;
}

function QuoteSlip({ quote: q }: { quote: QuoteRow }) {
  const w = useWriting();
  return (
    <SlipHead over={`asked by ${q.asker}, ${w.moment(q.at)}`} title={`Request ${q.number}`}>
      <p className="mt-1 text-ink-2">
        {count(q.lines, "line")} to {q.suppliers}. {q.answered} of {q.asked} answered, {q.accepted} accepted; answers by{" "}
        {w.day(q.answerBy)}.
      </p>
    </SlipHead>
  );
}

function BenchSlip({ bench, mayWrite }: { bench: BenchRowHead; mayWrite: boolean }) {
  const w = useWriting();
  return (
    <>
      <SlipHead over={`made by ${bench.maker}, ${w.moment(bench.made)}`} title={bench.name}>
        <p className="mt-1 text-ink-2">
          {count(bench.rows, "need")} laid out, {bench.chosen} with a supplier.
          {bench.lastBy && bench.lastAt && ` Last changed by ${bench.lastBy}, ${w.moment(bench.lastAt)}.`}
        </p>
      </SlipHead>
      {mayWrite && (
        <div key={bench.id} className="flex flex-col gap-1">
          <SlipForm<BenchesWord>
            does="rename"
            fields={{ bench: bench.id }}
            label="Give it another name…"
            send="Rename it"
          >
            <input name="name" aria-label="Name" defaultValue={bench.name} maxLength={60} className="entry w-full" />
          </SlipForm>
          <SlipForm<BenchesWord> does="put away" fields={{ bench: bench.id }} label="Put it away…" send="Put it away">
            <p>Its needs go back to Needs; what was chosen here is forgotten.</p>
          </SlipForm>
        </div>
      )}
    </>
  );
}
