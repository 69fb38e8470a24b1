import { useEffect, useState } from "react";
import { Form, Link, useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { accountChoices, openBudgetChoices } from "../../../server/queries/choices";
import { orderByNumber, readOrderHead } from "../../../server/queries/orders/order";
import { invoicesOf, supplierName } from "../../../server/queries/settling/invoices";
import { billableOf, billableOfOrder } from "../../../server/queries/settling/ordered";
import { readNotInvoiced } from "../../../server/queries/stock/values";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Field, Problems, problemAt, TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import { actions, atOf, page } from "../../web/page";
import { EnterLines, OtherLines } from "./enter-lines";
import { billedLines, expectedInvoice, fittedTo, type TypedInvoice, workedOut } from "./entering";
import { InvoiceFile } from "./invoice-file";
import type { EnterWord } from "./settle-acts";
import { enterActs } from "./settle-acts";
import { ToBill } from "./to-bill";

export const loader = page("enter invoices", ({ db, url, day }) => {
  const number = url.searchParams.get("order")?.trim().slice(0, 40) ?? "";
  const order = number ? orderByNumber(db, number) : null;
  const head = order === null ? null : readOrderHead(db, order);
  const supplier = head?.supplier ?? atOf(url, "supplier");
  const name = supplier === null ? null : supplierName(db, supplier);
  if (supplier === null || name === null)
    return {
      of: null,
      waiting: readNotInvoiced(db).rows.filter((r) => !r.byStatement),
      missed: number || null,
      before: [],
      accounts: [],
      budgets: [],
    };
  const lines = head ? billableOfOrder(db, head.id) : billableOf(db, supplier);
  return {
    of: { supplier, name, order: head?.name ?? null, currency: lines[0]?.currency ?? "", lines },
    waiting: [],
    missed: null,
    before: invoicesOf(db, supplier),
    accounts: accountChoices(db),
    budgets: openBudgetChoices(db, day),
  };
});

export const action = actions("enter invoices", enterActs);

type Of = NonNullable<ReturnType<typeof useLoaderData<typeof loader>>["of"]>;

/** Enters an invoice: supplier or order, then what is not invoiced yet stands there already. */
export default function EnterPage() {
  const { of, waiting, missed } = useLoaderData<typeof loader>();
  if (of) return <Entering key={`${of.supplier} ${of.order}`} of={of} />;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Enter an invoice" sub="choose whose it is, or type the number of our order" />
          <Form className="flex items-end gap-3 px-4.5 pb-3" role="search">
            <Field label="Our order" className="w-48" problem={missed ? `We have no order ${missed}.` : undefined}>
              {(a) => <input {...a} name="order" maxLength={40} className="entry" />}
            </Field>
            <Button type="submit">Bill this order</Button>
          </Form>
          <div className="min-h-0 flex-1 overflow-y-auto">
            <ToBill rows={waiting} />
          </div>
        </>
      }
      slip={
        <SlipPart title="From a file">
          <InvoiceFile />
          <p className="mt-2 text-xs text-ink-2">
            A UBL 2.1 invoice as their system writes it. Its sums are held against EN 16931; a file that breaks a rule
            is refused, with the rule.
          </p>
        </SlipPart>
      }
      tally={<TallyLine>{waiting.length} orders with goods that nobody billed</TallyLine>}
    />
  );
}

function useEntering(of: Of) {
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const navigate = useNavigate();
  const busy = useBusy();
  const key = useSubmissionKey(of);
  const w = useWriting();
  const kept = useLocalDraft<TypedInvoice>(`wharf.invoice.${of.supplier}.${of.order ?? ""}`, 1);
  const [another, setAnother] = useState(false);
  const d = kept.draft ? fittedTo(kept.draft, of.lines) : expectedInvoice(of.lines, w.today);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const { put } = kept;
  const done = answer?.ok && "invoice" in answer.value ? answer.value : null;
  useEffect(() => {
    if (!done) return;
    put(null);
    void navigate(`/settle/${done.invoice}`);
  }, [done, put, navigate]);
  const change = (some: Partial<TypedInvoice>) => {
    setAnother(false);
    put({ ...d, ...some });
  };
  const send = () =>
    submit(
      {
        do: "enter" satisfies EnterWord,
        supplier: of.supplier,
        number: d.number,
        day: d.day,
        total: d.total,
        allowance: d.allowance,
        note: d.note,
        lines: billedLines(d, of.lines),
        others: d.others.map((o) => ({ ...o })),
        another: another ? "yes" : "",
        key: key(),
      },
      { method: "post", encType: "application/json" },
    );
  return { d, change, send, busy, problems, another, setAnother, put };
}

