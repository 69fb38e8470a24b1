import { Link, useLoaderData } from "react-router";
import { termsWords } from "../../../core/orders/terms";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { regions } from "../../../server/queries/calendars";
import { buyerChoices } from "../../../server/queries/choices";
import { currenciesOf } from "../../../server/queries/company";
import { readSupplier } from "../../../server/queries/records/supplier";
import { readBalance } from "../../../server/queries/settling/balance";
import { readAccount } from "../../../server/queries/settling/pay-lists";
import { Attachments } from "../../parts/attachments";
import { ButtonLink } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { actions, idOf, notFound, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";
import { BalanceLine } from "../settling/balance-line";
import { AccountPart } from "./account-part";
import { supplierActs } from "./supplier-acts";
import { Agreements, Dealings, OpenOrders, PriceList } from "./supplier-dealings";
import { SupplierPeople } from "./supplier-people";
import { SupplierParts } from "./supplier-record";

export const loader = page("see suppliers", ({ db, params, day, person }) => {
  const supplier = readSupplier(db, idOf(params.id), day);
  if (!supplier) throw notFound("There is no such supplier.");
  const mayKeep = may(person.roles, "keep sourcing");
  return {
    supplier,
    mayKeep,
    mayWrite: may(person.roles, "write orders"),
    seesOrders: may(person.roles, "see orders"),
    seesInsight: may(person.roles, "see insight"),
    tolerances: may(person.roles, "see tolerances"),
    account: readAccount(db, supplier.id),
    keepsAccount: may(person.roles, "keep bank accounts"),
    balance: may(person.roles, "see invoices") ? readBalance(db, supplier.id, day) : null,
    regions: mayKeep ? regions() : [],
    currencies: mayKeep ? currenciesOf(db) : [],
    buyers: mayKeep ? buyerChoices(db) : [],
  };
});

/** Each act asks for its own right: buyers keep the record, accounts the bank account. */
export const action = actions("see suppliers", supplierActs, ({ params }) => ({ supplier: idOf(params.id) }));

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** A supplier on one page: what is open with them, what was agreed, what they sell, and how we deal with them. */
export default function Supplier() {
  const {
    supplier: s,
    mayKeep,
    mayWrite,
    seesOrders,
    seesInsight,
    tolerances,
    account,
    keepsAccount,
    balance,
    regions,
    currencies,
    buyers,
  } = useLoaderData<typeof loader>();
  const w = useWriting();
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
            {seesInsight && <ButtonLink to={`/suppliers/${s.id}/record`}>Their record</ButtonLink>}
          </SheetHead>
          <FactStrip
            facts={[
              ["Ordered, twelve months", `${w.amount(s.year.ordered)} in ${count(s.year.orders, "order")}`],
              ["Still to come", w.amount(s.year.open)],
              ["Pay", `${termsWords(s.terms)}, ${s.currency}`],
              ["Delivers", DAYS.filter((_, i) => s.delivers & (1 << i)).join(" ")],
            ]}
          />
          {balance && <BalanceLine balance={balance} className="border-b border-rule px-4.5 py-2" />}
          {seesOrders &&
            part(
              "Open orders",
              s.openOrders.length === 0 ? none("Nothing is open with them.") : <OpenOrders orders={s.openOrders} />,
            )}
          {seesOrders &&
            part(
              "Agreements",
              <>
                {s.agreements.length === 0 ? (
                  none("No blanket order is in force.")
                ) : (
                  <Agreements agreements={s.agreements} />
                )}
                <p className="px-4.5">
                  <Link className="inline-block min-h-6 underline" to={`/agreements?supplier=${s.id}`}>
                    Agreements about their goods on our shelves
                  </Link>
                </p>
              </>,
            )}
          {part(
            `Price list, ${count(s.sold.length, "item")}`,
            s.sold.length === 0 ? none("They sell us nothing that is on record.") : <PriceList supplier={s} />,
          )}
          {seesOrders && part("Last dealings", <Dealings dealings={s.dealings} />)}
        </div>
      }
      slip={
        <>
          <SupplierPeople supplier={s} mayKeep={mayKeep} />
          <SupplierParts supplier={s} mayKeep={mayKeep} regions={regions} currencies={currencies} buyers={buyers} />
          <AccountPart supplier={s.id} account={account} mayKeep={keepsAccount} />
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
          {tolerances && (
            <Link className="underline" to={`/tolerances?scope=supplier&supplier=${encodeURIComponent(s.code)}`}>
              What may be kept of deliveries
            </Link>
          )}
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
