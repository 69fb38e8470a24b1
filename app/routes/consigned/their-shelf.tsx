import { type ReactNode, useId } from "react";
import {
  type ActionFunctionArgs,
  data,
  Form,
  type LoaderFunctionArgs,
  useActionData,
  useLoaderData,
  useParams,
} from "react-router";
import { toDay } from "../../../core/calendar/day";
import { showDay, showMoney, showQuantity } from "../../../core/numbers/format";
import { SHELF_PAGE_WORDS } from "../../../exchange/pdf/shelf-page-words";
import { sayByLink } from "../../../server/acts/consigned/by-link";
import { patiently } from "../../../server/db/busy";
import { agreementOfLink, readTheirShelf, type TheirShelf } from "../../../server/queries/consigned/link";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { house, now, today } from "../../web/house";
import { notFound } from "../../web/page";
import { strangersAct } from "../../web/strangers";

/** Opened by whoever holds the link, without an account. It shows the goods of this one agreement. */
export function loader({ params, context }: LoaderFunctionArgs) {
  const { db } = context.get(house);
  const of = agreementOfLink(db, String(params.link).slice(0, 80));
  if (of === null) throw notFound("This link does not lead to goods on our shelves.");
  if (typeof of === "object") return { says: of.says, shelf: null, today: today() };
  return { says: null, shelf: readTheirShelf(db, of), today: today() };
}

const take = strangersAct(async ({ params, context }, form) => {
  const { db } = context.get(house);
  const answer = await patiently(async () =>
    sayByLink(db, String(params.link).slice(0, 80), form, { now: now().toISOString(), day: today() }),
  );
  return data(answer, { status: answer.ok ? 200 : 422 });
}, 20_000);

/** Their supplier says something. Without a link of ours nothing is read. */
export async function action(args: ActionFunctionArgs) {
  const { db } = args.context.get(house);
  if (typeof agreementOfLink(db, String(args.params.link).slice(0, 80)) !== "number")
    throw notFound("This link does not lead to goods on our shelves.");
  return take(args);
}

/** A supplier looks at their goods on our shelves: what to bring, whether it may stay longer, and what was used. */
export default function TheirShelfPage() {
  const { says, shelf, today: day } = useLoaderData<typeof loader>();
  if (!shelf)
    return (
      <main id="sheet" tabIndex={-1} className="mx-auto max-w-3xl px-4.5 py-16 outline-none">
        <title>A link that has ended</title>
        <h1 className="text-xl font-bold">This link does not open any more</h1>
        <p className="mt-2 text-ink-2">{says}</p>
      </main>
    );
  return <Shelf shelf={shelf} day={day} />;
}

