import { useState } from "react";
import { Link, redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import { addDays } from "../../../core/calendar/day";
import type { QuoteId } from "../../../core/ids";
import { count } from "../../../core/text";
import { askForQuotes } from "../../../server/acts/quotes/ask-for-quotes";
import { suppliersToAsk } from "../../../server/queries/choices";
import { readBench } from "../../../server/queries/placing/bench";
import { Button, ButtonLink } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { Field, Problems, problemAt } from "../../ui/field";
import { flipped } from "../../ui/flipped";
import { SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, idOf, notFound, page, readJson } from "../../web/page";

interface Askable {
  id: number;
  name: string;
  currency: string;
  contacts: number;
}

export const loader = page("write orders", ({ db, params, url, day, hour }) => {
  const sheet = readBench(db, idOf(params.id), day, hour);
  if (!sheet) throw notFound("There is no such bench.");
  if (sheet.head.cleared) throw redirect("/bench");
  const suppliers = suppliersToAsk(db);
  return {
    head: sheet.head,
    rows: sheet.problem.rows
      .filter((r) => sheet.rows[r.id]!.item !== null)
      .map((r) => ({
        id: r.id,
        name: r.name,
        code: sheet.rows[r.id]!.code,
        store: sheet.rows[r.id]!.storeName,
        wanted: r.wanted,
        unit: r.stockUnit,
        neededOn: sheet.rows[r.id]!.neededOn,
        sells: r.offers.map((o) => o.supplier),
      })),
    suppliers,
    first: url.searchParams.get("need"),
    answerBy: addDays(day, 7),
    stop: "Bench",
  };
});

export const action = act<{ quote: QuoteId }>("write orders", async (desk, input, { params, house }) => {
  const asked = await askForQuotes(
    desk,
    { ...input, bench: idOf(params.id), needs: readJson(input.needs), suppliers: readJson(input.suppliers) },
    house.site,
  );
  if (!asked.ok) return asked;
  house.post();
  throw redirect(`/quotes/${asked.value.quote}`);
});

/** Which lines, whom, and by when: then each supplier gets a paper and a link of their own. */
export default function Ask() {
  const { head, rows, suppliers, first, answerBy } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const busy = useBusy();
  const submit = useSubmit();
  const [needs, setNeeds] = useState<ReadonlySet<string>>(
    () => new Set(rows.filter((r) => first === null || r.id === first).map((r) => r.id)),
  );
  const sells = (s: Askable) => rows.filter((r) => needs.has(r.id) && r.sells.includes(s.id)).length;
  const [asked, setAsked] = useState<ReadonlySet<number>>(
    () => new Set(suppliers.filter((s) => s.contacts > 0 && sells(s) > 0).map((s) => s.id)),
  );
  const [day, setDay] = useState<string>(answerBy);
  const [note, setNote] = useState("");
  const key = useSubmissionKey(answer);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const send = () => {
    if (busy || needs.size === 0 || asked.size === 0) return;
    void submit(
      { needs: JSON.stringify([...needs]), suppliers: JSON.stringify([...asked]), answerBy: day, note, key: key() },
      { method: "post" },
    );
  };
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 overflow-y-auto">
          <SheetHead title="Ask for prices" sub={`for needs on “${head.name}”`}>
            <Link className="underline" to={`/bench/${head.id}`}>
              Back to the bench
            </Link>
          </SheetHead>
          <div className="px-4.5">
            <Problems
              problems={problems}
              only={(p) => p.field === "" || p.field === "needs" || p.field === "suppliers"}
            />
          </div>
          <LinesToAsk rows={rows} needs={needs} onNeed={(id) => setNeeds((n) => flipped(n, id))} />
        </div>
      }
      slip={
        <>
          <SlipHead title="Whom, and by when" />
          <DateField label="Answer by" problem={problemAt(problems, "answerBy")} value={day} onDay={setDay} />
          <WhomToAsk
            suppliers={suppliers}
            asked={asked}
            sells={sells}
            onSupplier={(id) => setAsked((a) => flipped(a, id))}
          />
          <Field label="A note to all of them" problem={problemAt(problems, "note")}>
            {(a) => (
              <textarea
                {...a}
                rows={3}
                maxLength={1000}
                className="entry"
                value={note}
                onChange={(e) => setNote(e.target.value)}
              />
            )}
          </Field>
          <p className="text-xs text-ink-3">
            Each gets a paper by e-mail, with a private link where prices, dates and conditions are filled in without an
            account. The link ends when it was answered, or when you end it.
          </p>
        </>
      }
      tally={
        <TallyLine
          act={
            <>
              <ButtonLink to={`/bench/${head.id}`}>Back</ButtonLink>
              <Button look="main" disabled={busy || needs.size === 0 || asked.size === 0} onClick={send}>
                {busy ? "Asking…" : `Ask ${count(asked.size, "supplier")}`}
              </Button>
            </>
          }
        >
          <span>
            <b>{needs.size}</b> {needs.size === 1 ? "line" : "lines"}
          </span>
          <span>
            <b>{asked.size}</b> {asked.size === 1 ? "supplier" : "suppliers"}
          </span>
        </TallyLine>
      }
    />
  );
}

