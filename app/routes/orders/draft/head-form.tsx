import { decimalText } from "../../../../core/numbers/decimal";
import { INCOTERMS, payBy } from "../../../../core/orders/terms";
import type { DraftChoices } from "../../../../server/queries/orders/draft";
import { Button } from "../../../ui/button";
import { DateField } from "../../../ui/day-entry";
import { Field, TextField } from "../../../ui/field";
import { SelectField } from "../../../ui/form";
import { useWriting } from "../../../ui/locale";
import { percentText } from "./lines";
import type { Draft, HeadText } from "./use-draft";

interface Props {
  draft: Draft;
  choices: DraftChoices;
  problem: (field: string) => string | undefined;
  mayKeepSupplier: boolean;
  /** Writes what this order says otherwise into the supplier's record. */
  onForGood: () => void;
}

type Terms = NonNullable<HeadText["terms"]>;

type PartProps = Pick<Props, "draft" | "choices" | "problem">;

/** What stands in a field of the head: what was typed, else what is kept. */
function useHeadFields(draft: Props["draft"]) {
  return {
    text: (field: string, kept: string) => {
      const typed = draft.head[field];
      return typeof typed === "string" ? typed : kept;
    },
    put: (field: string) => (e: { target: { value: string } }) => draft.setHead({ [field]: e.target.value }),
  };
}

/** All that the head of an order says, kept as it is typed. */
export function HeadForm({ mayKeepSupplier, onForGood, ...part }: Props) {
  const { head } = part.draft.facts;
  return (
    <section aria-label="Head of the order" className="border-b border-rule bg-band px-4.5 py-3">
      <div className="grid grid-cols-4 gap-x-4 gap-y-2.5 max-lg:grid-cols-2">
        <CalledAndHolds {...part} />
        <KindAndPeople {...part} />
        <ReferencesAndDays {...part} />
        <PaymentAndMoney {...part} />
        <DeliveryTerms {...part} />
        <ForWhom {...part} />
        <DeliverTo {...part} />
        <Texts {...part} />
      </div>
      {Object.values(head.own).some(Boolean) && (
        <OwnTerms draft={part.draft} mayKeepSupplier={mayKeepSupplier} onForGood={onForGood} />
      )}
    </section>
  );
}

