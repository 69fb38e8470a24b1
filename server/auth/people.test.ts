import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { keepPerson } from "../acts/settings/keep-person";
import { openDatabase, sql } from "../db/open";
import { must, refusal, type TestHouse, testHouse } from "../testing";
import { firstRun } from "./first-run";
import { endSession, personOf, startSession } from "./sessions";
import { type From, signIn } from "./sign-in";
import { makeToken, personOfToken } from "./tokens";

const now = new Date("2026-11-24T09:00:00Z");
const CODE = "reeds-and-tides";
const from = (address: string, device: From["device"] = null): From => ({ address, device });

describe("signing in", () => {
  const setUp = {
    code: CODE,
    company: "Kelpholm Ferries",
    currency: "EUR",
    store: "Tarn Quay",
    name: "Osk Fennimer",
    login: "osk",
    password: "a long enough one",
  };

  it("starts with the administrator, once", async () => {
    const db = openDatabase(":memory:");
    expect(refusal(await firstRun(db, { ...setUp, password: "short", currency: "XXQ" }, CODE, now))).toEqual([
      "currency: There is no such currency.",
      "password: At least 10 characters.",
    ]);
    must(await firstRun(db, setUp, CODE, now));
    expect(refusal(await firstRun(db, setUp, CODE, now))).toEqual([
      "This installation has been set up already. Sign in.",
    ]);
    const { token } = must(await signIn(db, { login: "OSK", password: setUp.password }, from("127.0.0.1"), now));
    expect(personOf(db, token, now)).toMatchObject({ name: "Osk Fennimer", roles: ["administrator"] });
    expect(personOf(db, token, new Date("2026-12-24T09:00:00Z"))).toBeNull();
    expect(sql<{ id: string }>(db, "SELECT id FROM session").get()!.id).not.toBe(token);
    db.close();
  });

  it("gives a wrong name and a wrong password the same answer, and stops after five tries", async () => {
    const db = openDatabase(":memory:");
    must(await firstRun(db, { ...setUp, login: "runa" }, CODE, now));
    const wrong = "password: Name and password do not fit together.";
    expect(refusal(await signIn(db, { login: "nobody-here", password: "x" }, from("127.0.0.2"), now))).toEqual([wrong]);
    for (let i = 0; i < 5; i++)
      expect(refusal(await signIn(db, { login: "runa", password: "x" }, from("127.0.0.2"), now))).toEqual([wrong]);
    expect(refusal(await signIn(db, { login: "runa", password: setUp.password }, from("127.0.0.2"), now))[0]).toMatch(
      /Too many tries/,
    );
    db.close();
  });
});

