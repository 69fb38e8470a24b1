import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { BasisPoints } from "../../../core/numbers/money";
import { type Ladder, type Rules, type Signer, WIDE } from "../../../core/signoff/rulebook";
import { sql } from "../../db/open";
import { readDecision } from "../../queries/signoff/decision";
import { DECISION_COLUMNS, decisionsFile } from "../../queries/signoff/decisions-file";
import { rulebookOn } from "../../queries/signoff/rulebooks";
import { readSignings } from "../../queries/signoff/signings";
import { readWaitingSignatures } from "../../queries/signoff/waiting";
import { whoSigns } from "../../queries/signoff/who-signs";
import { keepRules, must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import type { Done } from "../desk";
import { loadFile } from "../files/load-file";
import { addLines } from "../orders/add-lines";
import { changeOrder } from "../orders/change-order";
import { moveLines } from "../orders/move-lines";
import { placeOrder } from "../orders/place-order";
import { reviseOrder } from "../orders/revise-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { writeOrders } from "../orders/write-orders";
import { saveRequisition, startRequisition, submitRequisition } from "../requisitions/raise-requisition";
import { dropAbsence, keepAbsence } from "../settings/keep-absence";
import { keepDepartment, keepTeam } from "../settings/keep-team";
import { handOver, takeBack } from "./hand-over";
import { importRules } from "./import-rules";
import { dropRulesDraft, keepRulesDraft, startRules, takeBackRules } from "./keep-rules";
import { answerQuestion, askQuestion } from "./questions";
import { sendBack, sign, signMany } from "./sign";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const paper = (id: number) => ({ paper: "order" as const, id, version: versionOf(h.db, "purchase_order", id) });
const state = (id: number) => stateOf(h.db, "purchase_order", id);
/** A draft of one line of oil; one drum at so much. */
const draft = (price: string, quantity = "1") => {
  const { order } = must(startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }));
  must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "OIL", quantity, price }] }));
  return order;
};
const submit = (order: OrderId) => must(submitOrder(h.desk("ines"), at(order))).waitsFor;
const submitted = (price: string) => {
  const order = draft(price);
  submit(order);
  return order;
};
const mine = (login: string) =>
  readWaitingSignatures(h.db, h.id("person", login), TODAY)
    .filter((w) => w.mine)
    .map((w) => w.paperId);
const reprice = (order: OrderId, price: string) => {
  const line = sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").get(order)!.id;
  must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line, price }] }));
};

