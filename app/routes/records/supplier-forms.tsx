import type { PersonId, SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import { moneyText } from "../../../core/numbers/money";
import { LANGUAGE_CODES, LANGUAGES } from "../../../core/orders/papers";
import { INCOTERMS } from "../../../core/orders/terms";
import type { SupplierContact, SupplierRecord } from "../../../server/queries/records/supplier";
import type { SupplierRow } from "../../../server/queries/records/suppliers";
import { Field, TextField } from "../../ui/field";
import { RecordForm, RegionField, SelectField, WeekdayField } from "../../ui/form";
import type { SupplierWord } from "./supplier-acts";

/** What they ask of an order as a whole, and whether anything may be ordered there. */
export function AsksForm({ supplier: here }: { supplier: SupplierRow }) {
  return (
    <RecordForm<SupplierWord>
      key={here.id}
      does="terms"
      fields={{ supplier: here.id }}
      send="Keep"
      className="mt-2 flex flex-col gap-3"
    >
      {(at) => (
        <>
          <TextField
            label={`Least order, in ${here.currency}`}
            name="minimum"
            defaultValue={here.minimum ? moneyText({ minor: here.minimum, currency: here.currency }) : ""}
            inputMode="decimal"
            maxLength={20}
            problem={at("minimum")}
            hint="goods before tax"
          />
          <TextField
            label={`Freight for each order, in ${here.currency}`}
            name="freight"
            defaultValue={here.freight ? moneyText({ minor: here.freight, currency: here.currency }) : ""}
            inputMode="decimal"
            maxLength={20}
            problem={at("freight")}
          />
          <TextField
            label={`Carried free from, in ${here.currency}`}
            name="freeFrom"
            defaultValue={here.freeFrom ? moneyText({ minor: here.freeFrom, currency: here.currency }) : ""}
            inputMode="decimal"
            maxLength={20}
            problem={at("freeFrom")}
            hint="goods before tax; empty where it is never free"
          />
          <TextField
            label="Blocked, because"
            name="blocked"
            defaultValue={here.blocked}
            maxLength={200}
            problem={at("blocked")}
            hint="while this says why, nothing can be ordered there"
          />
        </>
      )}
    </RecordForm>
  );
}

/** When they work and deliver, and who looks after them. */
export function DaysForm({
  supplier: here,
  regions,
  buyers,
}: {
  supplier: SupplierRow;
  regions: readonly { code: string; name: string }[];
  buyers: readonly { id: PersonId; name: string }[];
}) {
  return (
    <RecordForm<SupplierWord>
      key={here.id}
      does="days"
      fields={{ supplier: here.id }}
      send="Keep"
      className="mt-2 flex flex-col gap-3"
    >
      {(at) => (
        <>
          <WeekdayField label="Delivers on" name="delivers" days={here.delivers} problem={at("delivers")} />
          <SelectField
            label="Lead times count"
            name="leadKind"
            defaultValue={here.leadKind}
            options={[
              { value: "calendar", label: "calendar days" },
              { value: "working", label: "working days" },
            ]}
            problem={at("leadKind")}
          />
          <RegionField region={here.region} regions={regions} problem={at("region")} />
          <TextField
            label="Cut-off hour"
            name="cutOff"
            defaultValue={here.cutOff ?? ""}
            inputMode="numeric"
            maxLength={2}
            problem={at("cutOff")}
            hint="orders sent from then on count as sent a day later"
          />
          <SelectField
            label="Looked after by"
            name="buyer"
            defaultValue={here.buyer ?? ""}
            options={[
              { value: "", label: "nobody in particular" },
              ...buyers.map((b) => ({ value: b.id, label: b.name })),
            ]}
            problem={at("buyer")}
          />
        </>
      )}
    </RecordForm>
  );
}

/** Who they are: name, addresses, tax and notes. */
export function RecordFields({ supplier: s }: { supplier: SupplierRecord }) {
  const area = (
    name: "address" | "returnAddress" | "payAddress" | "notes",
    label: string,
    at: string | undefined,
    rows = 2,
  ) => (
    <Field label={label} problem={at}>
      {(a) => (
        <textarea
          {...a}
          name={name}
          rows={rows}
          maxLength={name === "notes" ? 4000 : 300}
          className="entry"
          defaultValue={s[name]}
        />
      )}
    </Field>
  );
  return (
    <RecordForm<SupplierWord>
      key={s.id}
      does="record"
      fields={{ supplier: s.id }}
      send="Keep"
      className="mt-2 flex flex-col gap-3"
    >
      {(at) => (
        <>
          <TextField label="Name" name="name" defaultValue={s.name} maxLength={120} problem={at("name")} />
          {area("address", "Address for orders", at("address"))}
          {area("returnAddress", "Goods go back to, where it is another address", at("returnAddress"))}
          {area("payAddress", "Is paid at, where it is another address", at("payAddress"))}
          <TextField
            label="Tax number"
            name="taxNumber"
            defaultValue={s.taxNumber}
            maxLength={40}
            problem={at("taxNumber")}
          />
          <SelectField
            label="Tax"
            name="taxed"
            defaultValue={s.taxed ? "yes" : "no"}
            options={[
              { value: "yes", label: "is on their invoice" },
              { value: "no", label: "is ours to account for" },
            ]}
            problem={at("taxed")}
          />
          <SelectField
            label="Papers are written in"
            name="language"
            defaultValue={s.language}
            options={[
              { value: "", label: "our language" },
              ...LANGUAGE_CODES.map((l) => ({ value: l, label: LANGUAGES[l] })),
            ]}
            problem={at("language")}
          />
          {area("notes", "Notes, for ourselves", at("notes"), 4)}
        </>
      )}
    </RecordForm>
  );
}

/** Where they answer what they have and at what price; an empty address, and nobody asks them. */
export function StockServiceForm({ supplier: s }: { supplier: SupplierRecord }) {
  const kept = s.stockService;
  return (
    <RecordForm<SupplierWord>
      key={`${kept?.address}/${kept?.hasToken}`}
      does="stock service"
      fields={{ supplier: s.id }}
      send="Keep"
      className="mt-2 flex flex-col gap-3"
    >
      {(at) => (
        <>
          <TextField
            label="Address"
            name="address"
            type="url"
            defaultValue={kept?.address ?? ""}
            maxLength={300}
            problem={at("address")}
            hint="https://…, which takes questions as docs/exchange.md says; empty, and nobody asks them"
          />
          <TextField
            label={kept?.hasToken ? "Another token" : "Token"}
            name="token"
            type="password"
            autoComplete="off"
            maxLength={500}
            problem={at("token")}
            hint={
              kept?.hasToken
                ? "empty: the one that is kept stays, as long as the address is of the same place"
                : "goes out with each question, and is not shown again"
            }
          />
          {kept?.hasToken && (
            <label className="flex items-center gap-1.5">
              <input type="checkbox" name="noToken" className="size-[15px] accent-harbour" />
              without a token from now on
            </label>
          )}
        </>
      )}
    </RecordForm>
  );
}

/** Another currency, while nothing of theirs is written in the one before. */
export function CurrencyForm({ supplier: s, currencies }: { supplier: SupplierRecord; currencies: readonly string[] }) {
  return (
    <RecordForm<SupplierWord>
      key={s.currency}
      does="currency"
      fields={{ supplier: s.id }}
      send="Change the currency"
      className="mt-3 border-t border-rule pt-3"
    >
      {(at) => (
        <SelectField
          label="Currency of their prices"
          name="currency"
          defaultValue={s.currency}
          options={[...new Set([s.currency, ...currencies])].map((c) => ({ value: c, label: c }))}
          problem={at("currency")}
        />
      )}
    </RecordForm>
  );
}

/** How they are paid and ship: what every new order begins with. */
export function PayForm({ supplier: s }: { supplier: SupplierRecord }) {
  return (
    <RecordForm<SupplierWord>
      key={s.id}
      does="pay"
      fields={{ supplier: s.id }}
      send="Keep"
      className="mt-2 grid grid-cols-2 gap-3"
    >
      {(at) => (
        <>
          <TextField
            label="Pay within, days"
            name="days"
            defaultValue={s.terms.days}
            inputMode="numeric"
            maxLength={3}
            problem={at("days")}
          />
          <SelectField
            label="counted from"
            name="from"
            defaultValue={s.terms.from}
            options={[
              { value: "invoice", label: "the invoice" },
              { value: "end of month", label: "the end of its month" },
            ]}
          />
          <TextField
            label="Less %, paid early"
            name="earlyPercent"
            defaultValue={s.terms.earlyPercent ? decimalText(s.terms.earlyPercent, 2) : ""}
            inputMode="decimal"
            maxLength={6}
            problem={at("earlyPercent")}
          />
          <TextField
            label="within days"
            name="earlyDays"
            defaultValue={s.terms.earlyDays}
            inputMode="numeric"
            maxLength={3}
            problem={at("earlyDays")}
          />
          <SelectField
            label="Their invoices"
            name="selfBills"
            defaultValue={s.selfBills ? "yes" : "no"}
            options={[
              { value: "no", label: "come from them" },
              { value: "yes", label: "we write, as agreed with them, when goods come" },
            ]}
            problem={at("selfBills")}
          />
          <SelectField
            label="Delivery terms"
            name="rule"
            defaultValue={s.deliveryTerms}
            options={[
              { value: "", label: "nothing agreed" },
              ...Object.entries(INCOTERMS).map(([code, name]) => ({ value: code, label: `${code}, ${name}` })),
            ]}
            problem={at("rule")}
          />
          <TextField
            label="at the named place"
            name="place"
            defaultValue={s.deliveryPlace}
            maxLength={120}
            problem={at("place")}
          />
          <TextField
            className="col-span-2"
            label="Carrier"
            name="carrier"
            defaultValue={s.carrier}
            maxLength={80}
            problem={at("carrier")}
          />
        </>
      )}
    </RecordForm>
  );
}

/** A person of theirs: which papers go to them. */
export function ContactForm({ supplier, contact }: { supplier: SupplierId; contact?: SupplierContact }) {
  const tick = (name: string, label: string, on: boolean) => (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" name={name} defaultChecked={on} className="accent-harbour" />
      {label}
    </label>
  );
  return (
    <RecordForm<SupplierWord>
      key={contact?.id ?? "new"}
      does="contact"
      fields={{ supplier, contact: contact?.id ?? "" }}
      send={contact ? "Keep" : "Add them"}
      className="mt-2 grid grid-cols-2 gap-3"
    >
      {(at) => (
        <>
          <TextField label="Name" name="name" defaultValue={contact?.name} maxLength={80} problem={at("name")} />
          <TextField
            label="What they do"
            name="title"
            defaultValue={contact?.title}
            maxLength={80}
            problem={at("title")}
          />
          <TextField
            label="E-mail"
            name="mail"
            type="email"
            defaultValue={contact?.mail}
            maxLength={200}
            problem={at("mail")}
          />
          <TextField
            label="Telephone"
            name="phone"
            defaultValue={contact?.phone}
            maxLength={40}
            problem={at("phone")}
          />
          <fieldset className="col-span-2 flex flex-wrap gap-x-4">
            <legend className="mb-1 text-xs font-semibold text-ink-2">Gets</legend>
            {tick("forOrders", "orders", contact?.forOrders ?? true)}
            {tick("forQuotes", "requests for prices", contact?.forQuotes ?? false)}
            {tick("forInvoices", "questions about invoices", contact?.forInvoices ?? false)}
          </fieldset>
        </>
      )}
    </RecordForm>
  );
}
