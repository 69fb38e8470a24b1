import { redirect, useLoaderData } from "react-router";
import { keepItem } from "../../../server/acts/records/keep-item";
import { accountChoices } from "../../../server/queries/choices";
import { readUnits } from "../../../server/queries/records/item";
import { RecordForm } from "../../ui/form";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { act, page } from "../../web/page";
import { ItemFields } from "./item-fields";

export const loader = page("keep items", ({ db }) => ({
  units: readUnits(db),
  accounts: accountChoices(db),
}));

export const action = act("keep items", (desk, input) => {
  const made = keepItem(desk, { ...input, item: "" });
  if (made.ok) throw redirect(`/items/${made.value.item}?part=suppliers`);
  return made;
});

/** A new item; who sells it and who keeps it come next. */
export default function NewItem() {
  const { units, accounts } = useLoaderData<typeof loader>();
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="New item" sub="its suppliers and stores come next" />
          <div className="border-t-2 border-ink px-4.5 py-4">
            <RecordForm<"make">
              does="make"
              send="Make the item"
              className="grid max-w-3xl grid-cols-3 gap-4 max-md:grid-cols-1"
            >
              {(at) => <ItemFields head={null} units={units} accounts={accounts} at={at} />}
            </RecordForm>
          </div>
        </div>
      }
      tally={<TallyLine />}
    />
  );
}
