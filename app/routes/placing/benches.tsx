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
import { actions, page, type Runs } from "../../web/page";
import { OrderSlip } from "../orders/order-slip";

export const loader = page("see benches", ({ db, day, person }) => ({
  benches: readBenches(db),
  quotes: readQuotesAsked(db, day).filter((q) => q.ended === null),
  drafts: readDrafts(db, day),
  lists: readStanding(db, day),
  mayWrite: may(person.roles, "write orders"),
}));
export const shouldRevalidate = unlessOnlyLooking;

const benchesActs = { rename: renameBench, "put away": putAwayBench } satisfies Runs;
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
  const placeOf = (r: Row) =>
    r.kind === "bench"
      ? `/bench/${r.bench.id}`
      : r.kind === "quote"
        ? `/quotes/${r.quote.id}`
        : `/orders/${r.order.id}`;
  const open = (r: Row) => navigate(placeOf(r));
  const columns: SheetColumn<Row>[] = [
    {
      key: "what",
      head: "Bench, request or order",
      cell: (r) =>
        r.kind === "bench" ? (
          <Named name={r.bench.name} code={`by ${r.bench.maker}`} strong />
        ) : r.kind === "quote" ? (
          <Named name={r.quote.suppliers} code={r.quote.number} strong />
        ) : (
          <Named
            name={r.order.title || r.order.supplierName}
            code={[
              r.kind === "list" || r.order.kind === "one-off" ? "" : KIND_WORDS[r.order.kind],
              r.order.title ? r.order.supplierName : "",
              r.kind === "list" ? "" : r.order.name,
              r.order.storeName,
            ]
              .filter(Boolean)
              .join(" · ")}
            strong
          />
        ),
    },
    {
      key: "lines",
      head: "Lines",
      align: "right",
      cell: (r) => (
        <span className="figure">
          {r.kind === "bench" ? r.bench.rows : r.kind === "quote" ? r.quote.lines : r.order.lines}
        </span>
      ),
    },
    {
      key: "net",
      keep: 1,
      head: "Before tax",
      align: "right",
      cell: (r) =>
        r.kind !== "draft" && r.kind !== "list" ? (
          <span className="text-ink-3">·</span>
        ) : (
          <>
            <span className="figure">{w.money(r.order.net, r.order.currency)}</span>{" "}
            <span className="text-2xs text-ink-3">{r.order.currency}</span>
          </>
        ),
    },
    {
      key: "required",
      head: "Wanted by",
      align: "right",
      cell: (r) =>
        r.kind === "bench" || r.kind === "list" ? (
          <span className="text-ink-3">·</span>
        ) : (
          w.day(r.kind === "quote" ? r.quote.answerBy : r.order.required)
        ),
    },
    {
      key: "writer",
      head: "Last by",
      cell: (r) => (r.kind === "bench" ? r.bench.lastBy : r.kind === "quote" ? r.quote.asker : r.order.writerName),
    },
    {
      key: "state",
      keep: 2,
      head: "State",
      cell: (r) =>
        r.kind === "bench" ? (
          r.bench.chosen === r.bench.rows ? (
            "each has a supplier"
          ) : (
            <span className="text-signal">{r.bench.rows - r.bench.chosen} without a supplier</span>
          )
        ) : r.kind === "quote" ? (
          <span className={r.quote.late ? "font-semibold text-signal" : ""}>
            {r.quote.late ? `${r.quote.late} late` : `${r.quote.answered} of ${r.quote.asked} answered`}
          </span>
        ) : r.kind === "list" ? (
          <span className="text-ink-3">kept</span>
        ) : r.order.held ? (
          <span className="font-semibold text-signal">held</span>
        ) : r.order.sentBack ? (
          <span className="font-semibold text-signal">sent back</span>
        ) : (
          <StateSquare state={r.order.state} />
        ),
    },
  ];
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
      slip={
        here?.kind === "draft" || here?.kind === "list" ? (
          <OrderSlip row={here.order} />
        ) : (
          here &&
          (here.kind === "bench" ? (
            <BenchSlip bench={here.bench} mayWrite={mayWrite} />
          ) : (
            here.kind === "quote" && <QuoteSlip quote={here.quote} />
          ))
        )
      }
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
                  Open{" "}
                  {here.kind === "bench"
                    ? `“${here.bench.name}”`
                    : here.kind === "quote"
                      ? here.quote.number
                      : here.order.title || here.order.name}
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