describe("signing", () => {
  it("keeps the ladder, its version, the rungs and the amount with the paper", () => {
    const order = submitted("13000");
    const [signing] = readSignings(h.db, "order", order);
    expect(signing).toMatchObject({ ladder: "Orders", rulebook: 1, amount: 1_300_000, state: "In sign-off" });
    expect(signing!.sum!.steps.map((s) => s.label)).toEqual([
      "net, before tax",
      "nobody, up to",
      "Yard manager, within 8 hours, up to",
      "Finance director, within 8 hours",
    ]);
    must(sign(h.desk("maud"), paper(order)));
    expect(refusal(sign(h.desk("maud"), paper(order)))).toEqual(["This waits for the finance director."]);
    must(sign(h.desk("halden"), paper(order)));
    expect(state(order)).toBe("Cleared");
    expect(readSignings(h.db, "order", order)[0]!.seats.map((s) => s.signatures[0]!.person)).toEqual([
      "Maud",
      "Halden",
    ]);
  });

  it("is done once by two people at once, and never on a version that changed meanwhile", () => {
    const order = submitted("13000");
    const seen = paper(order);
    must(sign(h.desk("maud"), seen));
    const late = sign(h.desk("halden"), seen);
    expect(late).toMatchObject({ ok: false, stale: true });
    expect(refusal(late)[0]).toMatch(/it waits for the finance director now/);
    expect(state(order)).toBe("In sign-off");
  });

  it("is done for several at once, or for none of them", () => {
    const [one, two] = [submitted("900"), submitted("950")];
    const seen = [paper(one), paper(two)];
    must(sendBack(h.desk("maud"), { ...paper(two), reason: "too dear" }));
    expect(refusal(signMany(h.desk("maud"), { papers: seen }))[0]).toMatch(/^Order .*not waiting for a signature/);
    expect(state(one)).toBe("In sign-off");
    submit(two);
    expect(must(signMany(h.desk("maud"), { papers: [paper(one), paper(two)] }))).toEqual({ signed: 2 });
    expect([state(one), state(two)]).toEqual(["Cleared", "Cleared"]);
    const rows = sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'papers.signed'").get()!;
    expect(rows.n).toBe(1);
  });

  it("may be asked about: the writer answers once, and it waits on meanwhile", () => {
    const order = submitted("900");
    const due = mineDue(order);
    must(askQuestion(h.desk("maud"), { ...paper(order), text: "For which job?" }));
    expect(refusal(answerQuestion(h.desk("maud"), { ...paper(order), question: 0, text: "x" }))).toEqual([
      "Your role does not allow this.",
    ]);
    must(answerQuestion(h.desk("ines"), { ...paper(order), question: 0, text: "The winter refit." }));
    expect(refusal(answerQuestion(h.desk("ines"), { ...paper(order), question: 0, text: "Again" }))).toEqual([
      "This was answered already.",
    ]);
    expect(readSignings(h.db, "order", order)[0]!.questions).toMatchObject([
      { person: "Maud", text: "For which job?", answer: "The winter refit." },
    ]);
    expect(mineDue(order)).toBe(due);
  });
  const mineDue = (order: OrderId) =>
    readWaitingSignatures(h.db, h.id("person", "maud"), TODAY).find((w) => w.paperId === order)!.due;

  it("is handed over to somebody who may sign, never to its writer", () => {
    const order = submitted("900");
    const to = (login: string) => ({ ...paper(order), to: h.id("person", login) });
    expect(refusal(handOver(h.desk("maud"), to("tobias")))).toEqual(["to: Choose somebody who may sign."]);
    expect(refusal(handOver(h.desk("maud"), to("ines")))).toEqual(["It cannot be handed to whoever wrote it."]);
    must(handOver(h.desk("maud"), to("halden")));
    expect(refusal(sign(h.desk("maud"), paper(order)))).toEqual(["This waits for the yard manager."]);
    must(sign(h.desk("halden"), paper(order)));
    expect(state(order)).toBe("Cleared");
  });

  it("is taken back by its writer, and starts anew", () => {
    const order = submitted("13000");
    must(sign(h.desk("maud"), paper(order)));
    expect(refusal(takeBack(h.desk("maud"), paper(order)))).toEqual(["Your role does not allow this."]);
    must(takeBack(h.desk("ines"), paper(order)));
    expect(state(order)).toBe("Draft");
    expect(submit(order)).toBe("Yard manager");
    expect(readSignings(h.db, "order", order).map((s) => s.state)).toEqual(["Draft", "In sign-off"]);
  });
});

describe("while somebody is away", () => {
  const away = (login: string, by: string | null, starts = TODAY, ends = addDays(TODAY, 3)) =>
    keepAbsence(h.desk("osk"), {
      person: h.id("person", login),
      standIn: by && h.id("person", by),
      starts,
      ends,
    });

  it("a stand-in signs, and both names are kept", () => {
    const order = submitted("900");
    expect(mine("halden")).toEqual([]);
    must(away("maud", "halden"));
    expect(mine("halden")).toEqual([order]);
    must(sign(h.desk("halden"), paper(order)));
    expect(readSignings(h.db, "order", order)[0]!.seats[0]!.signatures).toMatchObject([
      { person: "Halden", forWhom: "Maud" },
    ]);
  });

  it("nobody stands in for themselves through others, or without a role that signs", () => {
    must(away("maud", "halden"));
    expect(refusal(away("halden", "maud"))[0]).toMatch(/^standIn: They are away in these days/);
    must(away("halden", null));
    expect(refusal(away("ines", "tobias"))).toEqual(["standIn: They may not sign: choose somebody whose role does."]);
    expect(refusal(away("maud", "halden"))).toEqual([
      "starts: Some of these days are entered already. Take those away first.",
    ]);
    expect(refusal(away("ines", null, addDays(TODAY, 3), TODAY))).toEqual(["ends: The last day is before the first."]);
  });

  it("a stand-in who wrote the paper does not sign it", () => {
    const order = submitted("900");
    must(away("maud", "ines"));
    expect(mine("ines")).toEqual([]);
    expect(refusal(sign(h.desk("ines"), paper(order)))).toEqual(["Nobody signs their own paper."]);
  });

  it("one enters and takes away one's own days, and not those of others", () => {
    must(keepAbsence(h.desk("maud"), { person: "", standIn: "", starts: TODAY, ends: TODAY }));
    const { id } = sql<{ id: number }>(h.db, "SELECT id FROM absence").get()!;
    expect(refusal(dropAbsence(h.desk("halden"), { absence: id }))).toEqual(["Your role does not allow this."]);
    must(dropAbsence(h.desk("maud"), { absence: id }));
    expect(refusal(dropAbsence(h.desk("maud"), { absence: id }))).toEqual(["These days were taken away already."]);
  });
});

