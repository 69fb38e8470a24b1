import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../db/open";
import { brokenTruths } from "../queries/always-true";
import { must, refusal, type TestHouse, testHouse } from "../testing";
import { endToken, makeToken, personOfToken, readTokens } from "./tokens";

const NOW = new Date("2026-11-24T10:00:00Z");
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const who = (token: string, day = "2026-11-24") => {
  const found = personOfToken(h.db, token, NOW, day);
  return "says" in found ? found.says : found.person.name;
};

describe("a personal access token", () => {
  it("opens what its person may, until it ends; the file holds only its hash", () => {
    const { token } = must(makeToken(h.desk("ines"), { name: "the spreadsheet", days: "30" }));
    expect([who(token), who("wt_somethingelse")]).toEqual(["Ines", "There is no such token."]);
    expect([who(token, "2026-12-24"), who(token, "2026-12-25")]).toEqual([
      "Ines",
      "This token has ended. Make another on your own page.",
    ]);
    const everything = JSON.stringify([
      sql(h.db, "SELECT * FROM access_token").all(),
      sql(h.db, "SELECT * FROM audit").all(),
      sql(h.db, "SELECT * FROM submission").all(),
    ]);
    expect(everything).not.toContain(token);
    expect(readTokens(h.db, h.id("person", "ines"))).toMatchObject([
      { name: "the spreadsheet", used: NOW.toISOString() },
    ]);
  });
  it("ends at once, by its own person alone, and with the person", () => {
    const { token } = must(makeToken(h.desk("ines"), { name: "one", days: "30" }));
    const { id } = readTokens(h.db, h.id("person", "ines"))[0]!;
    expect(refusal(endToken(h.desk("osk"), { token: id }))).toEqual(["This token has ended already."]);
    sql(h.db, "UPDATE person SET active = 0 WHERE login = 'ines'").run();
    expect(who(token)).toBe("Whoever made this token no longer works here.");
    sql(h.db, "UPDATE person SET active = 1 WHERE login = 'ines'").run();
    must(endToken(h.desk("ines"), { token: id }));
    expect(who(token)).toMatch(/has ended/);
  });
  it("is shown once, even where the button is pressed twice", () => {
    must(makeToken(h.desk("ines", "pressed-twice"), { name: "one", days: "30" }));
    expect(refusal(makeToken(h.desk("ines", "pressed-twice"), { name: "one", days: "30" }))[0]).toMatch(/made already/);
    expect(readTokens(h.db, h.id("person", "ines")).length).toBe(1);
    expect(refusal(makeToken(h.desk("ines"), { name: "", days: "0" }))).toEqual([
      "name: What is it for?",
      "days: A whole number from 1 to 730.",
    ]);
  });
});
