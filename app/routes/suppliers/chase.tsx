import { useState } from "react";
import { Link, useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import type { ChaseAbout } from "../../../core/suppliers/chase";
import { count } from "../../../core/text";
import { keepChaseRule, sendChase } from "../../../server/acts/suppliers/chase";
import { type ChaseRow, readChase, readChaseRules } from "../../../server/queries/suppliers/chase";
import { SlipForm } from "../../parts/slip-form";
import { Button, ButtonLink } from "../../ui/button";
import { TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { now } from "../../web/house";
import { actions, type PageActs, page } from "../../web/page";
import { OrderPages } from "../orders/order-pages";

export const loader = page("see orders", ({ db, day, person }) => {
  const rules = readChaseRules(db);
  return {
    rows: readChase(db, now().toISOString(), day),
    house: rules.house,
    own: Object.fromEntries(rules.of),
    maySend: may(person.roles, "place"),
    mayRule: may(person.roles, "keep sourcing"),
  };
});

const chaseActs = {
  send: async (desk, input, { house }) => {
    const sent = await sendChase(
      desk,
      {
        rows: String(input.rows ?? "")
          .split(",")
          .filter(Boolean),
      },
      { site: house.site },
    );
    if (sent.ok) house.post();
    return sent;
  },
  rule: keepChaseRule,
} satisfies PageActs;
type ChaseWord = keyof typeof chaseActs;
export const action = actions("see orders", chaseActs);

const keyOf = (r: ChaseRow) => r.key;
const WORDS: Record<ChaseAbout, string> = {
  overdue: "overdue",
  confirm: "not confirmed",
  announce: "due soon",
  prices: "without prices",
};

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<ChaseRow>[] => [
  {
    key: "order",
    head: "Order or request",
    cell: (r) => (
      <Named
        name={r.supplierName}
        code={`${r.number} · ${count(r.lines, "line")} ${r.about === "prices" ? "asked for" : "to come"}`}
      />
    ),
  },
  {
    key: "about",
    keep: 3,
    head: "Needs a word because it is",
    cell: (r) => (
      <span className={r.about === "overdue" ? "font-semibold text-signal" : ""}>
        {WORDS[r.about]}
        {(r.about === "overdue" || r.about === "prices") && `, ${r.late === 1 ? "1 day" : `${r.late} days`}`}
        {r.about === "announce" && `, ${w.day(r.due)}`}
      </span>
    ),
  },
  {
    key: "waits",
    keep: 1,
    head: "Who waits",
    cell: (r) => r.waits ?? <span className="text-ink-3">{r.about === "prices" ? "·" : "stock"}</span>,
  },
  {
    key: "worth",
    keep: -1,
    head: "Order, net",
    align: "right",
    cell: (r) => <span className="figure">{r.worth === null ? "·" : w.amount(r.worth)}</span>,
  },
  {
    key: "asked",
    keep: 2,
    head: "Asked last",
    align: "right",
    cell: (r) => (
      <span className={r.ripe ? "" : "text-ink-3"}>{r.lastAsked ? w.day(r.lastAsked, false) : "never"}</span>
    ),
  },
];

/** Everything that needs a word of a supplier, what waiting costs most first; letters to many at once. */
export default function Chase() {
  const { rows, house, own, maySend, mayRule } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const navigate = useNavigate();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const chosen = rows.filter((r) => ticked.has(keyOf(r)));
  const toggle = (r: ChaseRow) =>
    setTicked((was) => {
      const next = new Set(was);
      if (!next.delete(keyOf(r))) next.add(keyOf(r));
      return next;
    });
  const suppliers = new Set(chosen.map((r) => r.supplier)).size;
  const send = () => {
    if (busy || chosen.length === 0) return;
    void submit({ do: "send" satisfies ChaseWord, rows: chosen.map(keyOf).join(","), key: key() }, { method: "post" });
    setTicked(new Set());
  };
  const sent = answer?.ok && "letters" in answer.value ? answer.value : null;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Chase"
            sub={rows.length === 0 ? "nothing needs a word" : "what waiting costs most stands first"}
          >
            <OrderPages here="chase" />
          </SheetHead>
          <div className="flex flex-wrap items-center gap-2 px-4.5 pb-2">
            <Button onClick={() => setTicked(new Set(rows.filter((r) => r.ripe && r.reachable).map(keyOf)))}>
              Tick all not asked lately
            </Button>
            <ButtonLink to="/overdue">Overdue, to print</ButtonLink>
            <ButtonLink to="/overdue.csv" reload>
              CSV
            </ButtonLink>
            <ButtonLink to="/overdue.xlsx" reload>
              XLSX
            </ButtonLink>
          </div>
          <Sheet
            label="What needs a word"
            columns={columnsOf(w)}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={(r) => navigate(r.href)}
            ticks={
              maySend
                ? { ticked, can: (r) => r.reachable, toggle, label: (r) => `${r.number}, ${r.supplierName}` }
                : undefined
            }
            empty={
              <Empty title="Nothing needs a word">
                What is not confirmed in time, due soon or overdue, and prices that were asked for and not named, stand
                here until their supplier says something.
              </Empty>
            }
          />
        </>
      }
      slip={
        here ? (
          <>
            <Letter row={here} chosen={chosen} />
            {mayRule && <Rules row={here} house={house} own={own[here.supplier] ?? null} />}
          </>
        ) : (
          <Empty title="No order chosen" />
        )
      }
      tally={
        <TallyLine
          trouble={answer && !answer.ok ? answer.problems[0]?.says : undefined}
          keys={[[" ", "tick"]]}
          act={
            maySend && (
              <Button look="main" disabled={busy || chosen.length === 0} onClick={send}>
                {chosen.length === 0 ? "Send letters" : `Send ${count(suppliers, "letter")}`}
              </Button>
            )
          }
        >
          <span>
            <b>{rows.length}</b> {rows.length === 1 ? "needs" : "need"} a word
          </span>
          {sent && (
            <span role="status" className="text-weed">
              {count(sent.letters, "letter")} about {count(sent.orders, "paper")} in the outbox
              {sent.without.length > 0 && `; no address: ${sent.without.join(", ")}`}
            </span>
          )}
        </TallyLine>
      }
    />
  );
}