describe("a change after sign-off", () => {
  const cleared = (price: string) => {
    const order = submitted(price);
    must(sign(h.desk("maud"), paper(order)));
    return order;
  };

  it("carries on within 2 % or 100.00, and is signed again beyond, summed over all versions", () => {
    const order = cleared("4310");
    const resubmit = (price: string) => {
      must(reviseOrder(h.desk("ines"), at(order)));
      reprice(order, price);
      return submit(order);
    };
    expect(resubmit("4390")).toBeNull(); // 80.00 of 86.20
    expect(state(order)).toBe("Cleared");
    expect(readSignings(h.db, "order", order).at(-1)).toMatchObject({ carried: true, seats: [] });
    expect(resubmit("4400")).toBe("Yard manager"); // 90.00 since it was signed
    must(sign(h.desk("maud"), paper(order)));
    expect(resubmit("4480")).toBeNull(); // measured against 4,400.00 now
  });

  it("is none where it shrinks; a draft cannot be placed meanwhile", async () => {
    const order = cleared("4310");
    must(reviseOrder(h.desk("ines"), at(order)));
    expect(refusal(await placeOrder(h.desk("ines"), at(order)))[0]).toMatch(/cannot be placed/);
    reprice(order, "900");
    expect(submit(order)).toBeNull();
    expect(refusal(reviseOrder(h.desk("ines"), { order, version: 1 }))[0]).toMatch(/changed by somebody else/);
  });
});

const team = (n: number): Signer => ({ kind: "team", team: n, all: false });
const ladder = (change: Partial<Ladder> = {}): Ladder => ({
  id: 1,
  name: "Orders",
  papers: ["order"],
  ...WIDE,
  rungs: [
    { upTo: 50_000, who: null, hours: 8, climbsTo: null },
    { upTo: null, who: team(2), hours: 8, climbsTo: null },
  ],
  ...change,
});
const rules = (...ladders: Ladder[]): Rules => ({
  allowance: { percent: 200 as BasisPoints, amount: 10_000 },
  ladders,
});

