import { redirect, useLoaderData } from "react-router";
import { makeSupplier } from "../../../server/acts/records/make-supplier";
import { currenciesOf } from "../../../server/queries/company";
import { Field, TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { act, page } from "../../web/page";

export const loader = page("keep sourcing", ({ db }) => ({ currencies: currenciesOf(db) }));

export const action = act("keep sourcing", (desk, input) => {
  const made = makeSupplier(desk, input);
  if (made.ok) throw redirect(`/suppliers/${made.value.supplier}`);
  return made;
});

/** A new supplier; terms, days and prices come next, on their page. */
export default function NewSupplier() {
  const { currencies } = useLoaderData<typeof loader>();
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="New supplier" sub="terms, days and prices come next" />
          <div className="border-t-2 border-ink px-4.5 py-4">
            <RecordForm<"make">
              does="make"
              send="Make the supplier"
              className="grid max-w-3xl grid-cols-2 items-start gap-4 max-md:grid-cols-1"
            >
              {(at) => (
                <>
                  <TextField label="Name" name="name" maxLength={120} problem={at("name")} />
                  <TextField label="Code" name="code" maxLength={40} problem={at("code")} hint="short, such as TTL" />
                  <Field label="Address for orders" problem={at("address")}>
                    {(a) => <textarea {...a} name="address" rows={3} maxLength={300} className="entry" />}
                  </Field>
                  <SelectField
                    label="Currency of their prices"
                    name="currency"
                    options={currencies.map((c) => ({ value: c, label: c }))}
                    problem={at("currency")}
                  />
                  <TextField label="Who gets the orders" name="contact" maxLength={80} problem={at("contact")} />
                  <TextField
                    label="Their e-mail address"
                    name="mail"
                    type="email"
                    maxLength={200}
                    problem={at("mail")}
                    hint="can come later; nothing is placed before"
                  />
                </>
              )}
            </RecordForm>
          </div>
        </div>
      }
      tally={<TallyLine />}
    />
  );
}