function Entering({ of }: { of: Of }) {
  const { before, accounts, budgets } = useLoaderData<typeof loader>();
  const e = useEntering(of);
  const { d, change, problems, busy } = e;
  const w = useWriting();
  const worked = workedOut(d, of.lines);
  useKeys([{ key: "t", label: "enter it", run: () => !busy && void e.send() }]);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-6">
          <SheetHead
            title={`Invoice of ${of.name}`}
            sub={of.order ? `for order ${of.order}` : "all that came and is not invoiced"}
          />
          <div className="px-4.5">
            <Problems problems={problems} />
          </div>
          <div className="grid grid-cols-2 gap-3 px-4.5 pb-3 md:grid-cols-4">
            <TextField
              label="Their number"
              value={d.number}
              maxLength={40}
              autoFocus
              problem={problemAt(problems, "number")}
              onChange={(x) => change({ number: x.target.value })}
            />
            <Field label="Its day" problem={problemAt(problems, "day")}>
              {(a) => <DayEntry {...a} name="day" value={d.day} max={w.today} onDay={(day) => change({ day })} />}
            </Field>
            <TextField
              label="Total with tax, as it says"
              value={d.total}
              inputMode="decimal"
              maxLength={20}
              problem={problemAt(problems, "total")}
              hint="empty: as worked out"
              onChange={(x) => change({ total: x.target.value })}
            />
            <TextField
              label="Taken off the whole"
              value={d.allowance}
              inputMode="decimal"
              maxLength={20}
              problem={problemAt(problems, "allowance")}
              onChange={(x) => change({ allowance: x.target.value })}
            />
          </div>
          {of.lines.length > 0 ? (
            <EnterLines lines={of.lines} typed={d.lines} problems={problems} onChange={(lines) => change({ lines })} />
          ) : (
            <Empty title="Nothing of theirs waits to be billed">
              Type the number of the order where its invoice comes before the goods, or enter what no order has.
            </Empty>
          )}
          <OtherLines
            others={d.others}
            accounts={accounts}
            budgets={budgets}
            problems={problems}
            onChange={(others) => change({ others })}
          />
        </div>
      }
      slip={
        <SlipPart title={`Invoices of ${of.name}`}>
          {before.length === 0 ? (
            <p className="text-ink-2">None was entered yet.</p>
          ) : (
            <table className="figure w-full text-xs">
              <caption className="sr-only">Invoices of {of.name}</caption>
              <tbody>
                {before.map((b) => (
                  <tr key={b.id} className="border-b border-rule-2">
                    <td className="py-1 pr-2">
                      <Link className="underline" to={`/settle/${b.id}`}>
                        {b.number}
                      </Link>
                    </td>
                    <td className="pr-2 font-sans text-ink-2">{w.day(b.day, false)}</td>
                    <td className="text-right">{w.amount(b.total, b.currency)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </SlipPart>
      }
      tally={
        <TallyLine
          act={
            <Button look="main" hint="T" disabled={busy} onClick={() => void e.send()}>
              Enter it
            </Button>
          }
        >
          {problemAt(problems, "another") ? (
            <label className="flex items-center gap-2 font-semibold text-signal">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={e.another}
                onChange={(x) => e.setAnother(x.target.checked)}
              />
              {problemAt(problems, "another")}
            </label>
          ) : (
            worked && (
              <>
                <span>
                  lines net <b className="figure">{w.amount(worked.net, of.currency || w.home)}</b>
                </span>
                <span>
                  with tax <b className="figure">{w.amount(worked.total, of.currency || w.home)}</b>
                </span>
              </>
            )
          )}
        </TallyLine>
      }
    />
  );
}
