import { useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { refillState } from "../../../core/consigned/refill";
import { quantityText } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import { readAgreementHead } from "../../../server/queries/consigned/agreement";
import { type RefillHead, readRefill, readRefills } from "../../../server/queries/consigned/refills";
import { refillNeeds } from "../../../server/queries/consigned/shelves";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, Field, problemAt, TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { actions, atOf, page } from "../../web/page";
import { type RefillWord, refillActs } from "./refill-acts";

export const loader = page("ask for refills", ({ db, day, url }) => {
  const rows = readRefills(db);
  const named = atOf(url);
  const here = rows.find((r) => r.id === named) ?? rows[0] ?? null;
  return {
    needs: [...refillNeeds(db, day)].map(([agreement, lines]) => {
      const a = readAgreementHead(db, agreement)!;
      return { agreement, name: a.name, supplierName: a.supplierName, storeName: a.storeName, lines };
    }),
    rows,
    here: here && readRefill(db, here.id),
  };
});

export const action = actions("ask for refills", refillActs);

const keyOf = (r: RefillHead) => String(r.id);
type Needs = ReturnType<typeof useLoaderData<typeof loader>>["needs"][number];

/** What suppliers should bring onto their shelves here, what they were asked for, and when it comes. It is never a purchase. */
export default function Refills() {
  const { needs, rows, here } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(here ? String(here.id) : null, true);
  const due = (r: RefillHead) => r.promised ?? r.wanted;
  const late = (r: RefillHead) => r.open > 0 && due(r) < w.today;
  const columns: SheetColumn<RefillHead>[] = [
    {
      key: "refill",
      head: "Refill",
      gives: true,
      cell: (r) => <Named name={r.supplierName} code={`${r.number} · ${r.storeName}`} />,
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={refillState(r)} /> },
    {
      key: "due",
      head: "Should come",
      keep: 2,
      align: "right",
      cell: (r) => (
        <span className={late(r) ? "font-semibold text-signal" : ""}>
          {w.day(due(r))}
          {r.open > 0 && !r.promised && <span className="text-ink-3">, not promised</span>}
        </span>
      ),
    },
    { key: "asked", head: "Asked", keep: 0, align: "right", cell: (r) => `${r.person}, ${w.day(r.day, false)}` },
  ];
  const lateOnes = rows.filter(late).length;
  return (
    <SheetAndSlip
      sheet={
        <div className="flex min-h-0 flex-1 flex-col overflow-y-auto">
          <SheetHead title="Refills" sub="what suppliers bring onto their own shelves here" />
          {needs.map((n) => (
            <Asking key={`${n.agreement} ${n.lines.map((l) => l.ask).join()}`} needs={n} />
          ))}
          <Sheet
            label="Refills"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            empty={
              <Empty title="No refill was asked for yet">
                Once there is less than the least of what a supplier has here, it stands above, up to the most in whole
                packs.
              </Empty>
            }
          />
        </div>
      }
      slip={here ? <RefillSlip key={`${here.id} ${here.version}`} refill={here} /> : undefined}
      tally={
        <TallyLine>
          <span>
            <b>{needs.reduce((a, n) => a + n.lines.length, 0)}</b> below the least
          </span>
          <span>{count(rows.filter((r) => r.open > 0).length, "refill")} on the way</span>
          {lateOnes > 0 && <span className="font-semibold text-signal">{lateOnes} late</span>}
        </TallyLine>
      }
    />
  );
}

/** What one supplier should bring: proposed, and asked for with one letter. */
function Asking({ needs: n }: { needs: Needs }) {
  const w = useWriting();
  const submit = useSubmit();
  const answer = useActionData<typeof action>();
  const busy = useBusy();
  const key = useSubmissionKey(n);
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [wanted, setWanted] = useState("");
  const [sent, setSent] = useState(false);
  const problems = sent && answer && !answer.ok ? answer.problems : undefined;
  const rows = n.lines
    .map((l) => ({ agreementItem: l.agreementItem, quantity: texts[l.agreementItem] ?? quantityText(l.ask) }))
    .filter((r) => r.quantity.trim() !== "" && r.quantity.trim() !== "0");
  const send = () => {
    setSent(true);
    void submit(
      { do: "ask" satisfies RefillWord, agreement: n.agreement, wanted, rows, key: `${key()}${n.agreement}` },
      { method: "post", encType: "application/json" },
    );
  };
  return (
    <section aria-label={`${n.supplierName}, ${n.storeName}`} className="mx-4.5 mb-4 border border-ink">
      <h2 className="flex items-baseline gap-2 bg-band px-3 py-1.5 font-bold">
        {n.supplierName}
        <span className="font-sans text-xs font-normal text-ink-2">{n.storeName}</span>
        <Link
          className="ml-auto font-sans text-xs font-normal underline"
          to={`/consigned?agreement=${n.agreement}&cut=below`}
        >
          their shelf
        </Link>
      </h2>
      <table className="w-full">
        <caption className="sr-only">What to ask for</caption>
        <thead>
          <tr className="text-left text-2xs text-ink-3">
            <th className="py-1 pl-3">Item</th>
            <th className="px-2 text-right">Here</th>
            <th className="px-2 text-right max-md:hidden">On its way</th>
            <th className="px-2 text-right max-md:hidden">Least to most</th>
            <th className="px-2 pr-3 text-right">Ask for</th>
          </tr>
        </thead>
        <tbody>
          {n.lines.map((l) => {
            const index = rows.findIndex((r) => r.agreementItem === l.agreementItem);
            return (
              <tr key={l.agreementItem} className="border-t border-rule-2">
                <td className="py-1.5 pl-3 leading-tight">
                  {l.name}
                  <span className="code block">{l.code}</span>
                </td>
                <td className="figure px-2 text-right text-signal">{w.quantity(l.here)}</td>
                <td className="figure px-2 text-right max-md:hidden">{w.quantity(l.onItsWay)}</td>
                <td className="figure px-2 text-right text-ink-2 max-md:hidden">
                  {w.quantity(l.least)} – {w.quantity(l.most)}
                </td>
                <td className="px-2 py-1 pr-3 text-right">
                  <span className="inline-flex items-center gap-2">
                    <CellEntry
                      label={`${l.name}: ask for, in ${l.unit}`}
                      problem={index < 0 ? undefined : problemAt(problems, `rows.${index}.quantity`)}
                      value={texts[l.agreementItem] ?? quantityText(l.ask)}
                      onChange={(e) => setTexts({ ...texts, [l.agreementItem]: e.target.value })}
                      inputMode="decimal"
                      maxLength={20}
                      className="w-24 text-right font-mono"
                    />
                    <span className="w-10 text-left text-xs text-ink-3">{l.unit}</span>
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="flex flex-wrap items-end gap-3 border-t border-rule px-3 py-2">
        <Field label="Should be here by, or empty as agreed" problem={problemAt(problems, "wanted")}>
          {(a) => <DayEntry {...a} value={wanted} onDay={setWanted} />}
        </Field>
        <Button look="main" className="ml-auto" disabled={busy || rows.length === 0} onClick={send}>
          Ask {n.supplierName}
        </Button>
      </div>
      {problemAt(problems, "") && (
        <p role="alert" className="px-3 pb-2 text-xs font-semibold text-signal">
          {problemAt(problems, "")}
        </p>
      )}
    </section>
  );
}

function RefillSlip({ refill: f }: { refill: NonNullable<ReturnType<typeof readRefill>> }) {
  const w = useWriting();
  const fields = { refill: f.id, version: f.version };
  return (
    <>
      <SlipHead over={f.number} title={`${f.supplierName} to ${f.storeName}`}>
        <p className="mt-1 text-ink-2">
          Asked {w.day(f.day)} for {w.day(f.wanted)}
          {f.promised && `; they said ${w.day(f.promised)}`}
          {f.said && `: “${f.said}”`}.{f.endedWhy && ` Given up: ${f.endedWhy}.`}
        </p>
      </SlipHead>
      <SlipPart title="What was asked for">
        <ul className="border border-rule bg-sheet text-xs">
          {f.lines.map((l) => (
            <li key={l.id} className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1.5 last:border-0">
              <span>
                {l.name} <span className="code">{l.code}</span>
              </span>
              <span className="figure whitespace-nowrap">
                {l.came > 0 && `${w.quantity(l.came)} of `}
                {w.quantity(l.quantity)} {l.unit}
              </span>
            </li>
          ))}
        </ul>
      </SlipPart>
      <p className="flex flex-wrap gap-3 text-xs">
        <a className="underline" href={`/refills/${f.id}/paper.pdf`}>
          The letter as PDF
        </a>
        <a className="underline" href={`/refills/${f.id}/lines.csv`} download>
          its lines as CSV
        </a>
        <Link className="underline" to={`/consigned/register?agreement=${f.agreement}`}>
          Register what came
        </Link>
      </p>
      {f.open > 0 && (
        <SlipPart title="What becomes of it">
          <div className="flex flex-col gap-1.5">
            <SlipForm<RefillWord> does="promise" fields={fields} label="They said when it comes" send="Keep it">
              <Field label="It comes">
                {(a) => <DayEntry {...a} name="day" defaultValue={f.promised ?? f.wanted} />}
              </Field>
              <TextField label="What they said, if anything" name="said" maxLength={300} />
            </SlipForm>
            <SlipForm<RefillWord> does="give up" fields={fields} label="Give up what is open" send="Give it up">
              <TextField label="Why" name="reason" maxLength={300} />
            </SlipForm>
          </div>
        </SlipPart>
      )}
    </>
  );
}