describe("rules", () => {
  const keep = (of: Rules, version = 0) => keepRulesDraft(h.desk("osk"), { version, rules: of });
  const start = (version: number, starts: string = TODAY) => startRules(h.desk("osk"), { version, starts });

  it("are written as a draft, start on a day, and a paper keeps the version it came under", () => {
    const before = submitted("900");
    must(keep(rules(ladder())));
    expect(refusal(start(1, addDays(TODAY, -1)))).toEqual([
      "starts: Rules start today or later: nothing is judged by them afterwards.",
    ]);
    must(start(1));
    const after = submitted("900");
    expect(readSignings(h.db, "order", before)[0]).toMatchObject({ rulebook: 1, seats: [{ name: "Yard manager" }] });
    expect(readSignings(h.db, "order", after)[0]).toMatchObject({ rulebook: 2, seats: [{ name: "Finance director" }] });
    must(sign(h.desk("maud"), paper(before)));
    expect(state(before)).toBe("Cleared");
  });

  it("hold from their day on, and those to come can be taken back", () => {
    must(keep(rules(ladder())));
    must(start(1, addDays(TODAY, 6)));
    expect(rulebookOn(h.db, TODAY)!.version).toBe(1);
    expect(rulebookOn(h.db, addDays(TODAY, 6))!.version).toBe(2);
    must(takeBackRules(h.desk("osk"), { version: 2 }));
    expect(rulebookOn(h.db, addDays(TODAY, 6))!.version).toBe(1);
    expect(refusal(takeBackRules(h.desk("osk"), { version: 1 }))[0]).toMatch(/hold already/);
    expect(() => sql(h.db, "UPDATE rulebook SET rules = '{}' WHERE version = 1").run()).toThrow(/never changed/);
  });

  it("do not start with bands that overlap or a rung of nobody, and point at nothing that is not there", () => {
    const rung = (upTo: number | null, who: Signer | null) => ({ upTo, who, hours: 8, climbsTo: null });
    must(keep(rules(ladder({ rungs: [rung(90_000, null), rung(80_000, team(1)), rung(null, team(2))] }))));
    expect(refusal(start(1))).toEqual(["Orders: It is never reached: a rung below goes as high."]);
    sql(h.db, "UPDATE person SET active = 0 WHERE login = 'halden'").run();
    must(keep(rules(ladder()), 1));
    expect(refusal(start(2))).toEqual(["Orders: There is nobody who could sign as the finance director."]);
    expect(refusal(keep(rules(ladder({ stores: [99] }), ladder({ id: 2 })), 2))).toEqual([
      "ladders.0.name: Two ladders have this name.",
      "ladders.0.stores: There is no such store.",
      "ladders.1.name: Two ladders have this name.",
    ]);
  });

  it("are written by one at a time", () => {
    must(keep(rules(ladder())));
    expect(keep(rules())).toMatchObject({ ok: false, stale: true });
    must(dropRulesDraft(h.desk("osk"), { version: 1 }));
    expect(refusal(start(1))).toEqual(["There is nothing that was changed."]);
    expect(refusal(keepRulesDraft(h.desk("ines"), { version: 0, rules: rules() }))).toEqual([
      "Your role does not allow this.",
    ]);
  });

  it("narrow by department, and by what the writer may sign themselves", () => {
    const { department } = must(keepDepartment(h.desk("osk"), { department: "", name: "Yard", active: "on" }));
    keepRules(
      h.db,
      rules(
        ladder({
          name: "Yard",
          departments: [department],
          own: 100_000,
          rungs: [{ upTo: null, who: { kind: "person", person: h.id("person", "ines") }, hours: 8, climbsTo: null }],
        }),
        ladder({ id: 2, name: "All" }),
      ),
    );
    const elsewhere = submitted("900");
    expect(readSignings(h.db, "order", elsewhere)[0]!.ladder).toBe("All");
    sql(h.db, "UPDATE person SET department = ? WHERE login = 'ines'").run(department);
    const own = submitted("900");
    expect(readSignings(h.db, "order", own)[0]!.ladder).toBe("Yard");
    must(sign(h.desk("ines"), paper(own)));
    expect(state(own)).toBe("Cleared");
    const tooMuch = draft("1100");
    expect(refusal(submitOrder(h.desk("ines"), at(tooMuch)))).toEqual([
      "Nobody but its writer could sign as Ines, so it cannot be submitted.",
    ]);
  });

  it("come from a file and go into one, by names", async () => {
    const { rulesToFile } = await import("../../../exchange/rules/rules-file");
    const { readRuleNames } = await import("../../queries/signoff/rule-names");
    const book = rulebookOn(h.db, TODAY)!;
    const file = rulesToFile(book, readRuleNames(h.db), "EUR");
    const send = (what: unknown) =>
      importRules(h.desk("osk"), Buffer.from(typeof what === "string" ? what : JSON.stringify(what)));
    must(send(file));
    must(start(1));
    const again = rulesToFile(rulebookOn(h.db, TODAY)!, readRuleNames(h.db), "EUR");
    expect(again).toEqual(file);
    expect(refusal(send("{"))).toEqual(["file: This is no JSON file."]);
    expect(refusal(send({ ...file, currency: "SEK" }))).toEqual(["file: Its amounts are in SEK, and ours in EUR."]);
    expect(refusal(send({ ...file, format: "x" }))[0]).toMatch(/^file: This is no file of rules: format/);
    const ladders = file.ladders.map((l) => ({ ...l, stores: ["XX"] }));
    expect(refusal(send({ ...file, ladders }))).toEqual(["file: There is no store “XX” here."]);
    sql(h.db, "UPDATE item SET category = 'Oils' WHERE code = 'OIL'").run();
    const filed = (category: string) => ({
      ...file,
      ladders: file.ladders.map((l) => ({ ...l, categories: [category] })),
    });
    expect(refusal(send(filed("Oill")))).toEqual(["file: No item is filed under “Oill” here."]);
    must(await send(filed("oils")));
    must(start(1));
    expect(rulebookOn(h.db, TODAY)!.ladders[0]!.categories).toEqual(["Oils"]);
    const strange = { ...file, ladders: file.ladders.map((l) => ({ ...l, vessels: ["Marram"] })) };
    expect(refusal(send(strange))[0]).toMatch(/^file: This is no file of rules: ladders.0, .*vessels/);
  });

  it("do not start with a category that nothing is filed under, and take no field that nobody knows", () => {
    must(keep(rules(ladder({ categories: ["Oill"] }))));
    expect(refusal(start(1))).toEqual(["Orders: No item is filed under “Oill”."]);
    const strange = { ...rules(ladder()), vessels: [1] };
    expect(refusal(keepRulesDraft(h.desk("osk"), { version: 1, rules: strange }))).toEqual([
      "rules.vessels: There is no such field.",
    ]);
    const asked = whoSigns(h.db, h.desk("osk").person, TODAY, {
      kind: "order",
      amount: "900",
      category: "Oill",
      vessel: "x",
    });
    expect(refusal(asked)).toEqual(["vessel: There is no such field."]);
    expect(
      refusal(whoSigns(h.db, h.desk("osk").person, TODAY, { kind: "order", amount: "900", category: "Oill" })),
    ).toEqual(["category: No item is filed under “Oill”."]);
  });
});

