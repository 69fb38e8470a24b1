import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { keepPerson } from "./keep-person";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const NEW = {
  person: "",
  login: "wren",
  name: "Wren Ashby",
  title: "Buyer",
  mail: "wren@kelpholm.example",
  store: "",
  roles: ["buyer"],
  password: "a long enough password",
  series: "",
  active: "yes",
};
const keep = (more: object = {}, who = "osk") => keepPerson(h.desk(who), { ...NEW, ...more });
const person = (login: string) =>
  sql<Record<string, unknown> & { id: number }>(h.db, "SELECT * FROM person WHERE login = ?").get(login)!;
const known = (login: string) => ({
  ...NEW,
  person: String(h.id("person", login)),
  login,
  name: login,
  password: "",
  mail: `${login}@kelpholm.example`,
});

describe("somebody new", () => {
  it("works from eight to four, Monday to Friday, unless it is said otherwise", async () => {
    must(await keep());
    expect(person("wren")).toMatchObject({ day_starts: 480, day_ends: 960, works: 31, active: 1, department: null });
    must(await keep({ login: "lark", dayStarts: "06:30", dayEnds: "12:00", works: ["5", "6"] }));
    expect(person("lark")).toMatchObject({ day_starts: 390, day_ends: 720, works: 96 });
  });

  it.each([
    [{ password: "" }, "password: A new person needs a password."],
    [{ roles: [] }, "roles: Give at least one role."],
    [{ store: "99" }, "store: There is no such store."],
    [{ department: "99" }, "department: There is no such department."],
    [{ manager: "99" }, "manager: There is no such person."],
    [{ login: "ines" }, "login: Somebody else signs in with this name."],
    [{ dayStarts: "12:00", dayEnds: "12:30" }, "dayEnds: A day of work is at least an hour, and ends before midnight."],
    [{ dayStarts: "8" }, "dayStarts: A time has hours and minutes, such as 08:30."],
    [{ series: "12" }, "series: Up to four letters."],
  ])("is not kept with %j", async (wrong, says) => {
    expect(refusal(await keep(wrong))).toContain(says);
    expect(sql(h.db, "SELECT 1 FROM person WHERE login = 'wren'").get()).toBeUndefined();
  });

  it("is added by an administrator alone", async () => {
    expect(refusal(await keep({}, "ines"))).toEqual(["Your role does not allow this."]);
  });
});

describe("somebody who is known", () => {
  it("keeps their department and hours where nothing is said of them", async () => {
    sql(h.db, "INSERT INTO department (name) VALUES ('Yard')").run();
    must(await keep({ department: "1", manager: String(h.id("person", "maud")), dayStarts: "07:00" }));
    const { id } = person("wren");
    must(await keep({ person: String(id), password: "", name: "Wren" }));
    expect(person("wren")).toMatchObject({
      name: "Wren",
      department: 1,
      manager: h.id("person", "maud"),
      day_starts: 420,
    });
    must(await keep({ person: String(id), password: "", department: "", manager: "" }));
    expect(person("wren")).toMatchObject({ department: null, manager: null, day_starts: 420 });
  });

  it("is out everywhere once the password is another, or they may not sign in any more", async () => {
    const id = h.id("person", "ines");
    const open = () => {
      sql(
        h.db,
        "INSERT OR REPLACE INTO session (id, person, started, ends) VALUES ('a session', ?, '2026-11-24', '2026-12-24')",
      ).run(id);
      sql(
        h.db,
        "INSERT INTO access_token (person, name, hash, made, ends) VALUES (?, 'sheet', ?, '2026-11-01', '2027-01-01')",
      ).run(id, `hash ${Math.random()}`);
    };
    const left = () => [
      sql(h.db, "SELECT 1 FROM session WHERE person = ?").all(id).length,
      sql(h.db, "SELECT 1 FROM access_token WHERE person = ? AND ended IS NULL").all(id).length,
    ];
    open();
    must(await keep(known("ines")));
    expect(left()).toEqual([1, 1]); // a new title ends nothing
    must(await keep({ ...known("ines"), password: "quite another password" }));
    expect(left()).toEqual([0, 0]);
    open();
    must(await keep({ ...known("ines"), active: "no" }));
    expect(left()).toEqual([0, 0]);
  });

  it("does not answer to themselves, and the last administrator stays one", async () => {
    const ines = known("ines");
    expect(refusal(await keep({ ...ines, manager: ines.person }))).toEqual(["manager: Nobody answers to themselves."]);
    const osk = { ...known("osk"), roles: ["administrator"] };
    for (const gone of [{ roles: ["buyer"] }, { active: "no" }])
      expect(refusal(await keep({ ...osk, ...gone }))).toEqual(["roles: Somebody has to stay administrator."]);
    must(await keep({ ...ines, roles: ["buyer", "administrator"] }));
    must(await keep({ ...osk, roles: ["auditor"] }));
    expect(refusal(await keep({ ...known("ines"), person: "999", login: "nobody" }))).toEqual([
      "Your role does not allow this.",
    ]); // they are no administrator any more
  });

  it("is nobody where there is no such person; the trail never holds a password", async () => {
    expect(refusal(await keep({ person: "999", login: "nobody", password: "" }))).toEqual(["There is no such person."]);
    must(await keep({ ...known("ines"), password: "quite another password" }));
    const [last] = sql<{ detail: string }>(h.db, "SELECT detail FROM audit ORDER BY id DESC LIMIT 1").all();
    expect(JSON.parse(last!.detail)).toMatchObject({ login: "ines", password: "changed" });
    expect(last!.detail).not.toContain("quite another");
  });
});
