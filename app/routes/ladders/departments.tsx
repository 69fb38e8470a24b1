import { useLoaderData } from "react-router";
import { may, type Role } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { sql } from "../../../server/db/open";
import { refuse } from "../../../server/desk/desk";
import { keepDepartment, keepTeam } from "../../../server/desk/settings/keep-team";
import { TextField } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { SheetHead, Spread } from "../../ui/frame-parts";
import { TallyLine } from "../../ui/tally-line";
import { act, page } from "../../web/page";

export const loader = page("keep ladders", ({ db }) => {
  const members = sql<{ team: number; person: number }>(db, "SELECT team, person FROM team_member").all();
  return {
    departments: sql<{ id: number; name: string; active: number; people: number }>(
      db,
      `SELECT d.id, d.name, d.active, (SELECT count(*) FROM person p WHERE p.department = d.id AND p.active = 1) AS people
       FROM department d ORDER BY d.active DESC, d.name`,
    ).all(),
    teams: sql<{ id: number; name: string; active: number }>(
      db,
      "SELECT id, name, active FROM team ORDER BY active DESC, name",
    )
      .all()
      .map((t) => ({ ...t, members: members.filter((m) => m.team === t.id).map((m) => m.person) })),
    signers: sql<{ id: number; name: string; title: string; roles: string }>(
      db,
      `SELECT p.id, p.name, p.title, group_concat(r.role) AS roles FROM person p JOIN person_role r ON r.person = p.id
       WHERE p.active = 1 GROUP BY p.id ORDER BY p.name`,
    )
      .all()
      .filter((p) => may(p.roles.split(",") as Role[], "sign")),
  };
});

export const action = act<unknown>("keep ladders", (desk, input) => {
  if (input.do === "department") return keepDepartment(desk, input);
  if (input.do === "team") return keepTeam(desk, { ...input, members: input["members[]"] ?? [] });
  return refuse("", "This cannot be done here.");
});

/** For whom papers are, and who signs together: what ladders are narrowed by and point at. */
export default function Departments() {
  const { departments, teams, signers } = useLoaderData<typeof loader>();
  return (
    <Spread
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="Departments and teams" sub="who belongs where stands under People" />
          <section className="border-t-2 border-ink px-4.5 py-4" aria-label="Teams">
            <h2 className="mb-1 text-lg font-bold">Teams that sign</h2>
            {[...teams, null].map((t) => (
              <RecordForm
                key={t?.id ?? `new ${teams.length}`}
                does="team"
                fields={{ team: t?.id ?? "" }}
                send={t ? `Keep ${t.name}` : "Add a team"}
                className="grid max-w-4xl grid-cols-[220px_minmax(0,1fr)_110px] items-start gap-x-4 gap-y-1 border-b border-rule-2 py-3 max-md:grid-cols-1"
              >
                {(fault) => (
                  <>
                    <TextField
                      label={t ? "Team" : "Another team"}
                      name="name"
                      defaultValue={t?.name ?? ""}
                      maxLength={60}
                      placeholder="Yard manager"
                      problem={fault("name")}
                    />
                    <fieldset>
                      <legend className="mb-1 text-xs font-semibold text-ink-2">Its people</legend>
                      <div className="flex flex-wrap gap-x-4">
                        {signers.map((p) => (
                          <label key={p.id} className="flex min-h-6 items-center gap-1.5">
                            <input
                              type="checkbox"
                              name="members[]"
                              value={p.id}
                              defaultChecked={t?.members.includes(p.id) ?? false}
                              className="accent-harbour"
                            />
                            {p.name} <span className="text-xs text-ink-3">{p.title}</span>
                          </label>
                        ))}
                      </div>
                      {fault("members") && <p className="text-xs font-semibold text-signal">{fault("members")}</p>}
                    </fieldset>
                    <Active active={t?.active !== 0} />
                  </>
                )}
              </RecordForm>
            ))}
          </section>
          <section className="px-4.5 py-4" aria-label="Departments">
            <h2 className="mb-1 text-lg font-bold">Departments</h2>
            {[...departments, null].map((d) => (
              <RecordForm
                key={d?.id ?? `new ${departments.length}`}
                does="department"
                fields={{ department: d?.id ?? "" }}
                send={d ? `Keep ${d.name}` : "Add a department"}
                className="grid max-w-4xl grid-cols-[220px_minmax(0,1fr)_110px] items-start gap-x-4 gap-y-1 border-b border-rule-2 py-3 max-md:grid-cols-1"
              >
                {(fault) => (
                  <>
                    <TextField
                      label={d ? "Department" : "Another department"}
                      name="name"
                      defaultValue={d?.name ?? ""}
                      maxLength={60}
                      problem={fault("name")}
                    />
                    <p className="pt-5 text-ink-2">{d && count(d.people, "person", "people")}</p>
                    <Active active={d?.active !== 0} />
                  </>
                )}
              </RecordForm>
            ))}
          </section>
        </div>
      }
      tally={
        <TallyLine>
          <span>{count(teams.filter((t) => t.active).length, "team")}</span>
          <span>{count(departments.filter((d) => d.active).length, "department")}</span>
        </TallyLine>
      }
    />
  );
}

function Active({ active }: { active: boolean }) {
  return (
    <label className="flex min-h-6 items-center gap-1.5 pt-5">
      <input type="checkbox" name="active" defaultChecked={active} className="accent-harbour" />
      in use
    </label>
  );
}
