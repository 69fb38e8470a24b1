import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { copyRequisition } from "../../acts/requisitions/copy-requisition";
import { saveRequisition, startRequisition, submitRequisition } from "../../acts/requisitions/raise-requisition";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { readRequisition } from "./requisition";
import { sightOf, withoutMoney } from "./sight";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

/** A requisition of Joss's for something nobody knows the cost of, told to the dock and to another asker. */
function asked(handedIn: boolean, quantity = "2"): number {
  const { requisition } = must(startRequisition(h.desk("joss")));
  must(
    saveRequisition(h.desk("joss"), {
      requisition,
      version: 1,
      store: h.id("store", "TQ"),
      neededBy: "2026-12-10",
      reason: "Refit",
      watchers: [h.id("person", "tobias"), h.id("person", "anders")],
      lines: [
        { item: null, words: "A diver for a day", kind: "service", quantity, estimate: "640.00", account: "" },
        { item: h.id("item", "OIL"), words: "", kind: "goods", quantity: "10", estimate: "", account: "" },
      ],
    }),
  );
  if (handedIn) must(submitRequisition(h.desk("joss"), { requisition, version: 2 }));
  return requisition;
}
const sight = (login: string, id: number) => sightOf(h.db, readRequisition(h.db, id)!, h.desk(login).person, TODAY);

describe("a requisition", () => {
  it("is its writer's alone until it is handed in, and then seen as each role may", () => {
    const draft = asked(false);
    expect(["joss", "ines", "tobias", "anders", "maud"].map((who) => sight(who, draft))).toEqual([
      "whole",
      null,
      null,
      null,
      null,
    ]);
    const handedIn = asked(true);
    expect(["joss", "ines", "tobias", "anders", "osk", "halden"].map((who) => sight(who, handedIn))).toEqual([
      "whole",
      "whole",
      "without money",
      "without money",
      "whole",
      null,
    ]);
  });

  it("without money holds none: no estimate, no sum, no limit", () => {
    const sheet = readRequisition(h.db, asked(true))!;
    expect(sheet.about).toBe(64_000 + 3_120);
    const seen = withoutMoney(sheet);
    expect([seen.about, seen.signings, ...seen.lines.flatMap((l) => [l.estimate, l.about, l.costKnown])]).toEqual([
      null,
      [],
      ...[null, null, false],
      ...[null, null, false],
    ]);
    expect(JSON.stringify(seen)).not.toMatch(/64000|67120|3120|80000/);
    expect(seen.lines.map((l) => l.quantity)).toEqual(sheet.lines.map((l) => l.quantity));
  });

  it("is copied by whoever was told of it only once it was handed in, and without what they may not see", () => {
    const draft = asked(false);
    expect(refusal(copyRequisition(h.desk("anders"), { requisition: draft }))).toEqual([
      "This requisition is not yours, or is gone.",
    ]);
    const handedIn = asked(true);
    const copy = must(copyRequisition(h.desk("anders"), { requisition: handedIn })).requisition;
    expect(readRequisition(h.db, copy)!.lines.map((l) => [l.words, l.estimate])).toEqual([
      ["A diver for a day", null],
      ["", null],
    ]);
    const own = must(copyRequisition(h.desk("joss"), { requisition: handedIn })).requisition;
    expect(readRequisition(h.db, own)!.lines.map((l) => l.estimate)).toEqual([64_000, null]);
  });

  it("that comes to more than can be kept is refused at its line", () => {
    h.db.prepare("UPDATE item SET reference_cost = 1000000000000000 WHERE code = 'OIL'").run();
    const { requisition } = must(startRequisition(h.desk("joss")));
    const line = { words: "", kind: "goods", estimate: "", account: "", item: h.id("item", "OIL") };
    const keep = (...quantities: string[]) =>
      saveRequisition(h.desk("joss"), {
        requisition,
        version: 1,
        store: h.id("store", "TQ"),
        neededBy: "",
        reason: "",
        lines: quantities.map((quantity) => ({ ...line, quantity })),
      });
    expect(refusal(keep("100000000"))).toEqual([
      "lines.0.quantity: This comes to more than can be kept. Surely it is a slip.",
    ]);
    expect(() => keep("90000", "90000")).toThrow(/more than can be kept exactly/);
    expect(readRequisition(h.db, requisition)!.lines).toEqual([]);
  });
});
