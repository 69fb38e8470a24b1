import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../db/open";
import { must, refusal, type TestHouse, testHouse } from "../testing";
import { done, once } from "./desk";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

describe("one key", () => {
  const note = (sent: string, login = "ines", key = "one-and-the-same-key") =>
    once({ ...h.desk(login, key), sent }, "plan", (tx) => {
      tx.record("noted", "nothing", { sent });
      return done({ sent });
    });
  const rows = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'noted'").get()!.n;

  it("is one act: repeated it answers as it did, and for something else it is refused", () => {
    expect(must(note("hold"))).toEqual({ sent: "hold" });
    expect(must(note("hold"))).toEqual({ sent: "hold" });
    expect(refusal(note("save"))).toEqual([
      "This was sent before under the same key, for something else. Load the page again.",
    ]);
    expect(rows()).toBe(1);
  });

  it("is the person's own, and what is refused takes none", () => {
    expect(note("x", "joss")).toMatchObject({ ok: false, forbidden: true });
    must(note("hold"));
    expect(rows()).toBe(1);
  });
});
