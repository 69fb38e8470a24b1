import { type ActionFunctionArgs, data, type LoaderFunctionArgs, useLoaderData, useParams } from "react-router";
import { showDay, showMoney, showPercent, showPrice, showQuantity } from "../../../core/numbers/format";
import { fillPlaceholders } from "../../../core/orders/papers";
import type { OrderDocument } from "../../../exchange/pdf/order-document";
import {
  limitWords,
  localeIn,
  lookOf,
  paperTitle,
  paperValues,
  paymentOf,
  placeOf,
  unitIn,
} from "../../../exchange/pdf/order-document";
import { PAGE_WORDS } from "../../../exchange/pdf/page-words";
import { paperWords } from "../../../exchange/pdf/paper-words";
import { answerByLink } from "../../../server/acts/suppliers/answer-order";
import { patiently } from "../../../server/db/busy";
import { theCompany } from "../../../server/queries/company";
import { noteLooked, readLinked } from "../../../server/queries/orders/link";
import { house, now, today, zoneOf } from "../../web/house";
import { notFound, readJson } from "../../web/page";
import { strangersAct } from "../../web/strangers";
import { LinkAnswer } from "./link-answer";

/** Opened by whoever holds the link, without an account. It shows this one order as it stands. */
export function loader({ params, context }: LoaderFunctionArgs) {
  const { db } = context.get(house);
  const link = String(params.link).slice(0, 80);
  const found = readLinked(db, link, today());
  if (!found) throw notFound("This link does not lead to an order of ours.");
  if (!("says" in found)) noteLooked(db, link, now().toISOString());
  return { found, today: today(), zone: zoneOf(theCompany(db)) };
}

/** An answer to a long order: two thousand lines, each with its parts. */
const MOST_OF_AN_ANSWER = 2_000_000;

const take = strangersAct(async ({ params, context }, form) => {
  const { db } = context.get(house);
  const raw = {
    all: form.all === "yes",
    revision: form.revision,
    lines: readJson(form.lines) ?? [],
    agree: form.agree ?? "",
    by: form.by ?? "",
    remark: form.remark ?? "",
  };
  const answer = await patiently(() =>
    answerByLink(db, String(params.link).slice(0, 80), raw, { now: now().toISOString(), day: today() }),
  );
  return data(answer, { status: answer.ok ? 200 : 422 });
}, MOST_OF_AN_ANSWER);

/** The supplier answers. Without a link of ours nothing is read. */
export async function action(args: ActionFunctionArgs) {
  const { db } = args.context.get(house);
  if (!readLinked(db, String(args.params.link).slice(0, 80), today()))
    throw notFound("This link does not lead to an order of ours.");
  return take(args);
}

