import { useEffect, useState } from "react";
import { Link, useLoaderData, useRevalidator } from "react-router";
import { keysOf } from "../../../core/keys";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { stopBatch } from "../../../server/acts/papers/batches";
import { hasPapers } from "../../../server/jobs/papers/run-batch";
import { type BatchOrder, readBatch, readBatchOrders } from "../../../server/queries/papers/batches";
import { SlipForm } from "../../parts/slip-form";
import { answerOf } from "../../ui/answer-of";
import { ButtonLink } from "../../ui/button";
import { Cuts, Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, idOf, notFound, type PageActs, page } from "../../web/page";
import { BATCH_WORDS } from "./words";

export const loader = page("see orders", ({ db, params, person, house }) => {
  const id = idOf(params.id);
  const batch = readBatch(db, id);
  if (!batch || (batch.person !== person.id && !may(person.roles, "see the trail")))
    throw notFound("There is no such batch.");
  return { batch, orders: readBatchOrders(db, id), papers: batch.person === person.id && hasPapers(house.folder, id) };
});

const batchActs = { stop: stopBatch } satisfies PageActs;
type BatchWord = keyof typeof batchActs;
export const action = actions("see orders", batchActs, ({ params }) => ({ batch: params.id }));

const SHOWS = { all: "All", refused: "Refused", waiting: "Waiting", done: "Done" } as const;
type Show = keyof typeof SHOWS;

/** Many orders printed, sent or placed: how far it is, and what became of each. */
export default function BatchPage() {
  const { batch, orders, papers } = useLoaderData<typeof loader>();
  const w = useWriting();
  const words = BATCH_WORDS[batch.what];
  const { done, refused } = useProgress(batch);
  const [show, setShow] = useState<Show>("all");
  const rows = show === "all" ? orders : orders.filter((o) => o.state === show);
  const [at, setAt] = useAt(rows[0] ? String(rows[0].position) : null);
  const columns: SheetColumn<BatchOrder>[] = [
    { key: "order", head: "Order", width: "38%", cell: (o) => <Named name={o.supplier} code={o.name} /> },
    {
      key: "state",
      head: "What became of it",
      cell: (o) =>
        o.state === "refused" ? (
          <b className="text-signal">{o.says}</b>
        ) : o.state === "done" ? (
          <span className="text-ink-2">{[words.done, o.says].filter(Boolean).join(", ")}</span>
        ) : (
          <span className="text-ink-3">{batch.ended ? "not begun" : "waiting"}</span>
        ),
    },
    {
      key: "open",
      head: "",
      name: "Open",
      align: "right",
      cell: (o) => (
        <Link to={`/orders/${o.order}`} className="underline">
          Open
        </Link>
      ),
    },
  ];
  const worked = done + refused;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title={`${words.title} ${count(batch.all, "order")}`}
            sub={`${batch.personName}, ${w.moment(batch.at)}`}
          >
            <Link to="/batches" className="text-xs underline">
              All batches
            </Link>
          </SheetHead>
          <div className="px-4.5 pb-3">
            <div className="flex h-3 border border-ink" role="img" aria-label={`${worked} of ${batch.all}`}>
              <span className="bg-weed" style={{ width: `${(done / batch.all) * 100}%` }} />
              <span className="bg-signal" style={{ width: `${(refused / batch.all) * 100}%` }} />
            </div>
          </div>
          <div className="px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={show}
              onChange={setShow}
              options={keysOf(SHOWS).map((s) => ({
                value: s,
                label: SHOWS[s],
                count: s === "all" ? orders.length : orders.filter((o) => o.state === s).length,
              }))}
            />
          </div>
          <Sheet
            label="Orders of the batch"
            columns={columns}
            rows={rows}
            keyOf={(o) => String(o.position)}
            at={at}
            onAt={setAt}
            empty={<Empty title="None" />}
          />
        </>
      }
      slip={
        <>
          <SlipHead title={batch.ended ? (batch.stopped ? "Stopped" : "Done") : "Being worked through"}>
            <p className="mt-1 text-ink-2">
              {batch.ended
                ? `${w.moment(batch.ended)}.${refused ? " What was refused says why; nothing of it was done." : ""}`
                : "You can go on with other work; it goes on by itself, and after a restart, too."}
            </p>
          </SlipHead>
          {papers && (
            <p>
              <ButtonLink to={`/batches/${batch.id}/papers.zip`} look="main" reload>
                Save {count(done, "paper")}
              </ButtonLink>
              <span className="mt-1 block text-xs text-ink-2">They lie here for thirty days.</span>
            </p>
          )}
          {!batch.ended && !batch.stopped && (
            <SlipForm<BatchWord> does="stop" fields={{}} label="Stop it…" send="Stop after this order">
              <p className="text-xs text-ink-2">What is done stays done.</p>
            </SlipForm>
          )}
        </>
      }
      tally={
        <TallyLine>
          <span role="status">
            <b>{worked}</b> of {batch.all} worked through
          </span>
          {refused > 0 && <span className="font-semibold text-signal">{refused} refused</span>}
        </TallyLine>
      }
    />
  );
}

/** How far a batch is, asked for while it works; the page is read again when it has ended. */
function useProgress(batch: { id: number; done: number; refused: number; ended: string | null }) {
  const { revalidate } = useRevalidator();
  const [now, setNow] = useState({ done: batch.done, refused: batch.refused });
  useEffect(() => setNow({ done: batch.done, refused: batch.refused }), [batch.done, batch.refused]);
  useEffect(() => {
    if (batch.ended) return;
    const look = async () => {
      try {
        const answer = await fetch(`/batches/${batch.id}/tick`);
        if (!answer.ok) return;
        const said = await answerOf<{ done: number; refused: number; ended: string | null }>(answer);
        setNow(said);
        if (said.ended) void revalidate();
      } catch {
        // No connection: it goes on without being looked at.
      }
    };
    const timer = setInterval(look, 700);
    return () => clearInterval(timer);
  }, [batch.id, batch.ended, revalidate]);
  return now;
}
