import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { may, type Role, rolesIn } from "../../../core/people/roles";
import type { WorkingTime } from "../../../core/signoff/hours";
import type { Staff } from "../../../core/signoff/process";
import type { Signer } from "../../../core/signoff/rulebook";
import type { Member, People } from "../../../core/signoff/way";
import { type Db, sql } from "../../db/open";
import { holidaysAround } from "../calendars";
import { rememberSettings } from "../remember";

export interface Employed extends Member {
  active: boolean;
  roles: Role[];
  department: number | null;
  manager: number | null;
  mail: string;
  time: WorkingTime;
}

interface Absent {
  person: PersonId;
  standIn: number | null;
  starts: Day;
  ends: Day;
}

/** Everybody as far as signing needs to know them, on a day. */
export interface Roster extends People, Staff {
  /** Those who may sign in. */
  everybody: readonly Employed[];
  find: (person: PersonId) => Employed | undefined;
  departmentOf: (person: PersonId) => number | null;
  /** At work today, or somebody stands in who is; never one of those who may not sign it. */
  isThere: (person: PersonId, barred?: readonly number[]) => boolean;
  /** Who is told today what is asked of this person: those who sign for them while they are away, else themselves. */
  toldFor: (person: PersonId, barred?: readonly number[]) => Employed[];
}

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** Who people are today: teams, managers, who is away and who signs for them. Kept until people or settings change. */
export const readRoster = (db: Db, day: Day): Roster =>
  rememberSettings(db, `roster ${day}`, () => makeRoster(db, day));

function makeRoster(db: Db, day: Day): Roster {
  const absences = sql<Absent>(
    db,
    "SELECT person, stand_in AS standIn, starts, ends FROM absence WHERE dropped IS NULL AND ends >= ?",
  ).all(day);
  const people = new Map(readPeople(db, day, absences).map((p) => [p.id, p]));
  const teams = new Map<number, { name: string; members: number[] }>();
  for (const t of sql<{ id: number; name: string; person: PersonId | null }>(
    db,
    "SELECT t.id, t.name, m.person FROM team t LEFT JOIN team_member m ON m.team = t.id AND t.active = 1 ORDER BY t.id, m.person",
  ).all()) {
    const team = teams.get(t.id) ?? { name: t.name, members: [] };
    if (t.person !== null) team.members.push(t.person);
    teams.set(t.id, team);
  }
  const today = absences.filter((a) => a.starts <= day && day <= a.ends);
  const away = new Set(today.map((a) => a.person));
  const signs = (p: Employed | undefined): p is Employed => p?.active === true && may(p.roles, "sign");

  function membersOf(signer: Signer, writer: number): readonly Employed[] {
    switch (signer.kind) {
      case "person":
        return [people.get(signer.person)].filter(signs);
      case "role":
        return [...people.values()].filter((p) => signs(p) && p.roles.includes(signer.role));
      case "team":
        return (teams.get(signer.team)?.members ?? []).map((m) => people.get(m)).filter(signs);
      case "manager":
        return [people.get(people.get(writer)?.manager ?? 0)].filter(signs);
    }
  }

  function nameOf(signer: Signer, writer: number): string {
    switch (signer.kind) {
      case "person":
        return people.get(signer.person)?.name ?? "Somebody who is not here";
      case "role":
        return sentence(signer.role);
      case "team":
        return teams.get(signer.team)?.name ?? "A team that is not here";
      case "manager":
        return writer ? `Manager of ${people.get(writer)?.name ?? "the writer"}` : "Manager of the writer";
    }
  }

  /** Those who are away and whose chain of stand-ins leads to this person. */
  function standsInFor(person: PersonId): number[] {
    const found: number[] = [];
    const look = (by: number) => {
      for (const a of today)
        if (a.standIn === by && a.person !== person && !found.includes(a.person)) {
          found.push(a.person);
          look(a.person);
        }
    };
    look(person);
    return found;
  }

  /** Everybody at work who may sign for this person: themselves, or those who stand in. */
  const present = (person: PersonId, barred: readonly number[] = []): Employed[] =>
    [people.get(person), ...[...people.values()].filter((p) => standsInFor(p.id).includes(person))]
      .filter(signs)
      .filter((p) => !away.has(p.id) && !barred.includes(p.id));

  return {
    everybody: [...people.values()].filter((p) => p.active),
    find: (person) => people.get(person),
    departmentOf: (person) => people.get(person)?.department ?? null,
    membersOf,
    nameOf,
    standsInFor,
    worksAt: (person) => people.get(person)!.time,
    toldFor: (person, barred) => {
      const there = present(person, barred);
      return there.length ? there : [people.get(person)!];
    },
    isThere: (person, barred) => present(person, barred).length > 0,
  };
}

function readPeople(db: Db, day: Day, absences: readonly Absent[]): Employed[] {
  return sql<{
    id: number;
    name: string;
    active: number;
    roles: string | null;
    department: number | null;
    manager: number | null;
    mail: string;
    works: number;
    from: number;
    to: number;
    region: string;
  }>(
    db,
    `SELECT p.id, p.name, p.active, p.department, p.manager, p.mail, p.works, p.day_starts AS "from", p.day_ends AS "to", p.region,
            (SELECT group_concat(r.role) FROM person_role r WHERE r.person = p.id) AS roles
     FROM person p ORDER BY p.name`,
  )
    .all()
    .map(({ works, from, to, region, roles, active, ...p }) => {
      const holidays = holidaysAround(region, day);
      // While somebody stands in, the hours run on.
      const off = absences.filter((a) => a.person === p.id && a.standIn === null);
      return {
        ...p,
        active: active === 1,
        roles: rolesIn(roles ?? ""),
        time: {
          works,
          from,
          to,
          closed: (d: Day) => holidays.has(d) || off.some((a) => a.starts <= d && d <= a.ends),
        },
      };
    });
}

/** Those who may be asked to sign instead of somebody. */
export const signerChoices = (db: Db, day: Day, without: readonly number[]): Member[] =>
  readRoster(db, day)
    .everybody.filter((p) => may(p.roles, "sign") && !without.includes(p.id))
    .map(({ id, name }) => ({ id, name }));

/** Days on which a person is or will be away. */
export const readAbsences = (db: Db, person: PersonId, day: Day) =>
  sql<{ id: number; starts: Day; ends: Day; standIn: string | null }>(
    db,
    `SELECT a.id, a.starts, a.ends, p.name AS standIn FROM absence a LEFT JOIN person p ON p.id = a.stand_in
     WHERE a.person = ? AND a.dropped IS NULL AND a.ends >= ? ORDER BY a.starts`,
  ).all(person, day);