describe("a paper over its budget", () => {
  const over = (overBudget: Ladder["overBudget"]) => {
    must(
      loadFile(
        h.desk("osk"),
        "budgets",
        Buffer.from("code,name,starts,ends,amount\nOILS,Oils,2026-01-01,2027-12-31,500.00\n"),
        ".",
      ) as Done<unknown>,
    );
    keepRules(h.db, rules(ladder({ overBudget })));
    const budget = sql<{ id: number }>(h.db, "SELECT id FROM budget").get()!.id;
    return (price: string) => {
      const order = draft(price);
      const line = sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").get(order)!.id;
      must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line, budget }] }));
      return order;
    };
  };

  it("meets a rung more, and says so", () => {
    const write = over({ who: team(1), hours: 6, climbsTo: null });
    expect(submit(write("450"))).toBeNull();
    const order = write("60"); // 450.00 of 500.00 are taken
    expect(submit(order)).toBe("Yard manager");
    const [signing] = readSignings(h.db, "order", order);
    expect(signing!.seats).toMatchObject([{ name: "Yard manager", hours: 6 }]);
    expect(signing!.sum!.steps.at(-1)).toMatchObject({ figure: { text: "over budget" } });
  });

  it("shows whoever signs the budget before it and after", () => {
    const write = over("nothing");
    submit(write("100"));
    const order = write("550");
    submit(order);
    const seen = () => readDecision(h.db, "order", order, TODAY, 9)!.budgets[0]!;
    expect(seen()).toMatchObject({ figures: { ordered: 10_000 }, wish: 55_000, left: -15_000 });
    must(sign(h.desk("halden"), paper(order)));
    expect(seen()).toMatchObject({ figures: { ordered: 65_000 }, wish: 0, left: -15_000 });
  });

  it("is blocked where the ladder says so", () => {
    const order = over("block")("501");
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([
      "It is over its budget, and the ladder “Orders” lets nothing through that is.",
    ]);
  });
});

