import { useEffect, useState } from "react";
import type { StoreId } from "../../../core/ids";
import { ROLES, type Role } from "../../../core/people/roles";
import type { PersonRow } from "../../../server/queries/people/people";
import { Field, Problems, problemAt, TextField } from "../../ui/field";
import { RegionField, SelectField, WeekdayField } from "../../ui/form";
import { SlipHead } from "../../ui/frame-parts";
import { HourField } from "../../ui/hour-entry";

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

interface Part {
  /** Null for somebody new. */
  person: PersonRow | null;
  problem: (field: string) => string | undefined;
}
interface Choices {
  stores: { id: StoreId; name: string }[];
  departments: { id: number; name: string }[];
}

/** All that is known of a person, and what they may do. */
export function PersonForm({
  person,
  among,
  stores,
  departments,
  regions,
  problems,
  saved,
  onSend,
}: Choices & {
  person: PersonRow | null;
  /** Everybody, to whom somebody may answer. */
  among: readonly PersonRow[];
  regions: Parameters<typeof RegionField>[0]["regions"];
  problems?: { field: string; says: string }[];
  saved: boolean;
  onSend: (body: FormData) => void;
}) {
  const part = { person, problem: (field: string) => problemAt(problems, field) };
  return (
    <form
      id="person"
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSend(new FormData(e.currentTarget));
      }}
    >
      <SlipHead over={person ? person.login : "somebody new"} title={person?.name ?? "New person"} />
      <input type="hidden" name="do" value="keep" />
      <input type="hidden" name="person" value={person?.id ?? ""} />
      <Names {...part} stores={stores} />
      <Belongs {...part} among={among} departments={departments} />
      <WorkingHours {...part} regions={regions} />
      <SigningIn {...part} />
      <RolesField {...part} />
      <Field label="May sign in" problem={part.problem("active")}>
        {(a) => (
          <select {...a} name="active" className="entry" defaultValue={person?.active === 0 ? "no" : "yes"}>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </select>
        )}
      </Field>
      <Problems problems={problems} />
      <Saved ok={saved} />
    </form>
  );
}

/** What they are called, and where they work. */
function Names({ person, problem, stores }: Part & Pick<Choices, "stores">) {
  return (
    <>
      <TextField label="Name" name="name" defaultValue={person?.name} maxLength={80} problem={problem("name")} />
      <TextField
        label="Signs in as"
        name="login"
        autoComplete="off"
        defaultValue={person?.login}
        maxLength={60}
        problem={problem("login")}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Title" name="title" defaultValue={person?.title} maxLength={80} problem={problem("title")} />
        <TextField
          label="Own order numbers"
          name="series"
          defaultValue={person?.series}
          maxLength={4}
          placeholder="the company’s"
          problem={problem("series")}
          hint="IR gives IR26-1001"
        />
        <Field label="Store" problem={problem("store")}>
          {(a) => (
            <select {...a} name="store" className="entry" defaultValue={person?.store ?? ""}>
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
    </>
  );
}

/** To which department they belong, and to whom they answer. */
function Belongs({
  person,
  problem,
  among,
  departments,
}: Part & Pick<Choices, "departments"> & { among: readonly PersonRow[] }) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <SelectField
        label="Department"
        name="department"
        defaultValue={person?.department ?? ""}
        problem={problem("department")}
        options={[{ value: "", label: "none" }, ...departments.map((d) => ({ value: d.id, label: d.name }))]}
      />
      <SelectField
        label="Answers to"
        name="manager"
        defaultValue={person?.manager ?? ""}
        problem={problem("manager")}
        options={[
          { value: "", label: "nobody" },
          ...among.filter((r) => r.id !== person?.id && r.active).map((r) => ({ value: r.id, label: r.name })),
        ]}
      />
    </div>
  );
}

/** When they work: the hours in which an answer is due. */
function WorkingHours({ person, problem, regions }: Part & Pick<Parameters<typeof PersonForm>[0], "regions">) {
  return (
    <>
      <WeekdayField label="Works on" name="works" days={person?.works ?? 31} problem={problem("works")} />
      <div className="grid grid-cols-2 gap-3">
        <HourField
          label="From"
          name="dayStarts"
          defaultValue={clock(person?.dayStarts ?? 480)}
          problem={problem("dayStarts")}
        />
        <HourField
          label="To"
          name="dayEnds"
          defaultValue={clock(person?.dayEnds ?? 960)}
          problem={problem("dayEnds")}
        />
      </div>
      <RegionField region={person?.region ?? ""} regions={regions} problem={problem("region")} />
    </>
  );
}

/** How they sign in and are written to. */
function SigningIn({ person, problem }: Part) {
  return (
    <>
      <TextField
        label="E-mail"
        name="mail"
        type="email"
        defaultValue={person?.mail}
        maxLength={200}
        problem={problem("mail")}
      />
      <TextField
        label={person ? "New password, or leave empty" : "Password"}
        name="password"
        type="password"
        autoComplete="new-password"
        hint="at least 10 characters"
        problem={problem("password")}
      />
    </>
  );
}

/** What they may do. */
function RolesField({ person, problem }: Part) {
  return (
    <fieldset className="border border-rule bg-sheet px-3 py-2">
      <legend className="px-1 text-xs font-semibold text-ink-2">Roles</legend>
      {ROLES.map((r) => (
        <label key={r} className="flex min-h-6.5 items-center gap-2">
          <input
            type="checkbox"
            name="roles[]"
            value={r}
            defaultChecked={person?.roles.split(", ").includes(r)}
            className="accent-harbour"
          />
          <span className="whitespace-nowrap">{r}</span>
          <span className="text-xs text-ink-3">{DOES[r]}</span>
        </label>
      ))}
      {problem("roles") && <p className="text-xs font-semibold text-signal">{problem("roles")}</p>}
    </fieldset>
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