/** A supplier reads an order: the same as the paper, and always as it stands. */
export default function LinkedOrder() {
  const { found, today, zone } = useLoaderData<typeof loader>();
  const { link } = useParams();
  if ("says" in found)
    return (
      <main id="sheet" tabIndex={-1} className="mx-auto max-w-3xl px-4.5 py-16 outline-none">
        <title>A link that has ended</title>
        <h1 className="text-xl font-bold">This link does not open any more</h1>
        <p className="mt-2 text-ink-2">{found.says}</p>
      </main>
    );
  const { document: d, state, closed, files } = found;
  const look = lookOf(d);
  const { prices, language } = look;
  const words = paperWords(language);
  const page = PAGE_WORDS[language];
  const locale = localeIn(d);
  const day = (x: string) => showDay(x, today, locale);
  const blanket = d.kind === "blanket";
  const facts = linkedFacts(d, today);
  const values = paperValues(d);
  const notes = [
    d.note,
    d.validUntil ? words.voidAfter(day(d.validUntil)) : "",
    d.texts ?? "",
    fillPlaceholders(look.below, values),
    fillPlaceholders(look.foot, { ...values, number: d.number ?? "–" }),
  ].filter(Boolean);
  return (
    <main
      id="sheet"
      tabIndex={-1}
      lang={language}
      className="mx-auto max-w-4xl bg-sheet px-6 py-8 outline-none max-md:px-4.5"
    >
      <title>{`${paperTitle(d)}, ${d.company.name}`}</title>
      <div className="flex flex-wrap items-baseline gap-x-4 border-b-2 border-ink pb-3">
        <h1 className="text-xl font-bold">{paperTitle(d)}</h1>
        <p className="text-ink-2">{page.fromTo(d.company.name, d.supplier.name, day(d.day))}</p>
        {page.states[state] && <p className="ml-auto font-semibold">{page.states[state]}</p>}
      </div>
      {closed && <p className="mt-3 border-l-4 border-ink px-3">{closed}</p>}
      <dl className="grid grid-cols-3 gap-x-6 gap-y-2 border-b border-rule py-4 max-md:grid-cols-1">
        {facts.map(([k, v]) => (
          <div key={k}>
            <dt className="text-xs text-ink-3">{k}</dt>
            <dd className="[overflow-wrap:anywhere]">{v.join(", ")}</dd>
          </div>
        ))}
      </dl>
      {look.above && <p className="py-3 whitespace-pre-line">{fillPlaceholders(look.above, values)}</p>}
      <div className="overflow-x-auto">
        <table className="w-full">
          <caption className="sr-only">{page.lines}</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left text-2xs text-ink-3">
              <th className="py-1.5 pr-2">#</th>
              <th className="px-2">{words.goods}</th>
              <th className="px-2 text-right">{words.quantity}</th>
              {!blanket && <th className="px-2 text-right">{words.wanted}</th>}
              {prices && (
                <>
                  <th className="px-2 text-right">{words.price}</th>
                  <th className="pl-2 text-right">{words.amount}</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            {d.lines.map((l) => (
              <LinkedLine key={l.position} document={d} line={l} today={today} />
            ))}
          </tbody>
        </table>
      </div>
      {prices && <LinkedTotals document={d} />}
      {notes.map((t) => (
        <p key={t} className="mt-4 border-l-2 border-ink pl-3 whitespace-pre-line">
          {t}
        </p>
      ))}
      {files.length > 0 && (
        <p className="mt-4">
          {page.files}:{" "}
          {files.map((f, i) => (
            <span key={f.id}>
              {i > 0 && ", "}
              <a className="underline" href={`/order/${link}/files/${f.id}`}>
                {f.name}
              </a>
            </span>
          ))}
        </p>
      )}
      {d.kind !== "blanket" && (found.open.length > 0 || found.said.length > 0) && (
        <LinkAnswer found={found} today={today} zone={zone} />
      )}
      <p className="mt-6 flex gap-4">
        <a className="font-semibold underline" href={`/order/${link}/paper.pdf`}>
          {page.pdf}
        </a>
        {prices && (
          <a className="font-semibold underline" href={`/order/${link}/order.xml`}>
            {page.ubl}
          </a>
        )}
      </p>
    </main>
  );
}

function Sum({ label, value }: { label: string; value: string }) {
  return (
    <div className="flex justify-between py-0.5">
      <dt className="text-ink-2">{label}</dt>
      <dd className="figure">{value}</dd>
    </div>
  );
}

function LinkedLine({
  document: d,
  line: l,
  today,
}: {
  document: OrderDocument;
  line: OrderDocument["lines"][number];
  today: string;
}) {
  const { prices, language } = lookOf(d);
  const words = paperWords(language);
  const locale = localeIn(d);
  const day = (x: string) => showDay(x, today, locale);
  return (
    <tr className="border-b border-rule-2 align-top">
      <td className="py-2 pr-2 text-ink-3">{l.position}</td>
      <td className="px-2 py-2">
        {l.words}
        <span className="code block">
          {[l.theirs && `${words.yours} ${l.theirs}`, l.ours && `${words.ours} ${l.ours}`].filter(Boolean).join(" · ")}
        </span>
        {l.deliverTo && (
          <span className="block text-xs text-ink-2">
            {words.deliverTo}: {[l.deliverTo.name, ...l.deliverTo.address.split("\n")].filter(Boolean).join(", ")}
          </span>
        )}
        {l.note && <span className="block text-xs text-ink-2">{l.note}</span>}
        {limitWords(d, l).map((text) => (
          <span key={text} className="block text-xs text-ink-2">
            {text}
          </span>
        ))}
        {prices && l.standing + l.discount > 0 && (
          <span className="block text-xs text-ink-2">
            {words.discount}{" "}
            {[l.standing, l.discount]
              .filter((p) => p > 0)
              .map((p) => showPercent(p, locale))
              .join(" + ")}
          </span>
        )}
      </td>
      <td className="figure px-2 py-2 text-right whitespace-nowrap">
        {showQuantity(l.quantity, locale)} <span className="font-sans text-xs text-ink-3">{unitIn(d, l.unit)}</span>
      </td>
      {d.kind !== "blanket" && (
        <td className="px-2 py-2 text-right whitespace-nowrap">
          {l.instalments?.length
            ? l.instalments.map((p) => (
                <span key={p.required} className="block">
                  {showQuantity(p.quantity, locale)} {words.by} {day(p.required)}
                </span>
              ))
            : day(l.required)}
        </td>
      )}
      {prices && (
        <>
          <td className="figure px-2 py-2 text-right">
            {l.price === null ? "–" : showPrice(l.price, d.currency, locale)}
          </td>
          <td className="figure py-2 pl-2 text-right">{showMoney(l.net, d.currency, locale)}</td>
        </>
      )}
    </tr>
  );
}

function LinkedTotals({ document: d }: { document: OrderDocument }) {
  const { language } = lookOf(d);
  const words = paperWords(language);
  const locale = localeIn(d);
  const money = (minor: number) => showMoney(minor, d.currency, locale);
  return (
    <dl className="mt-3 ml-auto w-80 max-w-full">
      {d.discount !== 0 && (
        <>
          <Sum label={words.linesTotal} value={money(d.linesNet)} />
          <Sum label={`${words.discount} ${showPercent(d.discountRate, locale)}`} value={money(-d.discount)} />
        </>
      )}
      <Sum label={words.net} value={money(d.net)} />
      {d.taxed ? (
        d.taxes.map((t) => (
          <Sum key={t.rate} label={words.taxOn(showPercent(t.rate, locale), money(t.base))} value={money(t.tax)} />
        ))
      ) : (
        <Sum label={words.taxByUs} value={money(0)} />
      )}
      <div className="flex justify-between border-t-2 border-ink pt-1 font-semibold">
        <dt>{`${words.total} ${d.currency}`}</dt>
        <dd className="figure">{showMoney(d.total, d.currency, locale)}</dd>
      </div>
    </dl>
  );
}

/** What stands above the lines, each under its word; what is not said is left out. */
function linkedFacts(d: OrderDocument, today: string): [string, string[]][] {
  const { prices, language } = lookOf(d);
  const words = paperWords(language);
  const day = (x: string) => showDay(x, today, localeIn(d));
  const facts: [string, (string | null | undefined)[]][] = [
    [words.to, [d.supplier.name, d.contact && words.attention(d.contact), ...d.supplier.address.split("\n")]],
    [words.deliverTo, [placeOf(d), ...d.deliverTo.address.split("\n")]],
    [words.contact, [d.writer.name, d.writer.mail]],
    d.kind === "blanket" && d.starts && d.ends
      ? [words.holds, [`${day(d.starts)} ${words.until} ${day(d.ends)}`]]
      : [words.wanted, [day(d.required)]],
    [words.payment, prices ? [paymentOf(d)] : []],
    [words.delivery, [d.delivery, d.carrier]],
    [words.drawnFrom, d.drawnFrom ?? []],
    [
      words.references,
      [d.ourReference && `${words.ours} ${d.ourReference}`, d.theirReference && `${words.yours} ${d.theirReference}`],
    ],
    [words.currency, prices ? [d.currency] : []],
    [words.taxNumber, [d.company.taxNumber]],
  ];
  return facts
    .map(([word, values]): [string, string[]] => [word, values.filter((v): v is string => Boolean(v))])
    .filter(([, values]) => values.length > 0);
}
