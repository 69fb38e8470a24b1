import { redirect, useLoaderData } from "react-router";
import { keepJob } from "../../../server/acts/jobs/keep-job";
import { colleagueChoices, openBudgetChoices, storeChoices } from "../../../server/queries/choices";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { act, page, readJson } from "../../web/page";
import { JobForm } from "./job-form";

export const loader = page("keep jobs", ({ db, day }) => ({
  stores: storeChoices(db),
  people: colleagueChoices(db, 0),
  budgets: openBudgetChoices(db, day),
}));

export const action = act("keep jobs", (desk, input) => {
  const made = keepJob(desk, {
    ...input,
    job: "",
    lines: readJson(input.lines) ?? [],
    outputs: readJson(input.outputs) ?? [],
  });
  if (made.ok) throw redirect(`/jobs/${made.value.job}`);
  return made;
});

export default function NewJob() {
  const { stores, people, budgets } = useLoaderData<typeof loader>();
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8 [&_form>div:last-child]:px-4.5">
          <SheetHead title="New job or customer order" />
          <JobForm job={null} stores={stores} people={people} budgets={budgets} send="Make the job" />
        </div>
      }
      tally={<TallyLine />}
    />
  );
}
