import { afterAll, afterEach, beforeEach, describe, expect, it } from "vitest";
import { recordAudit } from "../db/audit";
import { sql } from "../db/open";
import { readTrailCheck } from "../queries/trail";
import { type TestHouse, testHouse } from "../testing";
import { checkTrail } from "./check-trail";
import { dismissCrew } from "./crew";
import { sweepOld } from "./sweep";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());
afterAll(dismissCrew);

const at = (hours: number) => new Date(Date.parse("2026-11-24T10:00:00.000Z") + hours * 3_600_000);
const last = () => sql<{ id: number }>(h.db, "SELECT max(id) AS id FROM audit").get()!.id;
const tamper = (id: number) => {
  h.db.exec("DROP TRIGGER IF EXISTS audit_stays");
  sql(h.db, "UPDATE audit SET subject = 'something else' WHERE id = ?").run(id);
};

describe("the audit trail's chain", () => {
  it("is followed from where it was followed to, and once a day from its start", async () => {
    expect(readTrailCheck(h.db)).toBeNull();
    expect(await checkTrail(h.db, at(0))).toBeNull();
    expect(readTrailCheck(h.db)).toMatchObject({ upto: last(), broken: null, whole: at(0).toISOString() });
    for (let i = 0; i < 3; i++) recordAudit(h.db, at(1).toISOString(), null, "test.done", `thing ${i}`, {});
    expect(await checkTrail(h.db, at(2))).toBeNull();
    expect(readTrailCheck(h.db)).toMatchObject({ upto: last(), at: at(2).toISOString(), whole: at(0).toISOString() });
    // What lies before was followed already, and is followed again tomorrow.
    tamper(2);
    expect(await checkTrail(h.db, at(3))).toBeNull();
    expect(await checkTrail(h.db, at(25))).toBe(2);
    expect(readTrailCheck(h.db)).toMatchObject({ broken: 2 });
  });

  it("is found broken where what came since does not follow", async () => {
    expect(await checkTrail(h.db, at(0))).toBeNull();
    recordAudit(h.db, at(1).toISOString(), null, "test.done", "a thing", {});
    tamper(last());
    expect(await checkTrail(h.db, at(1))).toBe(last());
    // A chain that is broken is followed from its start until it is whole again.
    expect(await checkTrail(h.db, at(2))).toBe(last());
  });
});

it("what nothing refers to any more is swept by its age, and nothing else", () => {
  const now = at(0);
  const days = (n: number) => at(-24 * n).toISOString();
  const put = (key: string, when: string) =>
    sql(h.db, "INSERT INTO submission (key, person, act, answer, at) VALUES (?, 1, 'plan', '{}', ?)").run(key, when);
  sweepOld(h.db, now);
  const submissions = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM submission").get()!.n;
  const before = submissions();
  put("old-key-1", days(31));
  put("young-key", days(29));
  const notice = sql(h.db, "INSERT INTO notice (person, at, text, href, read) VALUES (1, ?, 'x', '/x', ?)");
  notice.run(days(900), null);
  notice.run(days(900), days(401));
  notice.run(days(900), days(399));
  sql(h.db, "INSERT INTO session (id, person, started, ends, seen) VALUES ('s', 1, ?, ?, ?)").run(
    days(20),
    days(6),
    days(7),
  );
  expect(sweepOld(h.db, now)).toBe(3);
  expect(submissions()).toBe(before + 1);
  expect(sql(h.db, "SELECT read FROM notice ORDER BY id").pluck().all()).toEqual([null, days(399)]);
  expect(sweepOld(h.db, now)).toBe(0);
});