/** What the supplier of the selected row would read: about what is ticked of theirs, or else about this order. */
function Letter({ row: r, chosen }: { row: ChaseRow; chosen: readonly ChaseRow[] }) {
  const w = useWriting();
  const theirs = chosen.filter((c) => c.supplier === r.supplier).map(keyOf);
  const keys = theirs.length ? theirs : [r.key];
  const { slip } = useSlip<{ subject: string; body: string; to: string[] } | null>(
    `/chase/preview?supplier=${r.supplier}&rows=${keys.join(",")}`,
    chosen,
  );
  return (
    <>
      <SlipHead over={`${r.about === "prices" ? "asked" : "placed"} ${w.moment(r.placed)}`} title={r.supplierName}>
        <p className="mt-1 text-ink-2">
          <Link className="underline" to={r.href}>
            {r.number}
          </Link>
          , {WORDS[r.about]}
          {!r.reachable && ". Nobody of theirs has an e-mail address for it."}
        </p>
      </SlipHead>
      {slip && slip.to.length > 0 && (
        <SlipPart title="The letter">
          <div className="border border-rule bg-sheet px-3 py-2">
            <p className="text-xs text-ink-2">to {slip.to.join(", ")}</p>
            <p className="mt-1 font-semibold">{slip.subject}</p>
            <p className="mt-2 text-xs whitespace-pre-line">{slip.body}</p>
          </div>
        </SlipPart>
      )}
    </>
  );
}

type Rule = ReturnType<typeof useLoaderData<typeof loader>>["house"];

/** When this supplier, and the house at large, asks for a word. */
function Rules({ row: r, house, own }: { row: ChaseRow; house: Rule; own: Rule | null }) {
  const rule = own ?? house;
  const words = (x: Rule) =>
    `confirmed within ${x.confirmHours} working hours, a word ${x.announceDays} days before, again after ${x.againDays} days${x.byClock ? ", by itself" : ""}`;
  return (
    <SlipPart title="When they are asked">
      <p className="text-xs text-ink-2">
        {own ? `Their own rule: ${words(own)}.` : `The house's rule: ${words(house)}.`}
      </p>
      {[
        { label: "Another rule for them…", supplier: r.supplier },
        { label: "Change the house's rule…", supplier: "" },
      ].map(({ label, supplier }) => {
        const from = supplier === "" ? house : rule;
        return (
          <SlipForm<ChaseWord> key={label} does="rule" fields={{ supplier }} label={label} send="Keep the rule">
            <TextField
              label="Confirmed within so many working hours"
              name="confirmHours"
              inputMode="numeric"
              defaultValue={from.confirmHours}
            />
            <TextField
              label="A word so many days before goods are due"
              name="announceDays"
              inputMode="numeric"
              defaultValue={from.announceDays}
            />
            <TextField
              label="Not asked again for so many days"
              name="againDays"
              inputMode="numeric"
              defaultValue={from.againDays}
            />
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                name="byClock"
                value="yes"
                className="accent-harbour"
                defaultChecked={from.byClock}
              />
              letters go by themselves, in the name of whoever wrote the order
            </label>
          </SlipForm>
        );
      })}
    </SlipPart>
  );
}
