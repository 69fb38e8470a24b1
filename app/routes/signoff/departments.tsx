import { useLoaderData } from "react-router";
import { count } from "../../../core/text";
import { keepDepartment, keepTeam } from "../../../server/acts/settings/keep-team";
import { type GroupRow, readGroups, readSigners } from "../../../server/queries/people/people";
import { Button } from "../../ui/button";
import { TextField } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, type PageActs, page } from "../../web/page";

type Row = GroupRow;

export const loader = page("keep ladders", ({ db }) => {
  return { rows: readGroups(db), people: readSigners(db) };
});

const staffActs = {
  department: keepDepartment,
  team: (desk, input) => keepTeam(desk, { ...input, members: input["members[]"] ?? [] }),
} satisfies PageActs;
type StaffWord = keyof typeof staffActs;
export const action = actions("keep ladders", staffActs);

const keyOf = (r: Row) => `${r.kind}-${r.id}`;

/** For whom papers are, and who signs together: what ladders are narrowed by and point at. */
export default function Departments() {
  const { rows, people } = useLoaderData<typeof loader>();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const adding = at === "new-team" ? "team" : at === "new-department" ? "department" : null;
  const here = adding ? null : (rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null);
  const kind = adding ?? here?.kind ?? "team";
  const nameOf = (id: number) => people.find((p) => p.id === id)?.name;
  useKeys([
    { key: "n", label: "new team", run: () => setAt("new-team") },
    { key: "d", label: "new department", run: () => setAt("new-department") },
  ]);
  const columns: SheetColumn<Row>[] = [
    { key: "name", head: "Name", cell: (r) => <Named name={r.name} code={r.kind} /> },
    {
      key: "people",
      head: "People",
      cell: (r) => r.members.flatMap((m) => nameOf(m) ?? []).join(", ") || <span className="text-ink-3">nobody</span>,
    },
    { key: "active", head: "In use", cell: (r) => (r.active ? "yes" : "no") },
  ];
  const teams = rows.filter((r) => r.kind === "team").length;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Departments and teams" sub="what spend ladders are narrowed by, and who signs together" />
          <Sheet
            label="Departments and teams"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
          />
        </>
      }
      slip={
        <RecordForm<StaffWord>
          key={`${at} ${rows.length}`}
          does={kind}
          fields={{ [kind]: here?.id ?? "" }}
          send={here ? "Keep it" : `Add the ${kind}`}
          className="flex flex-col gap-3"
        >
          {(fault) => (
            <>
              <SlipHead over={kind} title={here?.name ?? `New ${kind}`} />
              <TextField
                label="Name"
                name="name"
                defaultValue={here?.name ?? ""}
                maxLength={60}
                problem={fault("name")}
              />
              {kind === "team" ? (
                <fieldset className="border border-rule bg-sheet px-3 py-2">
                  <legend className="px-1 text-xs font-semibold text-ink-2">Its people</legend>
                  {people
                    .filter((p) => p.signs)
                    .map((p) => (
                      <label key={p.id} className="flex min-h-6.5 items-center gap-2">
                        <input
                          type="checkbox"
                          name="members[]"
                          value={p.id}
                          defaultChecked={here?.members.includes(p.id) ?? false}
                          className="accent-harbour"
                        />
                        {p.name} <span className="text-xs text-ink-3">{p.title}</span>
                      </label>
                    ))}
                  {fault("members") && <p className="text-xs font-semibold text-signal">{fault("members")}</p>}
                </fieldset>
              ) : (
                <p className="text-xs text-ink-2">Who belongs there is said under People.</p>
              )}
              <label className="flex min-h-6 items-center gap-1.5">
                <input type="checkbox" name="active" defaultChecked={here?.active ?? true} className="accent-harbour" />
                in use
              </label>
            </>
          )}
        </RecordForm>
      }
      tally={
        <TallyLine
          act={
            <>
              <Button hint="N" onClick={() => setAt("new-team")}>
                New team
              </Button>
              <Button hint="D" onClick={() => setAt("new-department")}>
                New department
              </Button>
            </>
          }
        >
          <span>{count(teams, "team")}</span>
          <span>{count(rows.length - teams, "department")}</span>
        </TallyLine>
      }
    />
  );
}