describe("teams", () => {
  it("of nobody, and closed ones, sign nothing", () => {
    const yard = sql<{ id: number }>(h.db, "SELECT id FROM team WHERE name = 'Yard manager'").get()!.id;
    const keep = (members: number[], active = "on") =>
      must(keepTeam(h.desk("osk"), { team: yard, name: "Yard manager", members, active }));
    keep([]);
    const says = "There is nobody who could sign as the yard manager, so it cannot be submitted.";
    const order = draft("900");
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([says]);
    keep([h.id("person", "maud")], "");
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([says]);
    keep([h.id("person", "maud")]);
    expect(submit(order)).toBe("Yard manager");
    expect(refusal(keepTeam(h.desk("osk"), { team: "", name: "yard manager", members: [] }))).toEqual([
      "name: There is a team of this name.",
    ]);
  });
});

describe("decisions as a file", () => {
  it("have who decided what when and how long it took, and nothing in them is a formula", () => {
    const order = submitted("900");
    must(sendBack(h.desk("maud"), { ...paper(order), reason: "=SUM(A1)" }));
    submit(order);
    must(sign({ ...h.desk("maud"), now: `${TODAY}T12:30:00.000Z` }, paper(order)));
    const rows = [...decisionsFile(h.db, TODAY, TODAY)].map((r) => r.trim().split(","));
    expect(rows[0]).toEqual([...DECISION_COLUMNS]);
    expect(rows[1]).toEqual(expect.arrayContaining(["order", "26-1001", "900.00", "sent back", "'=SUM(A1)"]));
    expect(rows[2]).toEqual(expect.arrayContaining(["2", "Yard manager", "maud", "signed"]));
    expect(rows).toHaveLength(3);
    expect([...decisionsFile(h.db, addDays(TODAY, 1), addDays(TODAY, 9))]).toHaveLength(1);
  });
});

describe("who would sign, for other programs", () => {
  const ask = (login: string, what: object) => whoSigns(h.db, h.desk(login).person, TODAY, what);

  it("is told with why, in home currency", () => {
    const answer = must(ask("ines", { kind: "order", amount: "13000.00", store: "tq" }));
    expect(answer).toMatchObject({
      clear: true,
      rules: 1,
      ladder: "Orders",
      amount: "13000.00",
      currency: "EUR",
      signatures: [
        { rung: 2, name: "Yard manager", people: ["Maud"], hours: 8 },
        { rung: 3, name: "Finance director", people: ["Halden"] },
      ],
    });
    expect(must(ask("ines", { kind: "change", amount: "10" }))).toMatchObject({ clear: false, signatures: [] });
  });

  it("names what is wrong, and shows others’ papers only to those who see the rules", () => {
    expect(refusal(ask("ines", { kind: "order", amount: "10", currency: "SEK", supplier: "ZZZ" }))).toEqual([
      "supplier: There is no such supplier.",
      "currency: No rate for SEK is known on that day, so nobody can say who must sign.",
    ]);
    expect(refusal(ask("joss", { kind: "requisition", amount: "10", asker: "anders" }))).toEqual([
      "asker: Your role only shows who would sign your own papers.",
    ]);
    must(ask("joss", { kind: "requisition", amount: "10" }));
  });
});