function LinesToAsk({
  rows,
  needs,
  onNeed,
}: {
  rows: Loaded["rows"];
  needs: ReadonlySet<string>;
  onNeed: (id: string) => void;
}) {
  const w = useWriting();
  return (
    <table className="mt-1 w-full">
      <caption className="sr-only">Lines to ask for</caption>
      <thead>
        <tr className="border-y border-rule border-b-2 border-b-ink text-2xs text-ink-3">
          <th scope="col" className="w-10 py-1 pl-4.5">
            <span className="sr-only">Ask</span>
          </th>
          <th scope="col" className="px-2 text-left">
            Need
          </th>
          <th scope="col" className="px-2 text-right">
            Quantity
          </th>
          <th scope="col" className="px-2 text-right">
            Needed
          </th>
          <th scope="col" className="px-2 pr-4.5 text-right">
            Sold by
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.id} className="border-b border-rule-2">
            <td className="py-1.5 pl-4.5">
              <input
                type="checkbox"
                checked={needs.has(r.id)}
                onChange={() => onNeed(r.id)}
                aria-label={`Ask for ${r.name}, ${r.store}`}
                className="size-[15px] align-[-3px] accent-harbour"
              />
            </td>
            <td className="px-2">
              {r.name} <span className="code">{`${r.code} · ${r.store}`}</span>
            </td>
            <td className="figure px-2 text-right">
              {w.quantity(r.wanted)} <span className="font-sans text-xs text-ink-3">{r.unit}</span>
            </td>
            <td className="px-2 text-right">{w.day(r.neededOn, false)}</td>
            <td className="px-2 pr-4.5 text-right text-ink-2">
              {r.sells.length ? count(r.sells.length, "supplier") : <b className="text-signal">nobody yet</b>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function WhomToAsk({
  suppliers,
  asked,
  sells,
  onSupplier,
}: {
  suppliers: Loaded["suppliers"];
  asked: ReadonlySet<number> /** How many of the ticked lines they sell. */;
  sells: (supplier: Askable) => number;
  onSupplier: (id: number) => void;
}) {
  return (
    <fieldset className="border border-rule bg-sheet">
      <legend className="mb-1 text-xs font-semibold text-ink-2">Suppliers</legend>
      {suppliers.map((s) => (
        <label
          key={s.id}
          className="flex items-center gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0 has-disabled:text-ink-3"
        >
          <input
            type="checkbox"
            checked={asked.has(s.id)}
            disabled={s.contacts === 0}
            onChange={() => onSupplier(s.id)}
            className="size-[15px] accent-harbour"
          />
          <span className="min-w-0 flex-1 truncate">{s.name}</span>
          <span className="text-xs whitespace-nowrap text-ink-3">
            {s.contacts === 0 ? "no address" : sells(s) ? `sells ${sells(s)} of these` : "sells none yet"}
          </span>
        </label>
      ))}
    </fieldset>
  );
}

type Loaded = ReturnType<typeof useLoaderData<typeof loader>>;
