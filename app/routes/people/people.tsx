import { useActionData, useLoaderData, useSubmit } from "react-router";
import { count } from "../../../core/text";
import { dropAbsence, keepAbsence } from "../../../server/acts/settings/keep-absence";
import { keepPerson } from "../../../server/acts/settings/keep-person";
import { regions } from "../../../server/queries/calendars";
import { departmentChoices, storeChoices } from "../../../server/queries/choices";
import { readAllAbsences, readPeople } from "../../../server/queries/people/people";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { Button } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { actions, type PageActs, page } from "../../web/page";
import { Absences } from "./absences";
import { PersonForm } from "./person-form";

export const loader = page("keep people", ({ db, day }) => {
  return {
    rows: readPeople(db),
    absences: readAllAbsences(db, day),
    others: signerChoices(db, day, []),
    stores: storeChoices(db),
    departments: departmentChoices(db),
    regions: regions(),
  };
});

const peopleActs = {
  keep: (desk, input) => keepPerson(desk, { ...input, roles: input["roles[]"] ?? [], works: input["works[]"] ?? [] }),
  away: keepAbsence,
  here: dropAbsence,
} satisfies PageActs;
export const action = actions("keep people", peopleActs);

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Who may sign in, and what each may do. */
export default function People() {
  const { rows, absences, others, stores, departments, regions } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const adding = at === "new";
  const here = adding ? null : (rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null);
  const key = useSubmissionKey(rows);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  useKeys([{ key: "n", label: "new person", run: () => setAt("new") }]);
  const columns: SheetColumn<Row>[] = [
    { key: "name", head: "Person", cell: (r) => <Named name={r.name} code={r.login} /> },
    { key: "title", head: "Title", cell: (r) => r.title },
    { key: "roles", head: "Roles", cell: (r) => r.roles },
    { key: "store", head: "Store", cell: (r) => r.storeName ?? "–" },
    { key: "active", head: "Signs in", cell: (r) => (r.active ? "yes" : "no") },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="People" sub={count(rows.length, "person", "people")} />
          <Sheet
            label="People"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
          />
        </>
      }
      slip={
        <>
          <PersonForm
            key={`${here?.id ?? "new"}/${rows.length}`}
            person={here}
            among={rows}
            stores={stores}
            departments={departments}
            regions={regions}
            problems={problems}
            saved={answer?.ok ?? false}
            onSend={(body) => {
              body.set("key", `${key()}person`);
              void submit(body, { method: "post" });
            }}
          />
          {here && (
            <Absences
              key={here.id}
              person={here.id}
              absences={absences.filter((a) => a.person === here.id)}
              others={others.filter((p) => p.id !== here.id)}
            />
          )}
        </>
      }
      tally={
        <TallyLine
          act={
            <>
              <Button hint="N" onClick={() => setAt("new")}>
                New person
              </Button>
              <Button look="main" type="submit" form="person" disabled={busy}>
                {here ? "Keep" : "Add"}
              </Button>
            </>
          }
        >
          <span>
            <b>{rows.filter((r) => r.active).length}</b> may sign in
          </span>
        </TallyLine>
      }
    />
  );
}