describe("whoever had a hand in a paper", () => {
  const YOURS = "You wrote, changed or asked for this yourself, so somebody else has to sign it.";
  const role = (login: string, name: string) =>
    sql(h.db, "INSERT INTO person_role (person, role) VALUES (?, ?)").run(h.id("person", login), name);
  const team = (name: string, login: string) =>
    sql(h.db, "INSERT INTO team_member (team, person) SELECT id, ? FROM team WHERE name = ?").run(
      h.id("person", login),
      name,
    );
  /** Maud buys, too, and Halden may sign as the yard manager, so that others can. */
  const maudBuys = () => {
    role("maud", "buyer");
    team("Yard manager", "halden");
  };
  const lineOf = (order: OrderId) =>
    sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").get(order)!.id;
  const setPrice = (login: string, order: OrderId, price: string) =>
    must(changeOrder(h.desk(login), { ...at(order), lines: [{ line: lineOf(order), price }] }));
  const handIn = (login: string, order: OrderId) => must(submitOrder(h.desk(login), at(order)));

  it("wrote it in another's name, and does not sign it", () => {
    maudBuys();
    const { order } = must(
      startOrder(h.desk("maud"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }),
    );
    must(addLines(h.desk("maud"), { ...at(order), add: [{ code: "OIL", quantity: "1", price: "9000" }] }));
    must(changeOrder(h.desk("maud"), { ...at(order), buyer: h.id("person", "ines") }));
    handIn("maud", order);
    expect(mine("maud")).toEqual([]);
    expect(refusal(sign(h.desk("maud"), paper(order)))).toEqual([YOURS]);
    expect(refusal(sendBack(h.desk("maud"), { ...paper(order), reason: "no more" }))).toEqual([YOURS]);
    must(sign(h.desk("halden"), paper(order)));
    expect(state(order)).toBe("Cleared");
  });

  it("helped as the manager of its writer, and nobody is left who could sign", () => {
    role("maud", "buyer");
    sql(h.db, "UPDATE person SET manager = ? WHERE id = ?").run(h.id("person", "maud"), h.id("person", "ines"));
    const { rules } = { rules: rulebookOn(h.db, TODAY)! };
    keepRules(h.db, {
      allowance: rules.allowance,
      ladders: rules.ladders.map((l) => ({
        ...l,
        rungs: [{ upTo: null, who: { kind: "manager" as const }, hours: 8, climbsTo: null }],
      })),
    });
    const order = draft("900");
    setPrice("maud", order, "9000");
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([
      "Only who wrote, changed or asked for it could sign as the manager of Ines, so it cannot be submitted.",
    ]);
  });

  it("edited another's draft up, or sent it back and raised it", () => {
    maudBuys();
    const one = draft("900");
    setPrice("maud", one, "9000");
    submit(one);
    expect(refusal(sign(h.desk("maud"), paper(one)))).toEqual([YOURS]);

    const two = submitted("900");
    must(sendBack(h.desk("maud"), { ...paper(two), reason: "too little" }));
    setPrice("maud", two, "9000");
    handIn("maud", two);
    expect(refusal(sign(h.desk("maud"), paper(two)))).toEqual([YOURS]);
    must(sign(h.desk("halden"), paper(two)));
    // What was signed since is a new start: Maud may sign what Ines changes now.
    must(reviseOrder(h.desk("ines"), at(two)));
    setPrice("ines", two, "9900");
    submit(two);
    must(sign(h.desk("maud"), paper(two)));
    expect(state(two)).toBe("Cleared");
  });

  it("asked for what it buys", () => {
    team("Yard manager", "halden");
    role("maud", "requester");
    const { requisition } = must(startRequisition(h.desk("maud")));
    const of = () => ({ requisition, version: versionOf(h.db, "requisition", requisition) });
    must(
      saveRequisition(h.desk("maud"), {
        ...of(),
        store: h.id("store", "TQ"),
        neededBy: "2026-12-20",
        reason: "Refit",
        lines: [{ item: h.id("item", "OIL"), words: "", quantity: "200", estimate: "", account: "" }],
      }),
    );
    must(submitRequisition(h.desk("maud"), of()));
    const key = `r:${sql<{ id: number }>(h.db, "SELECT id FROM requisition_line WHERE requisition = ?").get(requisition)!.id}`;
    const [order] = must(writeOrders(h.desk("ines"), { picks: [{ need: key }] })).orders;
    setPrice("ines", order!, "9000");
    submit(order!);
    expect(refusal(sign(h.desk("maud"), paper(order!)))).toEqual([YOURS]);
    must(sign(h.desk("halden"), paper(order!)));
  });

  it("takes it along when lines are moved, and hands it neither over nor to a stand-in", () => {
    maudBuys();
    const from = draft("900");
    setPrice("maud", from, "9000");
    const { order } = must(moveLines(h.desk("ines"), { ...at(from), to: `supplier:${h.id("supplier", "TTL")}` }));
    submit(order);
    expect(refusal(sign(h.desk("maud"), paper(order)))).toEqual([YOURS]);
    expect(refusal(handOver(h.desk("halden"), { ...paper(order), to: h.id("person", "maud") }))).toEqual([
      "It cannot be handed to whoever had a hand in it.",
    ]);
    must(
      keepAbsence(h.desk("halden"), {
        person: h.id("person", "halden"),
        standIn: h.id("person", "maud"),
        starts: TODAY,
        ends: TODAY,
      }),
    );
    expect(refusal(sign(h.desk("maud"), paper(order)))).toEqual([YOURS]);
    expect(state(order)).toBe("In sign-off");
    // Whoever is away may still sign themselves.
    must(sign(h.desk("halden"), paper(order)));
    expect(state(order)).toBe("Cleared");
  });
});

