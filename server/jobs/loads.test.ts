import { afterAll, afterEach, beforeEach, describe, expect, it } from "vitest";
import { patiently } from "../db/busy";
import { openBeside, sql } from "../db/open";
import { brokenTruths } from "../queries/always-true";
import { type TestHouse, testHouse } from "../testing";
import { dismissCrew } from "./crew";
import { loadInWorker, loadingsOf, readInWorker, stopLoading } from "./loads";
import { saveInWorker } from "./saves";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});
afterAll(dismissCrew);

const ROWS = 40_000;
const items = `code,name,unit\n${Array.from({ length: ROWS }, (_, i) => `X${i},Thing ${i},each`).join("\n")}\n`;
const known = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM item").get()!.n;

/** Waits until some rows of what somebody loads are done. */
const begun = (login: string) =>
  expect
    .poll(() => loadingsOf(h.id("person", login))[0]?.rows?.done ?? 0, { interval: 2, timeout: 30_000 })
    .toBeGreaterThan(0);

describe("a file that is loaded beside the server", () => {
  it("says how far it is, is loaded whole, and again under the same key does nothing more", async () => {
    const desk = h.desk("osk", "the-big-file");
    const load = () => loadInWorker(desk, "items", Buffer.from(items), { mark: "." });
    const before = known();
    const loading = load();
    await begun("osk");
    expect(loadingsOf(desk.person.id)).toMatchObject([{ kind: "items", rows: { of: ROWS } }]);
    expect(await loading).toMatchObject({ ok: true, value: { added: ROWS } });
    expect(loadingsOf(desk.person.id)).toEqual([]);
    expect(known()).toBe(before + ROWS);
    expect(await load()).toMatchObject({ ok: true, value: { added: ROWS } });
    expect(known()).toBe(before + ROWS);
  });

  it("is stopped by its person alone, and leaves nothing behind, not even the file locked", async () => {
    const desk = h.desk("osk", "to-be-stopped");
    const before = known();
    const loading = loadInWorker(desk, "items", Buffer.from(items), { mark: "." });
    await begun("osk");
    stopLoading(h.id("person", "ines"), desk.key);
    stopLoading(desk.person.id, desk.key);
    expect(await loading).toEqual({ ok: false, problems: [{ field: "", says: "Stopped: nothing was loaded." }] });
    expect(known()).toBe(before);
    expect(
      await loadInWorker(h.desk("osk"), "items", Buffer.from("code,name,unit\nZ1,Z,each\n"), { mark: "." }),
    ).toMatchObject({
      ok: true,
    });
  });

  it("lets others write after it, without holding up what they run in", async () => {
    h.db.pragma("busy_timeout = 0");
    const loading = loadInWorker(h.desk("osk"), "items", Buffer.from(items), { mark: "." });
    await begun("osk");
    await patiently(() => sql(h.db, "UPDATE company SET name = 'Kelpholm'").run());
    expect(await loading).toMatchObject({ ok: true });
    expect(sql<{ name: string }>(h.db, "SELECT name FROM company").get()!.name).toBe("Kelpholm");
  });

  it("is refused with its faults as on the spot", async () => {
    expect(await loadInWorker(h.desk("osk"), "items", Buffer.from("code,name\nA,B\n"), { mark: "." })).toMatchObject({
      ok: false,
      count: 1,
      faults: [{ line: 1, column: "unit" }],
    });
    expect(await readInWorker("look", { bytes: Buffer.from("part;qty\nOIL;5\n"), mark: ".", rows: 3 })).toMatchObject({
      ok: true,
      count: 1,
      mapping: { item: "part", quantity: "qty" },
    });
  });
});

it("a file is saved part by part as it would be on the spot", async () => {
  const text = await new Response(saveInWorker(h.db.name, { kind: "items" })).text();
  expect(text).toMatch(/^code,name,kind/);
  expect(text.trim().split("\n")).toHaveLength(known() + 1);
});

it("what writes waits for another connection, and gives up only for another fault", async () => {
  h.db.pragma("busy_timeout = 0");
  const other = openBeside(h.db.name);
  other.exec("BEGIN IMMEDIATE");
  let tries = 0;
  const waiting = patiently(() => {
    tries++;
    return sql(h.db, "UPDATE company SET name = 'K'").run().changes;
  });
  await expect.poll(() => tries, { timeout: 30_000 }).toBeGreaterThan(2);
  other.exec("COMMIT");
  other.close();
  expect(await waiting).toBe(1);
  await expect(
    patiently(() => {
      throw new Error("something else");
    }),
  ).rejects.toThrow("something else");
});
