import { useActionData, useLoaderData, useSubmit } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import { moneyText } from "../../../core/numbers/money";
import { keepStoreDays } from "../../../server/acts/records/keep-calendar";
import { keepCompany, LOCALES } from "../../../server/acts/settings/keep-company";
import { keepOurAccount } from "../../../server/acts/settling/keep-account";
import { regions } from "../../../server/queries/calendars";
import { readStores, theCompany } from "../../../server/queries/company";
import { readPayFrom } from "../../../server/queries/settling/pay-lists";
import { Button } from "../../ui/button";
import { Field, Problems, problemAt, TextField } from "../../ui/field";
import { RecordForm, RegionField, SelectField, WeekdayField } from "../../ui/form";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { setClock } from "../../web/house";
import { actions, type PageActs, page } from "../../web/page";
import { AccountFields } from "../records/account-part";

const YES_NO = ["yes", "no"].map((v) => ({ value: v, label: v }));

export const loader = page("keep settings", ({ db }) => {
  const company = theCompany(db);
  const stores = readStores(db);
  const named = regions();
  return {
    company,
    pays: readPayFrom(db),
    stores,
    regions: named,
    locales: LOCALES.map((value) => ({ value, label: localeName(value) })),
    countries: named.filter((r) => !r.code.includes("-")).map((r) => ({ value: r.code, label: r.name })),
    zones: Intl.supportedValuesOf("timeZone"),
  };
});

/** "German (Germany): 1.234,50": people choose by what they see. */
const localeName = (locale: string) =>
  `${new Intl.DisplayNames("en", { type: "language" }).of(locale)}: ${new Intl.NumberFormat(locale, { minimumFractionDigits: 2 }).format(1234.5)}`;

const settingsActs = {
  company: (desk, input) => {
    const kept = keepCompany(desk, input);
    if (kept.ok) setClock(String(input.timeZone ?? ""));
    return kept;
  },
  account: keepOurAccount,
  "store days": (desk, input) => keepStoreDays(desk, { ...input, receives: input["receives[]"] ?? [] }),
} satisfies PageActs;
type SettingsWord = keyof typeof settingsActs;
export const action = actions("keep settings", settingsActs);

/** The company as it stands on papers, and how it reckons. */
export default function Settings() {
  const { company, pays, stores, regions, locales, countries, zones } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const at = (field: string) => problemAt(problems, field);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="Company" />
          <form
            className="grid grid-cols-[repeat(2,minmax(0,380px))] gap-4 border-t-2 border-ink px-4.5 py-4 max-md:grid-cols-1"
            onSubmit={(e) => {
              e.preventDefault();
              const body = new FormData(e.currentTarget);
              body.set("do", "company" satisfies SettingsWord);
              body.set("key", `${key()}company`);
              void submit(body, { method: "post" });
            }}
          >
            <OnPapers company={company} at={at} />
            <WrittenAs company={company} locales={locales} countries={countries} zones={zones} at={at} />
            <Reckons company={company} at={at} />
            <Problems problems={problems} />
            <div className="col-span-full">
              <Button type="submit" look="main" disabled={busy}>
                Keep the company
              </Button>
            </div>
          </form>
          <PaysFrom pays={pays} currency={company.currency} />
          <StoreDays stores={stores} regions={regions} />
        </div>
      }
      tally={
        <TallyLine trouble={problems?.[0]?.says}>
          <span role="status">{answer?.ok ? "Kept." : "Who signs how much stands under Spend ladders."}</span>
        </TallyLine>
      }
    />
  );
}

/** What stands on papers. */
function OnPapers({ company, at }: { company: Company; at: At }) {
  return (
    <>
      <TextField label="Company" name="name" defaultValue={company.name} maxLength={120} problem={at("name")} />
      <TextField
        label="Tax number"
        name="taxNumber"
        defaultValue={company.taxNumber}
        maxLength={40}
        problem={at("taxNumber")}
      />
      <Field label="Address, as it stands on papers" problem={at("address")}>
        {(a) => (
          <textarea {...a} name="address" rows={3} className="entry" defaultValue={company.address} maxLength={300} />
        )}
      </Field>
      <div className="flex flex-col gap-4">
        <TextField
          label="Purchasing’s e-mail"
          name="mail"
          type="email"
          defaultValue={company.mail}
          problem={at("mail")}
        />
        <Field label="Count what is on order as available" problem={at("countOnOrder")}>
          {(a) => (
            <select {...a} name="countOnOrder" className="entry" defaultValue={company.countOnOrder ? "yes" : "no"}>
              <option value="yes">yes</option>
              <option value="no">no</option>
            </select>
          )}
        </Field>
      </div>
    </>
  );
}