describe("what nobody signed", () => {
  it("is no base to carry on from: 800.00 that nobody had to sign becomes 816.00, and is signed", () => {
    const order = draft("800");
    expect(submit(order)).toBeNull();
    must(reviseOrder(h.desk("ines"), at(order)));
    reprice(order, "816");
    expect(submit(order)).toBe("Yard manager");
    must(sign(h.desk("maud"), paper(order)));
    must(reviseOrder(h.desk("ines"), at(order)));
    reprice(order, "830");
    expect(submit(order)).toBeNull();
    expect(readSignings(h.db, "order", order).map((s) => s.carried)).toEqual([false, false, true]);
  });

  it("is signed where it becomes of a category with a lower limit", () => {
    const { allowance, ladders } = rulebookOn(h.db, TODAY)!;
    const yard = ladders[0]!.rungs[1]!.who;
    const strict: Ladder = {
      ...ladders[0]!,
      id: 9,
      name: "Ropes",
      categories: ["Ropes"],
      rungs: [{ upTo: null, who: yard, hours: 8, climbsTo: null }],
    };
    keepRules(h.db, { allowance, ladders: [strict, ...ladders] });
    sql(h.db, "UPDATE item SET category = 'Ropes' WHERE code = 'ROP'").run();
    const order = draft("790");
    expect(submit(order)).toBeNull();
    must(reviseOrder(h.desk("ines"), at(order)));
    reprice(order, "1");
    must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "ROP", quantity: "1", price: "789" }] }));
    expect(submit(order)).toBe("Yard manager");
  });

  it("is signed after all where the rate of the day lifts it over the limit before it is placed", async () => {
    must(
      loadFile(h.desk("osk"), "rates", Buffer.from("currency,day,rate\nGBP,2026-11-20,1.10\n"), ".") as Done<unknown>,
    );
    sql(h.db, "UPDATE supplier SET currency = 'GBP' WHERE code = 'TTL'").run();
    const order = draft("720");
    expect(submit(order)).toBeNull();
    must(
      loadFile(h.desk("osk"), "rates", Buffer.from("currency,day,rate\nGBP,2026-11-24,1.12\n"), ".") as Done<unknown>,
    );
    expect(refusal(await placeOrder(h.desk("ines"), at(order)))[0]).toMatch(/more than was signed/);
  });
});

describe("freight of the supplier", () => {
  it("is spent, so it is signed for, and the sum says so; a blanket order brings none", () => {
    sql(h.db, "UPDATE supplier SET freight = 2000 WHERE code = 'TTL'").run();
    const order = draft("790");
    expect(submit(order)).toBe("Yard manager");
    const [signing] = readSignings(h.db, "order", order);
    expect(signing!.amount).toBe(81_000);
    expect(signing!.sum!.steps.slice(0, 3)).toMatchObject([
      { label: "lines, before tax", figure: { minor: 79_000 } },
      { label: "freight of the supplier", figure: { minor: 2_000 } },
      { label: "net, before tax", figure: { minor: 81_000 } },
    ]);
  });

  it("asks one person who stands on two rungs twice: each rung is a decision of its own", () => {
    sql(h.db, "INSERT INTO team_member (team, person) SELECT id, ? FROM team WHERE name = 'Finance director'").run(
      h.id("person", "maud"),
    );
    const order = submitted("13000");
    must(sign(h.desk("maud"), paper(order)));
    expect(state(order)).toBe("In sign-off");
    must(sign(h.desk("maud"), paper(order)));
    expect(state(order)).toBe("Cleared");
  });
});