/** What a blanket order or a list is called, and how long it holds. */
function CalledAndHolds({ draft, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  const blanket = head.kind === "blanket";
  return (
    <>
      {(blanket || head.kind === "standing") && (
        <TextField
          className="col-span-2"
          label={blanket ? "What it is called" : "What the list is called"}
          data-at="head title"
          value={text("title", head.title)}
          onChange={put("title")}
          maxLength={120}
          problem={problem("title")}
        />
      )}
      {blanket && (
        <>
          <DateField
            label="Holds from"
            value={text("starts", head.starts ?? "")}
            onDay={(starts) => starts && draft.setHead({ starts })}
            problem={problem("starts")}
          />
          <DateField
            label="to"
            value={text("ends", head.ends ?? "")}
            onDay={(ends) => ends && draft.setHead({ ends })}
            problem={problem("ends")}
          />
        </>
      )}
    </>
  );
}

/** What kind it is, who writes it, to whom, and for which store. */
function KindAndPeople({ draft, choices, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  return (
    <>
      <SelectField
        label="Kind"
        value={text("kind", head.kind === "call-off" ? "one-off" : head.kind)}
        onChange={put("kind")}
        disabled={head.number !== null}
        options={[
          { value: "one-off", label: head.kind === "call-off" ? "call-off" : "one-off order" },
          { value: "direct", label: "direct delivery" },
          { value: "blanket", label: "blanket order" },
          { value: "standing", label: "standing list" },
        ]}
        problem={problem("kind")}
      />
      <SelectField
        label="Written in the name of"
        value={text("buyer", String(head.writer))}
        onChange={put("buyer")}
        options={choices.buyers.map((b) => ({ value: b.id, label: b.name }))}
        problem={problem("buyer")}
        hint={head.helperName ? `by ${head.helperName}` : undefined}
      />
      <SelectField
        label="For their"
        value={text("contact", head.contact === null ? "" : String(head.contact))}
        onChange={put("contact")}
        options={[
          { value: "", label: "whoever takes orders" },
          ...choices.contacts.map((c) => ({ value: c.id, label: c.name })),
        ]}
        problem={problem("contact")}
      />
      <SelectField
        label="Store"
        value={text("store", String(head.store))}
        onChange={put("store")}
        options={choices.stores.map((s) => ({ value: s.id, label: s.name }))}
        problem={problem("store")}
      />
    </>
  );
}

/** Numbers of both sides, and the days it is bound to. */
function ReferencesAndDays({ draft, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  return (
    <>
      <TextField
        label="Our reference"
        data-at="head ourReference"
        value={text("ourReference", head.ourReference)}
        onChange={put("ourReference")}
        maxLength={60}
        problem={problem("ourReference")}
      />
      <TextField
        label="Their reference"
        data-at="head theirReference"
        value={text("theirReference", head.theirReference)}
        onChange={put("theirReference")}
        maxLength={60}
        problem={problem("theirReference")}
      />
      <TextField
        label="Number elsewhere"
        data-at="head brought"
        value={text("brought", head.brought ?? "")}
        onChange={put("brought")}
        maxLength={40}
        problem={problem("brought")}
        hint="kept beside ours"
      />
      {head.kind !== "blanket" && head.kind !== "standing" && (
        <DateField
          label="All lines by"
          value={text("required", head.required)}
          onDay={(required) => draft.setHead({ required })}
          problem={problem("required")}
          hint="each line may say another day"
        />
      )}
      <DateField
        label="Void unless accepted by"
        value={text("validUntil", head.validUntil ?? "")}
        onDay={(validUntil) => draft.setHead({ validUntil })}
        problem={problem("validUntil")}
      />
    </>
  );
}

/** When it is paid, in which currency, and what the whole is less. */
function PaymentAndMoney({ draft, choices, problem }: PartProps) {
  const w = useWriting();
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  const terms: Terms = draft.head.terms ?? {
    days: String(head.terms.days),
    from: head.terms.from,
    earlyPercent: percentText(head.terms.earlyPercent),
    earlyDays: head.terms.earlyDays ? String(head.terms.earlyDays) : "0",
  };
  const setTerms = (change: Partial<Terms>) => draft.setHead({ terms: { ...terms, ...change } });
  return (
    <>
      <div className="col-span-2 grid grid-cols-[72px_1fr_72px_72px] items-start gap-2">
        <TextField
          label="Pay within"
          data-at="head terms"
          value={terms.days}
          onChange={(e) => setTerms({ days: e.target.value })}
          inputMode="numeric"
          maxLength={3}
          problem={problem("terms.days")}
          hint={`today’s: ${w.day(payBy(head.terms, w.today), false)}`}
        />
        <SelectField
          label="days from"
          value={terms.from}
          onChange={(e) => setTerms({ from: e.target.value })}
          options={[
            { value: "invoice", label: "the invoice" },
            { value: "end of month", label: "the end of its month" },
          ]}
        />
        <TextField
          label="early %"
          value={terms.earlyPercent}
          onChange={(e) => setTerms({ earlyPercent: e.target.value })}
          inputMode="decimal"
          maxLength={6}
          problem={problem("terms.earlyPercent")}
        />
        <TextField
          label="in days"
          value={terms.earlyDays}
          onChange={(e) => setTerms({ earlyDays: e.target.value })}
          inputMode="numeric"
          maxLength={3}
          problem={problem("terms.earlyDays")}
        />
      </div>
      <SelectField
        label="Currency"
        value={text("currency", head.currency)}
        onChange={put("currency")}
        options={[...new Set([head.currency, ...choices.currencies])].map((c) => ({ value: c, label: c }))}
        problem={problem("currency")}
        hint={
          head.rate !== null && head.currency !== w.home
            ? `1 ${head.currency} = ${decimalText(head.rate, 6)} ${w.home}, of today`
            : undefined
        }
      />
      <TextField
        label="Whole order less %"
        data-at="head discount"
        value={text("discount", percentText(head.discount))}
        onChange={put("discount")}
        inputMode="decimal"
        maxLength={7}
        problem={problem("discount")}
      />
    </>
  );
}

/** By which rule it is delivered, and by whom. */
function DeliveryTerms({ draft, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  const delivery = draft.head.delivery ?? {
    rule: head.deliveryTerms,
    place: head.deliveryPlace,
  };
  return (
    <>
      <SelectField
        label="Delivery terms"
        value={delivery.rule}
        onChange={(e) => draft.setHead({ delivery: { ...delivery, rule: e.target.value } })}
        options={[
          { value: "", label: "nothing agreed" },
          ...Object.entries(INCOTERMS).map(([code, name]) => ({ value: code, label: `${code}, ${name}` })),
        ]}
        problem={problem("delivery.rule")}
      />
      <TextField
        label="at the named place"
        data-at="head delivery"
        value={delivery.place}
        onChange={(e) => draft.setHead({ delivery: { ...delivery, place: e.target.value } })}
        maxLength={120}
        problem={problem("delivery.place")}
      />
      <TextField
        label="Carrier"
        data-at="head carrier"
        value={text("carrier", head.carrier)}
        onChange={put("carrier")}
        maxLength={80}
        problem={problem("carrier")}
      />
    </>
  );
}

/** For which department it is signed. */
function ForWhom({ draft, choices, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  return (
    <>
      {choices.departments.length > 0 ? (
        <SelectField
          label="For the department"
          value={text("department", head.department === null ? "" : String(head.department))}
          onChange={put("department")}
          options={[
            { value: "", label: "whose needs it serves" },
            ...choices.departments.map((d) => ({ value: d.id, label: d.name })),
          ]}
          problem={problem("department")}
        />
      ) : (
        <span />
      )}
    </>
  );
}

/** Where it goes instead of the store, and whom a direct delivery serves. */
function DeliverTo({ draft, choices, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  return (
    <>
      {head.kind === "direct" && (
        <SelectField
          label="Delivered for"
          value={text("job", head.job === null ? "" : String(head.job))}
          onChange={put("job")}
          options={[{ value: "", label: "no job" }, ...choices.jobs.map((j) => ({ value: j.id, label: j.name }))]}
          problem={problem("job")}
        />
      )}
      <TextField
        label="Deliver to another name"
        data-at="head deliverName"
        value={text("deliverName", head.deliverName)}
        onChange={put("deliverName")}
        placeholder={`${head.storeName} store`}
        maxLength={120}
        problem={problem("deliverName")}
      />
      <Field label="and address" problem={problem("deliverAddress")} className="col-span-1">
        {(a) => (
          <textarea
            {...a}
            rows={2}
            maxLength={300}
            className="entry"
            data-at="head deliverAddress"
            placeholder={head.storeAddress}
            value={text("deliverAddress", head.deliverAddress)}
            onChange={put("deliverAddress")}
          />
        )}
      </Field>
    </>
  );
}

/** What stands on the paper besides its lines. */
function Texts({ draft, problem }: PartProps) {
  const { head } = draft.facts;
  const { text, put } = useHeadFields(draft);
  return (
    <>
      <Field label="Standing texts" problem={problem("texts")} className="col-span-2">
        {(a) => (
          <textarea
            {...a}
            rows={2}
            maxLength={2000}
            className="entry"
            data-at="head texts"
            value={text("texts", head.texts)}
            onChange={put("texts")}
          />
        )}
      </Field>
      <Field label="Note to the supplier, printed below the lines" problem={problem("note")} className="col-span-full">
        {(a) => (
          <textarea
            {...a}
            rows={2}
            maxLength={1000}
            className="entry"
            data-at="head note"
            value={text("note", head.note)}
            onChange={put("note")}
          />
        )}
      </Field>
    </>
  );
}

/** What of it is for this order alone, and not as the supplier's record says. */
function OwnTerms({ draft, mayKeepSupplier, onForGood }: Pick<Props, "draft" | "mayKeepSupplier" | "onForGood">) {
  const { head } = draft.facts;
  return (
    <div className="mt-2.5 flex flex-wrap items-center gap-3 text-xs">
      <span className="text-ink-2">
        For this order alone:{" "}
        {[
          head.own.terms && "payment",
          head.own.delivery && "delivery terms",
          head.own.carrier && "carrier",
          head.own.texts && "texts",
        ]
          .filter(Boolean)
          .join(", ")}
        .
      </span>
      <Button
        onClick={() =>
          draft.setHead({
            ...(head.own.terms ? { terms: null } : {}),
            ...(head.own.delivery ? { delivery: null } : {}),
            ...(head.own.carrier ? { carrier: null } : {}),
            ...(head.own.texts ? { texts: null } : {}),
          })
        }
      >
        As {head.supplierName}’s record says
      </Button>
      {mayKeepSupplier && <Button onClick={onForGood}>Keep it in their record for good</Button>}
    </div>
  );
}