describe("signing in under attack", () => {
  const PASSWORD = "a long enough one";
  const open = async (...logins: string[]) => {
    const h = testHouse();
    for (const login of logins)
      must(
        await keepPerson(h.desk("osk"), {
          person: h.id("person", login),
          login,
          name: login,
          title: "",
          mail: "",
          store: "",
          roles: ["buyer"],
          password: PASSWORD,
          series: "",
          active: "yes",
        }),
      );
    return h;
  };
  const trail = (h: TestHouse, act: string) =>
    sql<{ subject: string; detail: string }>(h.db, "SELECT subject, detail FROM audit WHERE act = ? ORDER BY id").all(
      act,
    );

  it("right passwords never shut out an address, wrong ones do", async () => {
    const h = await open("ines");
    for (let i = 0; i < 60; i++) must(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.0.0.1"), now));
    for (let i = 0; i < 40; i++) await signIn(h.db, { login: `guess-${i}`, password: "x" }, from("10.0.0.1"), now);
    expect(refusal(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.0.0.1"), now))[0]).toMatch(
      /Too many/,
    );
    must(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.0.0.2"), now));
    h.close();
  });

  it("strangers who guess a name do not shut its person out of their own device", async () => {
    const h = await open("maud");
    const device = { id: "the-office-desk", names: ["maud"] };
    for (let i = 0; i < 6; i++) await signIn(h.db, { login: "maud", password: "x" }, from("10.1.0.9"), now);
    expect(refusal(await signIn(h.db, { login: "maud", password: PASSWORD }, from("10.1.0.8"), now))[0]).toMatch(
      /Too many/,
    );
    must(await signIn(h.db, { login: "maud", password: PASSWORD }, from("10.1.0.8", device), now));
    // What is known of another name is worth nothing.
    const other = { id: "x", names: ["joss"] };
    expect(refusal(await signIn(h.db, { login: "maud", password: PASSWORD }, from("10.1.0.8", other), now))[0]).toMatch(
      /Too many/,
    );
    h.close();
  });

  it("checks few passwords of one address at the same time, and tells the others to come again", async () => {
    const h = await open("ines");
    const answers = await Promise.all(
      Array.from({ length: 20 }, () => signIn(h.db, { login: "ines", password: PASSWORD }, from("10.4.0.1"), now)),
    );
    expect(answers.filter((a) => a.ok)).toHaveLength(6);
    expect(refusal(answers.find((a) => !a.ok)!)).toEqual([
      "password: Very many sign in at this moment. Try again in a minute.",
    ]);
    must(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.4.0.1"), now));
    h.close();
  });

  it("leaves wrong tries and sign-outs in the trail, and names that nobody has out of it", async () => {
    const h = await open("halden");
    await signIn(h.db, { login: "halden", password: "x" }, from("10.2.0.1"), now);
    await signIn(h.db, { login: "nobody-at-all", password: "x" }, from("10.2.0.1"), now);
    const halden = `person ${h.id("person", "halden")}`;
    expect(trail(h, "person.sign-in-failed")).toEqual([{ subject: halden, detail: '{"address":"10.2.0.1"}' }]);
    const { token } = must(await signIn(h.db, { login: "halden", password: PASSWORD }, from("10.2.0.1"), now));
    endSession(h.db, token, now);
    endSession(h.db, token, now);
    expect(trail(h, "person.signed-out")).toEqual([{ subject: halden, detail: "{}" }]);
    h.close();
  });

  it("refuses passwords that everybody tries", async () => {
    const h = await open();
    for (const password of ["1234567890", "password123", "Qwertyuiop!", "abcabcabcabc"])
      expect(
        refusal(
          await keepPerson(h.desk("osk"), {
            person: "",
            login: "new",
            name: "New",
            title: "",
            mail: "",
            store: "",
            roles: ["buyer"],
            password,
            series: "",
            active: "yes",
          }),
        ),
        password,
      ).toEqual(["password: This password is among the first that anybody tries. Take another."]);
    h.close();
  });

  it("ends a session that nobody used for twelve hours, and all that an old password opened", async () => {
    const h = await open("ines");
    const later = (hours: number) => new Date(now.getTime() + hours * 3_600_000);
    const { token } = must(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.3.0.1"), now));
    expect(personOf(h.db, token, later(11))).toMatchObject({ login: "ines" });
    expect(personOf(h.db, token, later(22))).toMatchObject({ login: "ines" });
    expect(personOf(h.db, token, later(35))).toBeNull();
    const again = must(await signIn(h.db, { login: "ines", password: PASSWORD }, from("10.3.0.1"), now));
    const made = must(makeToken(h.desk("ines"), { name: "the spreadsheet", days: "30" }));
    must(
      await keepPerson(h.desk("osk"), {
        person: h.id("person", "ines"),
        login: "ines",
        name: "Ines",
        title: "",
        mail: "",
        store: "",
        roles: ["buyer"],
        password: "another one, and long",
        series: "",
        active: "yes",
      }),
    );
    expect(personOf(h.db, again.token, now)).toBeNull();
    expect(personOfToken(h.db, made.token, now, "2026-11-24")).toMatchObject({
      says: expect.stringMatching(/has ended/),
    });
    h.close();
  });

  it("a token that nobody used for ninety days opens nothing", async () => {
    const h = await open();
    const { token } = must(makeToken(h.desk("ines"), { name: "forgotten", days: "300" }));
    expect(personOfToken(h.db, token, new Date("2027-02-20T09:00:00Z"), "2027-02-20")).toMatchObject({ person: {} });
    expect(personOfToken(h.db, token, new Date("2027-06-20T09:00:00Z"), "2027-06-20")).toMatchObject({
      says: expect.stringMatching(/Nobody used this token for 90 days/),
    });
    h.close();
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
