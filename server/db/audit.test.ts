import { expect, it } from "vitest";
import { brokenLink, recordAudit } from "./audit";
import { openDatabase, sql } from "./open";

it("finds the row at which the chain was tampered with", () => {
  const db = openDatabase(":memory:");
  for (let i = 1; i <= 4; i++) recordAudit(db, "2026-11-24T09:00:00.000Z", null, "test.done", `thing ${i}`, { i });
  expect(brokenLink(db)).toBeNull();
  expect(() => sql(db, "UPDATE audit SET subject = 'thing 9' WHERE id = 3").run()).toThrow("never changed");
  db.exec("DROP TRIGGER audit_stays; UPDATE audit SET subject = 'thing 9' WHERE id = 3");
  expect(brokenLink(db)).toBe(3);
  db.close();
});
