import { useState } from "react";
import { Link, useLoaderData, useSubmit } from "react-router";
import { deliveryWords, termsWords } from "../../../core/orders/terms";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { refuse } from "../../../server/acts/desk";
import { keepSupplierDays } from "../../../server/acts/records/keep-calendar";
import {
  attachToSupplier,
  detachFromSupplier,
  dropContact,
  keepContact,
  keepPayAndShip,
  keepSupplier,
  keepSupplierText,
} from "../../../server/acts/records/keep-supplier";
import { keepTerms } from "../../../server/acts/records/keep-terms";
import { changeCurrency } from "../../../server/acts/records/make-supplier";
import { regions } from "../../../server/queries/calendars";
import { buyerChoices } from "../../../server/queries/choices";
import { currenciesOf } from "../../../server/queries/company";
import { readSupplier } from "../../../server/queries/records/supplier";
import { Attachments } from "../../parts/attachments";
import { ButtonLink } from "../../ui/button";
import { Field } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { OrderStrip, StateSquare } from "../../ui/signs";
import { newKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { act, idOf, notFound, page } from "../../web/page";
import { Upload } from "../../web/sent";
import { FactStrip } from "../orders/order-head";
import { AsksForm, ContactForm, CurrencyForm, DaysForm, PayForm, RecordFields } from "./supplier-forms";
import { termsText } from "./suppliers";

export const loader = page("see suppliers", ({ db, params, day, person }) => {
  const supplier = readSupplier(db, idOf(params.id), day);
  if (!supplier) throw notFound("There is no such supplier.");
  const mayKeep = may(person.roles, "keep sourcing");
  return {
    supplier,
    mayKeep,
    mayWrite: may(person.roles, "write orders"),
    seesOrders: may(person.roles, "see orders"),
    regions: mayKeep ? regions() : [],
    currencies: mayKeep ? currenciesOf(db) : [],
    buyers: mayKeep ? buyerChoices(db) : [],
  };
});

export const action = act<unknown>("keep sourcing", async (desk, input, { params }) => {
  const supplier = idOf(params.id);
  const all = { ...input, supplier };
  switch (input.do) {
    case "record":
      return keepSupplier(desk, all);
    case "currency":
      return changeCurrency(desk, all);
    case "pay":
      return keepPayAndShip(desk, all);
    case "terms":
      return keepTerms(desk, all);
    case "days":
      return keepSupplierDays(desk, { ...all, delivers: input["delivers[]"] ?? [] });
    case "contact":
      return keepContact(desk, { ...all, contact: input.contact || undefined });
    case "drop contact":
      return dropContact(desk, all);
    case "text":
      return keepSupplierText(desk, all);
    case "attach": {
      const { file } = input;
      if (!(file instanceof Upload)) return refuse("file", "Choose a file.");
      return attachToSupplier(desk, supplier, file.name, file.bytes);
    }
    case "detach":
      return detachFromSupplier(desk, all);
    default:
      return refuse("", "This cannot be done here.");
  }
});

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** A supplier on one page: what is open with them, what was agreed, what they sell, and how we deal with them. */
export default function Supplier() {
  const { supplier: s, mayKeep, mayWrite, seesOrders, regions, currencies, buyers } = useLoaderData<typeof loader>();
  const w = useWriting();
  const submit = useSubmit();
  const [editing, setEditing] = useState<number | "new" | null>(null);
  const part = (title: string, children: React.ReactNode) => (
    <section aria-label={title} className="border-b border-rule pb-3">
      <h2 className="px-4.5 pt-3 pb-1 text-base font-bold">{title}</h2>
      {children}
    </section>
  );
  const none = (text: string) => <p className="px-4.5 text-ink-2">{text}</p>;
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title={s.name} sub={s.code}>
            {s.blocked && <b className="text-signal">blocked: {s.blocked}</b>}
          </SheetHead>
          <FactStrip
            facts={[
              ["Ordered, twelve months", `${w.amount(s.year.ordered)} in ${count(s.year.orders, "order")}`],
              ["Still to come", w.amount(s.year.open)],
              ["Pay", `${termsWords(s.terms)}, ${s.currency}`],
              ["Delivers", DAYS.filter((_, i) => s.delivers & (1 << i)).join(" ")],
            ]}
          />
          {seesOrders &&
            part(
              "Open orders",
              s.openOrders.length === 0 ? (
                none("Nothing is open with them.")
              ) : (
                <table className="w-full">
                  <caption className="sr-only">Open orders</caption>
                  <Heads
                    heads={[
                      { label: "Order" },
                      { label: "State" },
                      { label: "Where it stands", width: "w-[24%]" },
                      { label: "Next due", align: "right" },
                      { label: "Before tax", align: "right" },
                    ]}
                  />
                  <tbody>
                    {s.openOrders.map((o) => (
                      <tr key={o.id} className="h-9 border-b border-rule-2">
                        <td className="pl-4.5">
                          <Link to={`/orders/${o.id}`} className="font-semibold underline">
                            {o.name}
                          </Link>{" "}
                          <span className="text-xs text-ink-3">{o.storeName}</span>
                        </td>
                        <td className="px-2">
                          <StateSquare state={o.state} />
                        </td>
                        <td className="px-2">
                          {o.placed ? (
                            <OrderStrip lines={o.lines} linesIn={o.linesIn} linesLate={o.linesLate} />
                          ) : (
                            <span className="text-xs text-ink-3">not sent</span>
                          )}
                        </td>
                        <td className={`px-2 text-right ${o.placed && o.linesLate ? "font-semibold text-signal" : ""}`}>
                          {o.nextDue ? w.day(o.nextDue, false) : "·"}
                        </td>
                        <td className="figure pr-4.5 text-right">{w.money(o.net, o.currency)}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              ),
            )}
          {seesOrders &&
            part(
              "Agreements",
              s.agreements.length === 0
                ? none("No blanket order is in force.")
                : s.agreements.map((b) => (
                    <p key={b.id} className="flex min-h-6 flex-wrap items-center gap-x-3 px-4.5">
                      <Link to={`/orders/${b.id}`} className="font-semibold underline">
                        {b.title || b.name}
                      </Link>
                      <span className="text-ink-2">
                        {b.name}, until {w.day(b.ends, false)}
                      </span>
                      <span>
                        {b.lines
                          .flatMap((l) => (l.warnings[0] ? [`${l.words}: ${l.warnings[0].kind}`] : []))
                          .join("; ") || <span className="text-ink-3">on course</span>}
                      </span>
                    </p>
                  )),
            )}
          {part(
            `Price list, ${count(s.sold.length, "item")}`,
            s.sold.length === 0 ? (
              none("They sell us nothing that is on record.")
            ) : (
              <table className="w-full">
                <caption className="sr-only">Price list</caption>
                <Heads
                  heads={[
                    { label: "Item" },
                    { label: "Theirs" },
                    { label: `From, ${s.currency}`, align: "right" },
                    { label: "Lead time", align: "right" },
                    { label: "Preferred", hidden: true },
                  ]}
                />
                <tbody>
                  {s.sold.map((i) => (
                    <tr key={i.item} className="h-9 border-b border-rule-2">
                      <td className="pl-4.5">
                        <Link to={`/items/${i.item}`} className="underline decoration-rule">
                          {i.name}
                        </Link>{" "}
                        <span className="code">{i.code}</span>
                      </td>
                      <td className="code px-2">{i.theirCode}</td>
                      <td className="figure px-2 text-right">
                        {i.breaks.length
                          ? i.breaks
                              .slice(0, 3)
                              .map((b) => `${w.quantity(b.from)}: ${w.price(b.price, s.currency)}`)
                              .join("  ")
                          : "no price"}{" "}
                        <span className="font-sans text-xs text-ink-3">{i.unit}</span>
                      </td>
                      <td className="px-2 text-right">{count(i.leadDays, "day")}</td>
                      <td className="pr-4.5 text-right text-xs text-ink-3">{i.preferred ? "preferred" : ""}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            ),
          )}
          {seesOrders &&
            part(
              "Last dealings",
              <ul className="px-4.5">
                {s.dealings.map((d, i) => (
                  <li key={i} className="flex min-h-6 items-center gap-3">
                    <span className="w-24 shrink-0 text-ink-2">{w.day(d.at, false)}</span>
                    <Link to={d.href} className="underline">
                      {d.what}
                    </Link>
                    <span className="truncate text-ink-3">{d.about}</span>
                  </li>
                ))}
                {s.dealings.length === 0 && <li className="text-ink-2">None yet.</li>}
              </ul>,
            )}
        </div>
      }
      slip={
        <>
          <SlipPart title="People">
            <ul className="border border-rule bg-sheet">
              {s.people.map((c) => (
                <li key={c.id} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
                  <div className="flex items-baseline gap-2">
                    <span className="min-w-0 flex-1">
                      <b className="font-semibold">{c.name || c.mail}</b>
                      <span className="block truncate text-xs text-ink-2">
                        {[c.title, c.name ? c.mail : "", c.phone].filter(Boolean).join(" · ")}
                      </span>
                      <span className="block text-2xs text-ink-3">
                        {[c.forOrders && "orders", c.forQuotes && "prices", c.forInvoices && "invoices"]
                          .filter(Boolean)
                          .join(", ") || "gets nothing"}
                      </span>
                    </span>
                    {mayKeep && (
                      <>
                        <button
                          type="button"
                          className="text-xs underline"
                          aria-label={`Change ${c.name || c.mail}`}
                          onClick={() => setEditing(editing === c.id ? null : c.id)}
                        >
                          Change
                        </button>
                        <button
                          type="button"
                          className="text-xs underline"
                          aria-label={`Take off ${c.name || c.mail}`}
                          onClick={() =>
                            submit({ do: "drop contact", contact: String(c.id), key: newKey() }, { method: "post" })
                          }
                        >
                          Take off
                        </button>
                      </>
                    )}
                  </div>
                  {editing === c.id && <ContactForm supplier={s.id} contact={c} />}
                </li>
              ))}
              {s.people.length === 0 && (
                <li className="px-2.5 py-1 font-semibold text-signal">No address for orders yet.</li>
              )}
            </ul>
            {mayKeep &&
              (editing === "new" ? (
                <ContactForm key={s.people.length} supplier={s.id} />
              ) : (
                <button type="button" className="mt-1 text-xs underline" onClick={() => setEditing("new")}>
                  Add somebody
                </button>
              ))}
          </SlipPart>
          <SlipPart title="Addresses and tax">
            <p className="whitespace-pre-line">{s.address || "no address"}</p>
            {s.returnAddress && <p className="mt-1 text-ink-2">Returns: {s.returnAddress}</p>}
            {s.payAddress && <p className="mt-1 text-ink-2">Paid at: {s.payAddress}</p>}
            <p className="mt-1 text-ink-2">
              {s.taxNumber && `Tax number ${s.taxNumber}. `}
              {s.taxed ? "Tax is on their invoice." : "Tax is ours to account for."}
            </p>
            {s.notes && <p className="mt-1 border-l-2 border-ink pl-3 whitespace-pre-line">{s.notes}</p>}
            {mayKeep && (
              <Change label="Change name, addresses, tax, notes">
                <RecordFields supplier={s} />
              </Change>
            )}
          </SlipPart>
          <SlipPart title="How they are paid and ship">
            <p>
              {termsWords(s.terms)}
              {s.deliveryTerms && `; ${deliveryWords(s.deliveryTerms, s.deliveryPlace)}`}
              {s.carrier && `; by ${s.carrier}`}.
            </p>
            {mayKeep && (
              <Change label="Change how they are paid and ship">
                <PayForm supplier={s} />
                <CurrencyForm supplier={s} currencies={currencies} />
              </Change>
            )}
          </SlipPart>
          <SlipPart title="What they ask of an order">
            <p>{termsText(s, w)}</p>
            {mayKeep && (
              <Change label="Change what they ask, or block them">
                <AsksForm supplier={s} />
              </Change>
            )}
          </SlipPart>
          <SlipPart title="When they work and deliver">
            <p>
              Lead times in {s.leadKind} days
              {s.cutOff !== null && `; from ${s.cutOff}:00 on, an order counts as sent a day later`}
              {s.region && `; holidays of ${s.region}`}
              {s.buyerName && `. Looked after by ${s.buyerName}`}.
            </p>
            {mayKeep && (
              <Change label="Change their days">
                <DaysForm supplier={s} regions={regions} buyers={buyers} />
              </Change>
            )}
          </SlipPart>
          <SlipPart title="Text on every order to them">
            <p className="text-ink-2">{s.text || "none of their own"}</p>
            {mayKeep && (
              <Change label="Change the text">
                <RecordForm
                  key={s.text}
                  does="text"
                  fields={{ supplier: s.id }}
                  send="Keep"
                  className="mt-2 flex flex-col gap-2"
                >
                  {(at) => (
                    <Field label="Text" problem={at("text")}>
                      {(a) => (
                        <textarea
                          {...a}
                          name="text"
                          rows={3}
                          maxLength={2000}
                          className="entry"
                          defaultValue={s.text}
                        />
                      )}
                    </Field>
                  )}
                </RecordForm>
              </Change>
            )}
          </SlipPart>
          <Attachments at={`/suppliers/${s.id}`} files={s.files} mayAttach={mayKeep} mayTakeOff={mayKeep} />
        </>
      }
      tally={
        <TallyLine
          act={
            mayWrite && !s.blocked ? (
              <ButtonLink look="main" to={`/orders/new?supplier=${s.id}`}>
                Write an order to them
              </ButtonLink>
            ) : undefined
          }
        >
          <span>{count(s.openOrders.length, "open order")}</span>
          <a className="underline" href={`/suppliers/${s.id}/prices.csv`}>
            Price list, CSV
          </a>
          <a className="underline" href={`/suppliers/${s.id}/prices.xlsx`}>
            XLSX
          </a>
        </TallyLine>
      }
    />
  );
}

function Change({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-xs underline">{label}</summary>
      {children}
    </details>
  );
}