/** How figures, days and moments are written. */
function WrittenAs({
  company,
  locales,
  countries,
  zones,
  at,
}: Pick<Loaded, "company" | "locales" | "countries" | "zones"> & { at: At }) {
  return (
    <>
      <SelectField
        label="Figures and days are written as in"
        name="locale"
        defaultValue={company.locale}
        options={locales}
        problem={at("locale")}
      />
      <SelectField
        label="Country, for papers that programs read"
        name="country"
        defaultValue={company.country}
        options={[{ value: "", label: "not said" }, ...countries]}
        problem={at("country")}
      />
      <SelectField
        label="Time zone"
        name="timeZone"
        defaultValue={company.timeZone}
        options={[
          { value: "", label: "where the server stands" },
          ...zones.map((z) => ({ value: z, label: z.replaceAll("_", " ") })),
        ]}
        problem={at("timeZone")}
        hint="days begin, cut-off hours pass and moments are shown by its clock"
      />
    </>
  );
}

/** By what rules it reckons. */
function Reckons({ company, at }: { company: Company; at: At }) {
  return (
    <>
      <SelectField
        label="Budgets count what is ordered"
        name="budgetBy"
        defaultValue={company.budgetBy}
        options={[
          { value: "due", label: "in the period in which it is due" },
          { value: "ordered", label: "in the period in which it is ordered" },
        ]}
        problem={at("budgetBy")}
      />
      <SelectField
        label="Jobs marked for direct delivery write their orders"
        name="directOrders"
        defaultValue={company.directOrders ? "yes" : "no"}
        options={YES_NO}
        problem={at("directOrders")}
        hint="as drafts, where whoever keeps the job may write orders"
      />
      <SelectField
        label="Count what jobs give back as supply"
        name="countOutput"
        defaultValue={company.countOutput ? "yes" : "no"}
        options={YES_NO}
        problem={at("countOutput")}
        hint="such as a rebuilt pump, on the day it should be there"
      />
      <SelectField
        label="Count what suppliers have on our shelves"
        name="countsTheirs"
        defaultValue={company.countsTheirs ? "yes" : "no"}
        options={YES_NO}
        problem={at("countsTheirs")}
        hint="consigned goods are available; what its supplier refills is bought for what is lacking alone"
      />
      <SelectField
        label="Buy what a job lacks for that job"
        name="tieJobs"
        defaultValue={company.tieJobs ? "yes" : "no"}
        options={YES_NO}
        problem={at("tieJobs")}
        hint="yes ties it by itself when the job is saved"
      />
      <TextField
        label="Goods should be there, % of the time"
        name="serviceLevel"
        defaultValue={decimalText(company.serviceLevel, 2)}
        inputMode="decimal"
        problem={at("serviceLevel")}
        hint="for the suggested reorder points"
      />
      <TextField
        label="Holding stock costs, % of its value a year"
        name="holdingRate"
        defaultValue={decimalText(company.holdingRate, 2)}
        inputMode="decimal"
        problem={at("holdingRate")}
        hint="weighed where an order is filled up with needs of later weeks"
      />
    </>
  );
}

type Loaded = ReturnType<typeof useLoaderData<typeof loader>>;
type Company = Loaded["company"];
type At = (field: string) => string | undefined;

/** What suppliers are paid from, and when it takes two. */
function PaysFrom({ pays, currency }: { pays: Loaded["pays"]; currency: string }) {
  return (
    <section className="border-t border-rule px-4.5 py-4" aria-label="What suppliers are paid from">
      <h2 className="mb-2 text-lg font-bold">What suppliers are paid from</h2>
      <RecordForm<SettingsWord>
        does="account"
        send="Keep the account"
        className="grid max-w-3xl grid-cols-3 items-start gap-4 max-md:grid-cols-1"
      >
        {(at) => (
          <>
            <AccountFields account={pays} at={at} />
            <TextField
              label={`A second person releases above, ${currency}`}
              name="releaseFrom"
              defaultValue={moneyText({ minor: pays.releaseFrom, currency })}
              inputMode="decimal"
              maxLength={20}
              problem={at("releaseFrom")}
              hint="of a pay list; nought, and it always takes two"
            />
          </>
        )}
      </RecordForm>
    </section>
  );
}

function StoreDays({ stores, regions }: { stores: Loaded["stores"]; regions: Loaded["regions"] }) {
  return (
    <section className="border-t border-rule px-4.5 py-4" aria-label="When stores take goods in">
      <h2 className="mb-2 text-lg font-bold">When stores take goods in</h2>
      <div className="flex flex-col gap-4">
        {stores.map((s) => (
          <RecordForm<SettingsWord>
            key={s.id}
            does="store days"
            fields={{ store: s.id }}
            send={`Keep ${s.name}`}
            className="grid max-w-3xl grid-cols-[140px_minmax(0,1fr)_220px] items-start gap-x-4 max-md:grid-cols-1"
          >
            {(fault) => (
              <>
                <b className="pt-5">{s.name}</b>
                <WeekdayField label="Receives on" name="receives" days={s.receives} problem={fault("receives")} />
                <RegionField region={s.region} regions={regions} problem={fault("region")} />
                <label className="col-start-2 flex items-center gap-2 pt-2">
                  <input type="checkbox" name="blind" defaultChecked={s.blind === 1} className="accent-harbour" />
                  counts blind: what is expected is shown once something was counted
                </label>
              </>
            )}
          </RecordForm>
        ))}
      </div>
    </section>
  );
}
