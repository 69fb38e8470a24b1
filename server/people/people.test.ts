import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { openDatabase, sql } from "../db/open";
import { keepPerson } from "../desk/settings/keep-person";
import { must, refusal, type TestHouse, testHouse } from "../testing";
import { firstRun } from "./first-run";
import { personOf, startSession } from "./sessions";
import { signIn } from "./sign-in";

const now = new Date("2026-11-24T09:00:00Z");

describe("signing in", () => {
  const setUp = {
    company: "Kelpholm Ferries",
    currency: "EUR",
    store: "Tarn Quay",
    name: "Osk Fennimer",
    login: "osk",
    password: "a long enough one",
  };

  it("starts with the administrator, once", async () => {
    const db = openDatabase(":memory:");
    expect(refusal(await firstRun(db, { ...setUp, password: "short", currency: "XXQ" }, now))).toEqual([
      "currency: There is no such currency.",
      "password: At least 10 characters.",
    ]);
    must(await firstRun(db, setUp, now));
    expect(refusal(await firstRun(db, setUp, now))).toEqual(["This installation has been set up already. Sign in."]);
    const { token } = must(await signIn(db, { login: "OSK", password: setUp.password }, "127.0.0.1", now));
    expect(personOf(db, token, now)).toMatchObject({ name: "Osk Fennimer", roles: ["administrator"] });
    expect(personOf(db, token, new Date("2026-12-24T09:00:00Z"))).toBeNull();
    expect(sql<{ id: string }>(db, "SELECT id FROM session").get()!.id).not.toBe(token);
    db.close();
  });

  it("gives a wrong name and a wrong password the same answer, and stops after five tries", async () => {
    const db = openDatabase(":memory:");
    must(await firstRun(db, { ...setUp, login: "runa" }, now));
    const wrong = "password: Name and password do not fit together.";
    expect(refusal(await signIn(db, { login: "nobody-here", password: "x" }, "127.0.0.2", now))).toEqual([wrong]);
    for (let i = 0; i < 5; i++)
      expect(refusal(await signIn(db, { login: "runa", password: "x" }, "127.0.0.2", now))).toEqual([wrong]);
    expect(refusal(await signIn(db, { login: "runa", password: setUp.password }, "127.0.0.2", now))[0]).toMatch(
      /Too many tries/,
    );
    db.close();
  });
});

describe("people", () => {
  let h: TestHouse;
  beforeEach(() => {
    h = testHouse();
  });
  afterEach(() => h.close());
  const petra = {
    person: "",
    login: "petra",
    name: "Petra Lindqvale",
    title: "",
    mail: "",
    store: "",
    roles: ["accounts"],
    password: "a long enough one",
    series: "",
    active: "yes",
  };

  it("keeps one administrator, unique names and known roles", async () => {
    must(await keepPerson(h.desk("osk"), petra));
    expect(refusal(await keepPerson(h.desk("osk"), petra))).toEqual(["login: Somebody else signs in with this name."]);
    expect(refusal(await keepPerson(h.desk("osk"), { ...petra, login: "x1", roles: ["king"] }))).toEqual([
      "roles.0: There is no such role.",
    ]);
    const osk = { ...petra, person: h.id("person", "osk"), login: "osk", password: "" };
    expect(refusal(await keepPerson(h.desk("osk"), osk))).toEqual(["roles: Somebody has to stay administrator."]);
    expect(refusal(await keepPerson(h.desk("ines"), { ...petra, login: "x2" }))).toEqual([
      "Your role does not allow this.",
    ]);
  });

  it("lets a buyer number orders in a series of their own, that no other paper has", async () => {
    const ines = { ...petra, person: h.id("person", "ines"), login: "ines", roles: ["buyer"], password: "" };
    must(await keepPerson(h.desk("osk"), { ...ines, series: "ir" }));
    expect(h.db.prepare("SELECT series FROM person WHERE login = 'ines'").pluck().get()).toBe("IR");
    for (const [series, says] of [
      ["R", "Other papers of ours begin with this letter."],
      ["I2", "Up to four letters."],
      ["INESR", "At most 4 characters."],
    ] as const)
      expect(refusal(await keepPerson(h.desk("osk"), { ...ines, series }))).toEqual([`series: ${says}`]);
  });

  it("ends the sessions of somebody who may not sign in any more", async () => {
    const token = startSession(h.db, h.id("person", "joss"), now);
    must(
      await keepPerson(h.desk("osk"), {
        ...petra,
        person: h.id("person", "joss"),
        login: "joss",
        roles: ["requester"],
        password: "",
        active: "no",
      }),
    );
    expect(personOf(h.db, token, now)).toBeNull();
  });
});
