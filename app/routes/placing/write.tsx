import { Link, redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import { count, unitWords } from "../../../core/text";
import { writeBench } from "../../../server/acts/placing/write-bench";
import { readBench } from "../../../server/queries/placing/bench";
import { previewOf } from "../../../server/queries/placing/preview";
import { Button, ButtonLink } from "../../ui/button";
import { Problems } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, idOf, notFound, page } from "../../web/page";

export const loader = page("write orders", ({ db, params, person, day, hour }) => {
  const sheet = readBench(db, idOf(params.id), day, hour);
  if (!sheet) throw notFound("There is no such bench.");
  if (sheet.head.cleared) throw redirect("/bench");
  return {
    head: sheet.head,
    mark: sheet.mark,
    lost: sheet.lost,
    ...previewOf(db, sheet, person.id, day),
    stop: "Bench",
  };
});

export const action = act<{ orders: number[] }>("write orders", (desk, input, { params }) => {
  const written = writeBench(desk, { ...input, bench: idOf(params.id) });
  if (!written.ok) return written;
  const [first, ...more] = written.value.orders;
  throw redirect(more.length ? "/bench" : `/orders/${first}`);
});

type Order = ReturnType<typeof useLoaderData<typeof loader>>["orders"][number];

/** Every order as it will be written: the last look before it happens. */
export default function WriteOrders() {
  const { head, mark, orders, left, lost } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const busy = useBusy();
  const submit = useSubmit();
  const submissionKey = useSubmissionKey(answer ?? head.version);
  const write = () => {
    if (busy || orders.length === 0 || lost.length > 0) return;
    void submit({ version: String(head.version), mark, key: submissionKey() }, { method: "post" });
  };
  useKeys([{ key: "enter", label: "write the orders", run: write }]);
  const problems = answer && !answer.ok ? answer.problems : lost.map((l) => ({ field: "", says: l.says }));
  const total = orders.reduce((a, o) => a + (o.adds ?? 0), 0);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 overflow-y-auto">
          <SheetHead title={`Orders of “${head.name}”`} sub="as they will be written">
            <Link className="underline" to={`/bench/${head.id}`}>
              Back to the bench
            </Link>
          </SheetHead>
          <div className="flex flex-col gap-1 px-4.5">
            <Problems problems={problems} only={() => true} />
            {left > 0 && (
              <p role="status">
                {left === 1 ? "One need stays on the bench: it has" : `${left} needs stay on the bench: they have`} no
                supplier, or {left === 1 ? "is" : "are"} gone.
              </p>
            )}
          </div>
          {orders.length === 0 ? (
            <Empty title="Nothing to write">No need on this bench has a supplier yet.</Empty>
          ) : (
            orders.map((o) => <OrderPreview key={o.key} order={o} />)
          )}
        </div>
      }
      tally={
        <TallyLine
          act={
            <>
              <ButtonLink to={`/bench/${head.id}`}>Back</ButtonLink>
              <Button look="main" hint="⏎" disabled={busy || orders.length === 0 || lost.length > 0} onClick={write}>
                {busy ? "Writing…" : `Write ${count(orders.length, "order")}`}
              </Button>
            </>
          }
        >
          <span>
            <b>{orders.reduce((a, o) => a + o.lines.length, 0)}</b> lines
          </span>
          <span>
            <b className="figure">{w.amount(total)}</b> landed
          </span>
        </TallyLine>
      }
    />
  );
}

function OrderPreview({ order: o }: { order: Order }) {
  const w = useWriting();
  const signs = o.signs.ok
    ? o.signs.names.length
      ? `signed by ${o.signs.names.map((n) => n.toLowerCase()).join(", then ")}`
      : "nobody has to sign"
    : null;
  return (
    <section aria-label={`${o.supplier}, ${o.store}`} className="mt-3.5 border-t border-rule px-4.5 pt-2.5">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-base font-bold">{o.supplier}</h2>
        <p className="text-ink-2">
          into {o.store}
          {o.joins && (
            <>
              , onto{" "}
              <Link className="underline" to={`/orders/${o.joins.id}`}>
                {o.joins.name}
              </Link>
            </>
          )}
          {o.arrives && `, arrives ${w.day(o.arrives)}`}
          {signs && `, ${signs}`}
        </p>
        <b className="figure ml-auto">{w.amount(o.goods, o.currency)}</b>
      </div>
      {!o.signs.ok && <p className="font-semibold text-signal">{o.signs.says}</p>}
      {o.lacks > 0 && (
        <p className="font-semibold text-signal">
          {w.amount(o.lacks, o.currency)} under their least order. It is written all the same; they may refuse it.
        </p>
      )}
      <table className="mt-1 w-full">
        <caption className="sr-only">Lines to {o.supplier}</caption>
        <thead className="sr-only">
          <tr>
            <th scope="col">Item</th>
            <th scope="col">Quantity</th>
            <th scope="col">Price</th>
            <th scope="col">Net</th>
          </tr>
        </thead>
        <tbody>
          {o.lines.map((l) => (
            <tr key={l.row} className="border-b border-rule-2">
              <td className="py-1">
                {l.name} <span className="code">{l.code}</span>
                {l.lateBy > 0 && (
                  <span className="ml-2 text-xs font-semibold text-signal">{count(l.lateBy, "day")} late</span>
                )}
              </td>
              <td className="figure w-40 text-right">
                {w.quantity(l.quantity)}{" "}
                <span className="font-sans text-xs text-ink-3">{unitWords(l.quantity, l.unit)}</span>
              </td>
              <td className="figure w-32 text-right">
                {l.price === null ? (
                  <span className="font-sans text-signal">no price</span>
                ) : (
                  w.price(l.price, o.currency)
                )}
              </td>
              <td className="figure w-32 text-right">{l.net === null ? "·" : w.money(l.net, o.currency)}</td>
            </tr>
          ))}
          <tr className="text-ink-2">
            <td className="py-1" colSpan={3}>
              freight, by their rule
            </td>
            <td className="figure text-right">{w.money(o.freight, o.currency)}</td>
          </tr>
        </tbody>
      </table>
    </section>
  );
}