function Shelf({ shelf: s, day }: { shelf: TheirShelf; day: string }) {
  const words = SHELF_PAGE_WORDS[s.language];
  const answer = useActionData<typeof action>();
  const q = (n: number) => showQuantity(n, s.locale);
  const problem = answer && !answer.ok ? answer.problems[0]?.says : null;
  return (
    <main
      id="sheet"
      tabIndex={-1}
      lang={s.language}
      className="mx-auto max-w-4xl bg-sheet px-6 py-8 outline-none max-md:px-4.5"
    >
      <title>{`${words.title}, ${s.company}`}</title>
      <div className="border-b-2 border-ink pb-3">
        <h1 className="text-xl font-bold">{words.title}</h1>
        <p className="text-ink-2">
          {s.agreement.supplierName}, {words.sub(s.company, s.agreement.storeName)}
        </p>
      </div>
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-signal px-3 font-semibold">
          {problem}
        </p>
      )}
      {answer?.ok && (
        <p role="status" className="mt-3 border-l-4 border-weed px-3">
          {words.done}
        </p>
      )}
      <Part title={words.refills} empty={s.refills.length === 0 ? words.nothing : null}>
        {s.refills.map((f) => (
          <Refill key={`${f.id} ${f.version}`} refill={f} shelf={s} day={day} />
        ))}
      </Part>
      {s.longer.length > 0 && (
        <Part title={words.longer}>
          {s.longer.map((l) => (
            <Longer key={l.id} longer={l} shelf={s} day={day} />
          ))}
        </Part>
      )}
      <Part title={words.statements} empty={s.statements.length === 0 ? words.nothing : null}>
        {s.statements.map((x) => (
          <Statement key={`${x.id} ${x.version}`} statement={x} shelf={s} day={day} />
        ))}
      </Part>
      <Part title={words.goods}>
        <table className="w-full">
          <caption className="sr-only">{words.goods}</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left text-2xs text-ink-3">
              <th className="py-1.5 pr-2">{words.goods}</th>
              <th className="px-2 text-right">{words.here}</th>
              <th className="pl-2 text-right">{words.leastMost}</th>
            </tr>
          </thead>
          <tbody>
            {s.items.map((i) => (
              <tr key={i.code} className="border-b border-rule-2">
                <td className="py-1.5 pr-2 leading-tight">
                  {i.name}
                  <span className="code block">{[i.theirCode, i.code].filter(Boolean).join(" · ")}</span>
                </td>
                <td className={`figure px-2 text-right ${i.here < i.least ? "font-semibold text-signal" : ""}`}>
                  {q(i.here)} <span className="font-sans text-2xs text-ink-3">{i.unit}</span>
                </td>
                <td className="figure pl-2 text-right text-ink-2">
                  {q(i.least)} – {q(i.most)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Part>
    </main>
  );
}

function Part({ title, empty = null, children }: { title: string; empty?: string | null; children?: ReactNode }) {
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-base font-bold">{title}</h2>
      {empty !== null ? <p className="text-ink-2">{empty}</p> : children}
    </section>
  );
}

type Of<K extends "refills" | "longer" | "statements"> = TheirShelf[K][number];

function Labelled({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <span className="flex flex-col">
      <label htmlFor={id} className="text-xs text-ink-2">
        {label}
      </label>
      {children(id)}
    </span>
  );
}

function Refill({ refill: f, shelf: s, day }: { refill: Of<"refills">; shelf: TheirShelf; day: string }) {
  const words = SHELF_PAGE_WORDS[s.language];
  const q = (n: number) => showQuantity(n, s.locale);
  return (
    <div className="mb-3 border border-rule p-3">
      <p className="flex flex-wrap justify-between gap-x-3">
        <b>{f.number}</b>
        <span>{words.asked(showDay(f.wanted, day, s.locale))}</span>
      </p>
      <ul className="my-1.5 text-xs">
        {f.lines.map((l) => (
          <li key={l.name} className="flex justify-between gap-3">
            <span>{l.name}</span>
            <span className="figure">
              {l.came > 0 ? words.cameOf(q(l.came), q(l.quantity)) : q(l.quantity)} {l.unit}
            </span>
          </li>
        ))}
      </ul>
      <Form method="post" className="flex flex-wrap items-end gap-3">
        <input type="hidden" name="do" value="promise" />
        <input type="hidden" name="refill" value={f.id} />
        <input type="hidden" name="version" value={f.version} />
        <Labelled label={words.comes}>
          {(id) => (
            <DayEntry
              id={id}
              name="day"
              defaultValue={f.promised ?? f.wanted}
              written={{ locale: s.locale, today: toDay(day) }}
            />
          )}
        </Labelled>
        <Labelled label={words.remark}>
          {(id) => (
            <input id={id} name="said" maxLength={300} defaultValue={f.said} className="entry w-64 max-w-full" />
          )}
        </Labelled>
        <Button type="submit">{words.keep}</Button>
      </Form>
    </div>
  );
}

function Longer({ longer: l, shelf: s, day }: { longer: Of<"longer">; shelf: TheirShelf; day: string }) {
  const words = SHELF_PAGE_WORDS[s.language];
  return (
    <Form method="post" className="mb-3 border border-rule p-3">
      <input type="hidden" name="do" value="longer" />
      <input type="hidden" name="longer" value={l.id} />
      <p>
        {words.ask(`${showQuantity(l.quantity, s.locale)} ${l.unit}`, l.name, showDay(l.oursOn, day, s.locale), l.days)}
      </p>
      <div className="mt-1.5 flex flex-wrap items-end gap-3">
        <Labelled label={words.name}>
          {(id) => <input id={id} name="by" maxLength={80} required className="entry w-56 max-w-full" />}
        </Labelled>
        <Labelled label={words.remark}>
          {(id) => <input id={id} name="said" maxLength={300} className="entry w-56 max-w-full" />}
        </Labelled>
        <Button type="submit" name="answer" value="yes">
          {words.yes}
        </Button>
        <Button type="submit" name="answer" value="no">
          {words.no}
        </Button>
      </div>
    </Form>
  );
}

function Statement({ statement: x, shelf: s, day }: { statement: Of<"statements">; shelf: TheirShelf; day: string }) {
  const { link } = useParams();
  const words = SHELF_PAGE_WORDS[s.language];
  const at = `/their-shelf/${link}/statements/${x.id}`;
  const open = x.state === "Sent" || x.state === "Questioned";
  const hidden = (word: "agree" | "question") => (
    <>
      <input type="hidden" name="do" value={word} />
      <input type="hidden" name="statement" value={x.id} />
      <input type="hidden" name="version" value={x.version} />
    </>
  );
  return (
    <div className="mb-3 border border-rule p-3">
      <p className="flex flex-wrap items-baseline justify-between gap-x-3">
        <b>{x.number}</b>
        <span>
          {showDay(x.since, day, s.locale, false)} – {showDay(x.until, day, s.locale, false)}
        </span>
        <span>
          {words.total}{" "}
          <b className="figure">
            {showMoney(x.total, s.agreement.currency, s.locale)} {s.agreement.currency}
          </b>
        </span>
      </p>
      <p className="mt-1 flex flex-wrap gap-3 text-xs">
        <a className="underline" href={`${at}/paper.pdf`}>
          PDF
        </a>
        <a className="underline" href={`${at}/uses.csv`}>
          CSV
        </a>
        <a className="underline" href={`${at}/invoice.xml`}>
          UBL
        </a>
        {x.state === "Agreed" && (
          <span className="font-semibold">
            {words.agreedBy(x.agreedBy)}
            {x.due && `, ${words.paidBy(showDay(x.due, day, s.locale))}`}
          </span>
        )}
      </p>
      {x.said && (
        <p className="mt-1 text-xs text-ink-2">
          {words.youSaid}: “{x.said}”
        </p>
      )}
      {open && (
        <div className="mt-2 grid grid-cols-2 gap-4 max-md:grid-cols-1">
          <Form method="post" className="flex flex-wrap items-end gap-3">
            {hidden("agree")}
            <Labelled label={words.name}>
              {(id) => <input id={id} name="by" maxLength={80} required className="entry w-48 max-w-full" />}
            </Labelled>
            <Button type="submit" look="main">
              {words.agree}
            </Button>
          </Form>
          <Form method="post" className="flex flex-wrap items-end gap-3">
            {hidden("question")}
            <Labelled label={words.name}>
              {(id) => <input id={id} name="by" maxLength={80} required className="entry w-32 max-w-full" />}
            </Labelled>
            <Labelled label={words.what}>
              {(id) => <input id={id} name="said" maxLength={1000} required className="entry w-48 max-w-full" />}
            </Labelled>
            <Button type="submit">{words.notRight}</Button>
          </Form>
        </div>
      )}
    </div>
  );
}
