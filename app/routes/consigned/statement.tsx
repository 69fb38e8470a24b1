import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { statementTotals } from "../../../core/consigned/statement";
import { USED_WORDS } from "../../../core/consigned/use";
import { decimalText } from "../../../core/numbers/decimal";
import { moneyText } from "../../../core/numbers/money";
import { may } from "../../../core/people/roles";
import { amount, type Sum } from "../../../core/sums/sum";
import { readStatement, type UseRow, usesOfStatement } from "../../../server/queries/consigned/statements";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { TextField } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, notFound, page } from "../../web/page";
import { type StatementWord, statementActs } from "./statement-acts";

export const loader = page("see agreements", ({ db, params, person }) => {
  const head = readStatement(db, idOf(params.id));
  if (!head) throw notFound("There is no such statement.");
  return {
    head,
    uses: usesOfStatement(db, head.id),
    settles: may(person.roles, "settle statements"),
    orders: may(person.roles, "see orders"),
  };
});

export const action = actions("settle statements", statementActs, ({ params }) => ({ statement: idOf(params.id) }));

/** How a statement comes to its total: its uses by tax rate, and the tax once on each. */
function totalSum(
  head: { net: number; total: number; currency: string },
  uses: Parameters<typeof statementTotals>[0],
): Sum {
  const { taxes } = statementTotals(uses);
  return {
    title: "What it comes to",
    steps: [
      { op: "", label: `${uses.length} uses, without tax`, figure: amount(head.net, head.currency) },
      ...taxes.map((t) => ({
        op: "+" as const,
        label: `tax ${decimalText(t.rate, 2)} % on ${moneyText({ minor: t.net, currency: head.currency })}`,
        figure: amount(t.tax, head.currency),
      })),
      { op: "=", label: "is paid", figure: amount(head.total, head.currency) },
    ],
  };
}

/** What was used in a period: looked at, sent, agreed to by the supplier, and owed since. */
export default function StatementPage() {
  const { head: s, uses, settles, orders } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(s);
  const w = useWriting();
  const open = s.state === "Made" || s.state === "Sent" || s.state === "Questioned";
  const fields = { statement: s.id, version: s.version };
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-6">
          <SheetHead
            title={`Use statement ${s.number}`}
            sub={`${s.supplierName}, ${w.day(s.since, false)} to ${w.day(s.until, false)}`}
          >
            <StateSquare state={s.state} />
          </SheetHead>
          {s.said && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal px-3">
              {s.state === "Withdrawn" ? "Withdrawn: " : `${s.supplierName} says: `}
              {s.said}
            </p>
          )}
          <Uses uses={uses} currency={s.currency} orders={orders} />
          {uses.length === 0 && <p className="px-4.5 py-4 text-ink-2">Its uses went onto another statement.</p>}
        </div>
      }
      slip={
        <>
          <SlipHead
            over={s.agreementName}
            title={`${w.amount(s.total, s.currency)} ${s.due ? `by ${w.day(s.due)}` : ""}`}
          >
            <p className="mt-1 text-ink-2">
              {s.state === "Agreed"
                ? `${s.agreedBy} agreed ${w.moment(s.agreed!)}. It is owed since.`
                : s.sent
                  ? `Sent ${w.moment(s.sent)}: they agree on their private link, or tell you.`
                  : "Look at it, then send it: they agree on their private link."}
            </p>
          </SlipHead>
          {uses.length > 0 && <SumSheet sum={totalSum(s, uses)} />}
          <p className="flex flex-wrap gap-3 text-xs">
            <a className="underline" href={`/statements/${s.id}/paper.pdf`}>
              As PDF
            </a>
            <a className="underline" href={`/statements/${s.id}/uses.csv`} download>
              as CSV
            </a>
            <a className="underline" href={`/statements/${s.id}/invoice.xml`} download>
              as UBL self-billed invoice
            </a>
          </p>
          {settles && open && (
            <SlipPart title="What they said by phone or mail">
              <div className="flex flex-col gap-1.5">
                <SlipForm<StatementWord> does="agree" fields={fields} label="They agree" send="It is agreed">
                  <TextField label={`Who of ${s.supplierName}`} name="by" maxLength={80} />
                </SlipForm>
                <SlipForm<StatementWord> does="question" fields={fields} label="Something is not right" send="Keep it">
                  <TextField label="What they say" name="said" maxLength={1000} />
                </SlipForm>
                <SlipForm<StatementWord> does="withdraw" fields={fields} label="Withdraw it" send="Withdraw it">
                  <TextField label="Why" name="reason" maxLength={300} />
                  <p className="text-xs text-ink-2">Its uses go onto another statement.</p>
                </SlipForm>
              </div>
            </SlipPart>
          )}
        </>
      }
      tally={
        <TallyLine
          trouble={answer && !answer.ok ? answer.problems[0]?.says : null}
          act={
            settles &&
            open && (
              <Button
                look="main"
                disabled={busy}
                onClick={() =>
                  void submit(
                    { do: "send" satisfies StatementWord, ...fields, key: `${key()}send` },
                    { method: "post" },
                  )
                }
              >
                {s.sent ? "Send it again" : "Send it"}
              </Button>
            )
          }
        >
          <span>
            <b>{uses.length}</b> uses
          </span>
          <span>
            without tax <b className="figure">{w.amount(s.net, s.currency)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

function Uses({
  uses,
  currency,
  orders,
}: {
  uses: readonly UseRow[];
  currency: string;
  /** May this person open the orders that they wrote? */
  orders: boolean;
}) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Uses</caption>
      <Heads
        heads={[
          { label: "Item" },
          { label: "Day", width: "w-24" },
          { label: "For", width: "w-56" },
          { label: "Quantity", align: "right", width: "w-28" },
          { label: "Price", align: "right", width: "w-24" },
          { label: `Comes to, ${currency}`, align: "right", width: "w-32" },
        ]}
      />
      <tbody>
        {uses.map((u) => (
          <tr key={u.id} className="h-10 border-b border-rule-2">
            <td className="pl-4.5 leading-tight">
              {u.name}
              <span className="code block">
                {u.code} ·{" "}
                {orders ? (
                  <Link className="underline" to={`/orders/${u.orderId}`}>
                    {u.order}
                  </Link>
                ) : (
                  u.order
                )}
              </span>
            </td>
            <td className="px-2 whitespace-nowrap">{w.day(u.day, false)}</td>
            <td className="truncate px-2 text-xs text-ink-2">
              {u.what === "used" ? (u.job ?? u.note) : [USED_WORDS[u.what], u.job].filter(Boolean).join(", ")}
            </td>
            <td className="figure px-2 text-right whitespace-nowrap">
              {w.quantity(u.quantity)} <span className="font-sans text-2xs text-ink-3">{u.unit}</span>
            </td>
            <td className="figure px-2 text-right">{w.price(u.price, currency)}</td>
            <td className="figure px-2 pr-4.5 text-right">{w.money(u.net, currency)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
