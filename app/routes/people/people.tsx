import { useEffect, useState } from "react";
import { useActionData, useLoaderData, useSubmit } from "react-router";
import { ROLES, type Role } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { dropAbsence, keepAbsence } from "../../../server/acts/settings/keep-absence";
import { keepPerson } from "../../../server/acts/settings/keep-person";
import { regions } from "../../../server/queries/calendars";
import { departmentChoices, storeChoices } from "../../../server/queries/choices";
import { readAllAbsences, readPeople } from "../../../server/queries/people/people";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { Button } from "../../ui/button";
import { Field, Problems, problemAt, TextField } from "../../ui/field";
import { RegionField, SelectField, WeekdayField } from "../../ui/form";
import { SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { HourField } from "../../ui/hour-entry";
import { useKeys } from "../../ui/keys";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { act, page } from "../../web/page";
import { Absences } from "./absences";

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

export const action = act<unknown>("keep people", (desk, input) => {
  if (input.do === "away") return keepAbsence(desk, input);
  if (input.do === "here") return dropAbsence(desk, input);
  return keepPerson(desk, { ...input, roles: input["roles[]"] ?? [], works: input["works[]"] ?? [] });
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

const DOES: Record<Role, string> = {
  requester: "asks for things and follows them",
  buyer: "plans, compares, writes and places orders",
  "purchasing lead": "a buyer who also keeps rules and records",
  approver: "signs or sends back",
  "dock hand": "counts goods in; sees no prices",
  accounts: "reads orders for the invoices to come",
  administrator: "people, settings, files",
  auditor: "reads everything, changes nothing",
};

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
          <form
            key={`${here?.id ?? "new"}/${rows.length}`}
            id="person"
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              const body = new FormData(e.currentTarget);
              body.set("key", `${key()}person`);
              void submit(body, { method: "post" });
            }}
          >
            <SlipHead over={here ? here.login : "somebody new"} title={here?.name ?? "New person"} />
            <input type="hidden" name="person" value={here?.id ?? ""} />
            <TextField
              label="Name"
              name="name"
              defaultValue={here?.name}
              maxLength={80}
              problem={problemAt(problems, "name")}
            />
            <TextField
              label="Signs in as"
              name="login"
              autoComplete="off"
              defaultValue={here?.login}
              maxLength={60}
              problem={problemAt(problems, "login")}
            />
            <div className="grid grid-cols-2 gap-3">
              <TextField
                label="Title"
                name="title"
                defaultValue={here?.title}
                maxLength={80}
                problem={problemAt(problems, "title")}
              />
              <TextField
                label="Own order numbers"
                name="series"
                defaultValue={here?.series}
                maxLength={4}
                placeholder="the company’s"
                problem={problemAt(problems, "series")}
                hint="IR gives IR26-1001"
              />
              <Field label="Store" problem={problemAt(problems, "store")}>
                {(a) => (
                  <select {...a} name="store" className="entry" defaultValue={here?.store ?? ""}>
                    <option value="">no store</option>
                    {stores.map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.name}
                      </option>
                    ))}
                  </select>
                )}
              </Field>
            </div>
            <div className="grid grid-cols-2 gap-3">
              <SelectField
                label="Department"
                name="department"
                defaultValue={here?.department ?? ""}
                problem={problemAt(problems, "department")}
                options={[{ value: "", label: "none" }, ...departments.map((d) => ({ value: d.id, label: d.name }))]}
              />
              <SelectField
                label="Answers to"
                name="manager"
                defaultValue={here?.manager ?? ""}
                problem={problemAt(problems, "manager")}
                options={[
                  { value: "", label: "nobody" },
                  ...rows.filter((r) => r.id !== here?.id && r.active).map((r) => ({ value: r.id, label: r.name })),
                ]}
              />
            </div>
            <WeekdayField
              label="Works on"
              name="works"
              days={here?.works ?? 31}
              problem={problemAt(problems, "works")}
            />
            <div className="grid grid-cols-2 gap-3">
              <HourField
                label="From"
                name="dayStarts"
                defaultValue={clock(here?.dayStarts ?? 480)}
                problem={problemAt(problems, "dayStarts")}
              />
              <HourField
                label="To"
                name="dayEnds"
                defaultValue={clock(here?.dayEnds ?? 960)}
                problem={problemAt(problems, "dayEnds")}
              />
            </div>
            <RegionField region={here?.region ?? ""} regions={regions} problem={problemAt(problems, "region")} />
            <TextField
              label="E-mail"
              name="mail"
              type="email"
              defaultValue={here?.mail}
              maxLength={200}
              problem={problemAt(problems, "mail")}
            />
            <TextField
              label={here ? "New password, or leave empty" : "Password"}
              name="password"
              type="password"
              autoComplete="new-password"
              hint="at least 10 characters"
              problem={problemAt(problems, "password")}
            />
            <fieldset className="border border-rule bg-sheet px-3 py-2">
              <legend className="px-1 text-xs font-semibold text-ink-2">Roles</legend>
              {ROLES.map((r) => (
                <label key={r} className="flex min-h-6.5 items-center gap-2">
                  <input
                    type="checkbox"
                    name="roles[]"
                    value={r}
                    defaultChecked={here?.roles.split(", ").includes(r)}
                    className="accent-harbour"
                  />
                  <span className="whitespace-nowrap">{r}</span>
                  <span className="text-xs text-ink-3">{DOES[r]}</span>
                </label>
              ))}
              {problemAt(problems, "roles") && (
                <p className="text-xs font-semibold text-signal">{problemAt(problems, "roles")}</p>
              )}
            </fieldset>
            <Field label="May sign in" problem={problemAt(problems, "active")}>
              {(a) => (
                <select {...a} name="active" className="entry" defaultValue={here?.active === 0 ? "no" : "yes"}>
                  <option value="yes">yes</option>
                  <option value="no">no</option>
                </select>
              )}
            </Field>
            <Problems problems={problems} />
            <Saved ok={answer?.ok ?? false} />
          </form>
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

/** Minutes of the day as a clock shows them. */
const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

function Saved({ ok }: { ok: boolean }) {
  const [shown, setShown] = useState(false);
  useEffect(() => setShown(ok), [ok]);
  return <p role="status">{shown ? "Kept." : ""}</p>;
}
