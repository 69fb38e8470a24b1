import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { BudgetId } from "../../../core/ids";
import { selfBilledInvoiceXml } from "../../../exchange/ubl/self-billed-invoice";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readBudgetPapers } from "../../queries/budgets/budgets";
import { readOrderHead } from "../../queries/orders/order";
import { readClaims, readInvoice } from "../../queries/settling/invoices";
import { billableOf } from "../../queries/settling/ordered";
import { readPayables } from "../../queries/settling/payables";
import { selfBilledInvoice } from "../../queries/settling/self-billed";
import { readDecision } from "../../queries/signoff/decision";
import { readWaitingSignatures } from "../../queries/signoff/waiting";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { changePlaced } from "../orders/change-placed";
import { keepTolerance } from "../receiving/keep-tolerance";
import { countIn, placedOrder, stockAt } from "../receiving/testing";
import { undoReceipt } from "../receiving/undo-receipt";
import { takeBack } from "../signoff/hand-over";
import { sendBack, sign } from "../signoff/sign";
import { claimLater } from "./claim-later";
import { enterCredit } from "./credit-note";
import { claimHold, dropClaim, passHold, sendInvoiceBack, takeInvoiceOff } from "./decide-invoice";
import { handUp } from "./hand-up";
import { takePriceIntoList } from "./list-price";
import { payByHand, takePaymentBack } from "./pay";
import { enterTheirs, exampleOrder, settlingJournal, theirs, versionOf } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const example = (drums?: string) => exampleOrder(h, drums);
const enter = (more: Record<string, unknown>, who?: string) => enterTheirs(h, more, who);
const at = (invoice: number) => versionOf(h, invoice);
const journal = () => settlingJournal(h);
const head = (invoice: number) => readInvoice(h.db, invoice)!.head;

describe("an invoice", () => {
  it("of the design's example is held for one drum, claimed, and booked to the cent", async () => {
    const x = await example();
    const { invoice, state } = must(enter({ lines: theirs(x), total: "4583.64" }));
    expect(state).toBe("Held");
    expect(head(invoice)).toMatchObject({
      turn: "dock",
      net: 3_819_70,
      tax: 763_94,
      total: 4_583_64,
      due: "2026-12-24",
    });
    const stock = stockAt(h, "OIL").value;
    const claimed = must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    expect(claimed.state).toBe("Matched");
    expect(readClaims(h.db)).toMatchObject([
      { number: "L26-1001", quantity: 10_000, net: 617_50, tax: 123_50, home: 741_00, state: "Open" },
    ]);
    expect(journal()).toEqual({
      // The freight is an expense here: with it, 3,228.20.
      "received not invoiced": 3_133_20,
      expense: 95_00,
      "input tax": 640_44,
      claims: 741_00,
      "price variance": -26_00,
      payable: -4_583_64,
    });
    expect(stockAt(h, "OIL").value).toBe(stock);
    expect(sql(h.db, "SELECT total, home_total AS home, due, ended FROM payable").all()).toEqual([
      { total: 4_583_64, home: 4_583_64, due: "2026-12-24", ended: null },
    ]);
    expect(sql(h.db, "SELECT invoiced FROM order_line ORDER BY position").pluck().all()).toEqual([
      40_000, 30_000, 10_000,
    ]);
  });

  it("matches at once where it agrees, and by itself when the goods come", async () => {
    const x = await example();
    const right = [
      { line: x.oil, quantity: "4" },
      { line: x.grease, quantity: "3" },
      { line: x.freight, quantity: "1" },
    ];
    expect(must(enter({ lines: right, total: "3873.84" })).state).toBe("Matched");
    expect(journal()).toEqual({
      "received not invoiced": 3_133_20,
      expense: 95_00,
      "input tax": 645_64,
      payable: -3_873_84,
    });
    // The drum is billed before it is here, and waits for it.
    const { invoice } = must(enter({ number: "TT-40190", lines: [{ line: x.oil, quantity: "1" }] }));
    expect(head(invoice)).toMatchObject({ state: "Held", turn: "dock" });
    must(countIn(h, x.order, [{ line: x.oil, counted: "1" }]));
    expect(head(invoice).state).toBe("Matched");
    expect(billableOf(h.db, h.id("supplier", "TTL"))).toEqual([]);
    expect(journal()["received not invoiced"]).toBe(5 * 624_00 + 637_20);
  });

  it("comes first of all, and waits for the dock", async () => {
    const x = await example("0");
    const { invoice } = must(enter({ lines: theirs(x) }));
    expect(readInvoice(h.db, invoice)!.open.map((o) => [o.reason, o.position, o.beyond])).toEqual([
      ["quantity", 1, 50_000],
      ["quantity", 2, 30_000],
    ]);
    expect(journal()).toEqual({});
    must(
      countIn(h, x.order, [
        { line: x.oil, counted: "5" },
        { line: x.grease, counted: "3" },
      ]),
    );
    expect(head(invoice).state).toBe("Matched");
    expect(journal()["price variance"]).toBe(-32_50);
  });

  it("is not entered twice, however its number is spelt; one that looks like it is asked about", async () => {
    const x = await example();
    must(enter({ lines: [{ line: x.grease, quantity: "3" }] }));
    for (const number of ["TT-40117", "tt 40117", "TT–040117"])
      expect(refusal(enter({ number, lines: [{ line: x.oil, quantity: "1" }] }))).toEqual([
        "number: Invoice TT-40117 of Tue 24 Nov is here already: the same number is not paid twice.",
      ]);
    const twin = enter({ number: "TT-40118", lines: [{ line: x.grease, quantity: "3" }] });
    expect(twin).toMatchObject({ ok: false, problems: [{ field: "another" }] });
    expect(refusal(twin)[0]).toMatch(
      /Invoice TT-40117 of Tue 24 Nov is of the same day and amount and comes to 764.64 EUR/,
    );
    expect(must(enter({ number: "TT-40118", another: "yes", lines: [{ line: x.grease, quantity: "3" }] })).state).toBe(
      "Held",
    );
    const other = enter({ number: "TT-40119", day: "2026-11-20", lines: [{ line: x.grease, quantity: "3" }] });
    expect(refusal(other)[0]).toMatch(/has the same lines/);
  });

  it("that is dearer is a buyer's to accept, within what they may sign", async () => {
    const x = await example();
    const dearer = (number: string, price: string) =>
      must(enter({ number, lines: [{ line: x.oil, quantity: "2", price }] })).invoice;
    const little = dearer("TT-1", "650");
    expect(head(little).turn).toBe("buyer");
    expect(
      refusal(passHold(h.desk("lena"), { ...at(little), reason: "price", position: 1, said: "as agreed" })),
    ).toEqual(["Your role does not allow this."]);
    expect(
      must(passHold(h.desk("ines"), { ...at(little), reason: "price", position: 1, said: "as agreed" })).state,
    ).toBe("Matched");
    expect(journal()["price variance"]).toBe(52_00);
    const much = dearer("TT-2", "1100");
    const refused = passHold(h.desk("ines"), { ...at(much), reason: "price", position: 1, said: "as agreed" });
    expect(refusal(refused)).toEqual([
      "said: 952.00 EUR is beyond what you may accept: by Orders it is for Yard manager.",
    ]);
    // What is claimed back is no cost: then nobody has to accept it.
    expect(must(claimHold(h.desk("ines"), { ...at(much), reason: "price", position: 1 })).state).toBe("Matched");
    expect(journal()["price variance"]).toBe(52_00);
    expect(readClaims(h.db)[0]).toMatchObject({ net: 952_00, tax: 190_40 });
  });

  it("beyond what a buyer may accept goes up the ladder: signed it passes, sent or taken back it stays held", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: [{ line: x.oil, quantity: "2", price: "1100" }] }));
    const up = (who = "ines") => handUp(h.desk(who), { ...at(invoice), said: "nobody else has it" });
    expect(refusal(up("lena"))).toEqual(["Your role does not allow this."]);
    expect(must(up()).waitsFor).toBe("Yard manager");
    expect(refusal(up())[0]).toMatch(/waits for a signature already/);
    // Nothing else becomes of it meanwhile.
    expect(refusal(claimHold(h.desk("ines"), { ...at(invoice), reason: "price", position: 1 }))[0]).toMatch(
      /waits for a signature/,
    );
    const [waits] = readWaitingSignatures(h.db, h.desk("maud").person.id, TODAY);
    expect(waits).toMatchObject({
      paper: "invoice",
      kind: "invoice",
      number: "TT-40117",
      amount: 952_00,
      lines: 1,
      mine: true,
    });
    expect(readDecision(h.db, "invoice", invoice, TODAY, 9)!.lines).toMatchObject([
      { words: "Hydraulic oil: dearer than ordered", minor: 952_00 },
    ]);
    const paper = () => ({ paper: "invoice", id: invoice, version: head(invoice).version });
    must(sendBack(h.desk("maud"), { ...paper(), reason: "ask them again" }));
    expect(head(invoice)).toMatchObject({ state: "Held", turn: "buyer" });
    must(up());
    must(takeBack(h.desk("ines"), paper()));
    expect(sql(h.db, "SELECT count(*) FROM invoice_asked").pluck().get()).toBe(0);
    must(up());
    must(sign(h.desk("maud"), paper()));
    expect(head(invoice).state).toBe("Matched");
    expect(journal()["price variance"]).toBe(952_00);
    expect(readInvoice(h.db, invoice)!.passes).toMatchObject([
      { reason: "price", beyond: 952_00, said: "nobody else has it (signed by the ladder)" },
    ]);
  });

  it("has its price taken into the price list from its day on, once, by whoever keeps it", async () => {
    const x = await example();
    const { invoice } = must(enter({ day: "2026-11-20", lines: [{ line: x.oil, quantity: "4", price: "617.50" }] }));
    const take = (who: string) => takePriceIntoList(h.desk(who), { invoice, position: 1 });
    expect(refusal(take("lena"))).toEqual(["Your role does not allow this."]);
    must(take("ines"));
    const list = () =>
      sql(
        h.db,
        'SELECT b.from_quantity / 10000 AS "from", b.price / 10000 AS price, b.valid_from AS since, b.valid_to AS until FROM price_break b JOIN sourcing c ON c.id = b.sourcing WHERE c.item = ? ORDER BY 1, 3',
      ).all(h.id("item", "OIL"));
    expect(list()).toEqual([
      { from: 1, price: 660_00, since: null, until: "2026-11-19" },
      { from: 1, price: 617_50, since: "2026-11-20", until: null },
      { from: 5, price: 624_00, since: null, until: null },
      { from: 10, price: 588_00, since: null, until: null },
    ]);
    expect(refusal(take("ines"))).toEqual(["The price list says so already."]);
  });

  it("is held against the tolerance that the house keeps", async () => {
    must(keepTolerance(h.desk("osk"), { scope: "house", pricePercent: "1" }));
    const x = await example();
    expect(must(enter({ number: "TT-1", lines: [{ line: x.oil, quantity: "2", price: "630.24" }] })).state).toBe(
      "Matched",
    );
    expect(must(enter({ number: "TT-2", lines: [{ line: x.oil, quantity: "2", price: "630.25" }] })).state).toBe(
      "Held",
    );
  });

  it("whose sums contradict each other waits for the supplier; accounts may let a cent pass", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: [{ line: x.grease, quantity: "3" }], total: "764.65" }));
    expect(head(invoice)).toMatchObject({ state: "Held", turn: "supplier", total: 764_65 });
    expect(
      must(passHold(h.desk("lena"), { ...at(invoice), reason: "sums", position: null, said: "a cent" })).state,
    ).toBe("Matched");
    expect(journal()).toMatchObject({ payable: -764_65, "price variance": 1 });
  });

  it("may bill what no order has, once somebody who may sign so much has accepted it", async () => {
    sql(h.db, "INSERT INTO account (code, name) VALUES ('6300', 'Pilotage')").run();
    const { invoice, state } = must(
      enter({ others: [{ words: "Pilotage to the slip", account: "6300", net: "240", taxRate: "20" }] }),
    );
    // Whose turn it is, is who can do something about it.
    expect([state, head(invoice).turn]).toEqual(["Held", "buyer"]);
    expect(
      must(passHold(h.desk("ines"), { ...at(invoice), reason: "other", position: 1, said: "for Knot" })).state,
    ).toBe("Matched");
    expect(journal()).toEqual({ expense: 240_00, "input tax": 48_00, payable: -288_00 });
  });
});

describe("a budget", () => {
  it("is taken of by what no order has: as entered, or as whoever accepts it says; less what is asked back", async () => {
    for (const code of ["YARD", "OFFICE"])
      for (const year of ["2025", "2026"])
        sql(h.db, "INSERT INTO budget (code, name, starts, ends, amount) VALUES (?, '', ?, ?, 100000)").run(
          code,
          `${year}-01-01`,
          `${year}-12-31`,
        );
    sql(h.db, "INSERT INTO account (code, name) VALUES ('6300', 'Pilotage'), ('6400', 'Slip')").run();
    const other = { words: "Pilotage to the slip", account: "6300", budget: 1, net: "240", taxRate: "20" };
    expect(refusal(enter({ others: [{ ...other, budget: 99 }] }))).toEqual([
      "others.0.budget: There is no such budget line.",
    ]);
    expect(refusal(enter({ others: [{ ...other, account: "1" }] }))).toEqual([
      "others.0.account: There is no account 1.",
    ]);
    const { invoice } = must(enter({ others: [other] }));
    const taken = () =>
      sql<{ of: string; minor: number }>(
        h.db,
        `SELECT b.code || ' ' || substr(b.starts, 1, 4) || ' ' || t.figure AS of, t.minor FROM budget_total t JOIN budget b ON b.id = t.budget WHERE t.minor <> 0`,
      )
        .all()
        .map((r) => `${r.of} ${r.minor}`);
    expect(taken()).toEqual([]);
    const accept = (more: Record<string, unknown>) =>
      passHold(h.desk("ines"), { ...at(invoice), reason: "other", position: 1, said: "for Knot", ...more });
    expect(refusal(accept({ account: "9" }))).toEqual(["account: There is no account 9."]);
    expect(refusal(accept({ budget: "99" }))).toEqual(["budget: There is no such budget line."]);
    must(accept({ account: "6400", budget: "3" }));
    expect(taken()).toEqual(["OFFICE 2026 billed 24000"]);
    const office = 4 as BudgetId; // of 2026
    expect(readBudgetPapers(h.db, office, null).papers).toEqual([
      {
        figure: "billed",
        minor: 240_00,
        label: expect.stringMatching(/^Invoice TT-40117, .*: Pilotage to the slip$/),
        href: `/settle/${invoice}`,
      },
    ]);
    const ask = { ...at(invoice), position: 1, reason: "agreed", amount: "40", said: "too long" };
    must(claimLater(h.desk("ines"), ask));
    expect(taken()).toEqual(["OFFICE 2026 billed 20000"]);
    must(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "another's" }));
    expect(taken()).toEqual([]);
  });

  it("shows what is billed at what they bill, less what is asked back", async () => {
    sql(
      h.db,
      "INSERT INTO budget (code, name, starts, ends, amount) VALUES ('YARD', 'Yard', '2026-01-01', '2026-12-31', 2000000)",
    ).run();
    const x = await example();
    sql(h.db, "UPDATE order_line SET budget = 1 WHERE id = ?").run(x.oil);
    const figures = () =>
      Object.fromEntries(
        sql<{ figure: string; minor: number }>(h.db, "SELECT figure, minor FROM budget_total WHERE minor <> 0")
          .all()
          .map((f) => [f.figure, f.minor]),
      );
    const { invoice } = must(enter({ lines: theirs(x) }));
    expect(figures()).toEqual({ received: 4 * 624_00, ordered: 624_00 });
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    expect(figures()).toEqual({ billed: 4 * 617_50, ordered: 624_00 });
    const [claim] = readClaims(h.db);
    must(dropClaim(h.desk("ines"), { claim: claim!.id, version: claim!.version, how: "they have closed" }));
    expect(figures()).toEqual({ billed: 5 * 617_50, ordered: 624_00 });
  });
});

describe("what was invoiced", () => {
  it("is undone in its order: the invoice comes off before its receipt", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: [{ line: x.oil, quantity: "3" }] }));
    const receipt = sql<{ id: number }>(h.db, "SELECT max(id) AS id FROM receipt").get()!.id;
    const undo = () => undoReceipt(h.desk("tobias"), { receipt, reason: "another boat's" });
    expect(refusal(undo())[0]).toMatch(
      /3 drums? of it are invoiced \(TT-40117\): 1 can be undone until the invoice is taken off\./,
    );
    // Another one waits for the same drums, and is held until the first is off.
    const twice = must(enter({ number: "TT-7", another: "yes", lines: [{ line: x.oil, quantity: "3" }] })).invoice;
    expect(head(twice)).toMatchObject({ state: "Held", turn: "dock" });
    must(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "entered for the wrong order" }));
    expect(head(twice).state).toBe("Matched");
    must(takeInvoiceOff(h.desk("lena"), { ...at(twice), why: "entered twice" }));
    expect(journal()).toEqual({ "received not invoiced": 0, "input tax": 0, payable: 0 });
    expect(sql(h.db, "SELECT ended FROM payable").pluck().all()).toEqual(["2026-11-24", "2026-11-24"]);
    must(undo());
    // The number is free again, and nothing is here any more.
    expect(must(enter({ lines: [{ line: x.oil, quantity: "3" }] })).state).toBe("Held");
  });

  it("is sent back for a new one, whose number may be the same", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    must(sendInvoiceBack(h.desk("ines"), { ...at(invoice), why: "a drum too many" }));
    expect(head(invoice)).toMatchObject({ state: "Sent back", why: "a drum too many" });
    expect(must(enter({ lines: [{ line: x.oil, quantity: "4" }] })).state).toBe("Matched");
  });
});

describe("what is owed", () => {
  it("is paid in part and whole, with credits set off, never more than is left, and taken back", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    const [claim] = readClaims(h.db);
    must(
      enterCredit(h.desk("lena"), {
        supplier: h.id("supplier", "TTL"),
        number: "C-9",
        day: "2026-11-24",
        total: "741.00",
        claims: [claim!.id],
      }),
    );
    const owed = () => readPayables(h.db, TODAY).map((y) => [y.number, y.left]);
    const [bill, note] = readPayables(h.db, TODAY).toSorted((a, b) => a.id - b.id);
    const pay = (parts: Record<string, unknown>[], who = "lena") => payByHand(h.desk(who), { day: TODAY, parts });
    expect(refusal(pay([{ payable: bill!.id }], "ines"))).toEqual(["Your role does not allow this."]);
    expect(refusal(pay([{ payable: note!.id }]))[0]).toMatch(/come to more than what is paid with them/);
    expect(refusal(pay([{ payable: bill!.id, amount: "4583.65" }]))).toEqual([
      "parts.0.amount: Only 4583.64 EUR of TT-40117 are left.",
    ]);
    must(pay([{ payable: bill!.id, amount: "1000" }]));
    expect(head(invoice).state).toBe("Part paid");
    expect(refusal(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "all wrong" }))).toEqual([
      "Payment P26-1001 paid it: take that back first.",
    ]);
    const { payment } = must(pay([{ payable: bill!.id }, { payable: note!.id }]));
    expect(head(invoice).state).toBe("Paid");
    expect(owed()).toEqual([]);
    const bank = () => sql(h.db, "SELECT -sum(minor) FROM posting WHERE role = 'bank'").pluck().get();
    expect(bank()).toBe(4_583_64 - 741_00);
    expect(refusal(pay([{ payable: bill!.id }]))[0]).toMatch(/is paid already/);
    must(takePaymentBack(h.desk("lena"), { payment, version: 1, why: "the bank sent it back" }));
    expect(owed()).toEqual([
      ["C-9", -741_00],
      ["TT-40117", 3_583_64],
    ]);
    expect(bank()).toBe(1_000_00);
    expect(refusal(takePaymentBack(h.desk("lena"), { payment, version: 2, why: "again" }))[0]).toMatch(/already/);
  });

  it("is less where it is paid early, in time and whole", async () => {
    sql(h.db, "UPDATE supplier SET early_percent = 200, early_days = 10 WHERE code = 'TTL'").run();
    const x = await example();
    must(enter({ day: "2026-11-14", lines: [{ line: x.grease, quantity: "3" }] }));
    must(enter({ number: "TT-2", day: "2026-11-13", lines: [{ line: x.oil, quantity: "1" }] }));
    const [late, soon] = readPayables(h.db, TODAY);
    const pay = (payable: number) => payByHand(h.desk("lena"), { day: TODAY, parts: [{ payable, early: "yes" }] });
    expect(refusal(pay(late!.id))).toEqual(["parts.0.amount: Nothing is taken off TT-2 any more."]);
    must(pay(soon!.id));
    expect(
      sql(
        h.db,
        "SELECT role, minor FROM posting p JOIN posting_entry e ON e.id = p.entry WHERE e.kind = 'payment'",
      ).all(),
    ).toEqual([
      { role: "payable", minor: 764_64 },
      { role: "bank", minor: -749_35 },
      { role: "early discount", minor: -15_29 },
    ]);
  });
});

describe("what cannot be an invoice", () => {
  it("is refused where it is wrong, and nothing is kept", async () => {
    const x = await example();
    const line = [{ line: x.oil, quantity: "1" }];
    const other = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "4", price: "31.20" }]);
    for (const [wrong, field] of [
      [{ day: "2126-01-01", lines: line }, "day"],
      [{ day: "2026-02-31", lines: line }, "day"],
      [{ number: " ", lines: line }, "number"],
      [{ lines: [] }, ""],
      [{ lines: [{ line: other.lines[0], quantity: "1" }] }, "lines.0.quantity"],
      [{ lines: [{ line: x.oil, quantity: "0" }] }, "lines.0.quantity"],
      [{ lines: line, total: "-1" }, "total"],
      [{ lines: line, total: "6.001" }, "total"],
      [{ lines: line, allowance: "9999" }, "allowance"],
      [{ supplier: 999, lines: line }, "supplier"],
      [{ others: [{ words: "Pilotage", account: "", net: "1", taxRate: "" }] }, "others.0.account"],
    ] as const)
      expect(enter(wrong), JSON.stringify(wrong)).toMatchObject({ ok: false, problems: [{ field }] });
    sql(h.db, "UPDATE supplier SET active = 0 WHERE code = 'TTL'").run();
    expect(refusal(enter({ lines: line }))[0]).toMatch(/is not active/);
    expect(sql(h.db, "SELECT count(*) FROM invoice").pluck().get()).toBe(0);
  });

  it("is written by us when goods come, where its supplier agreed to that", async () => {
    sql(h.db, "UPDATE supplier SET self_bills = 1 WHERE code = 'TTL'").run();
    const x = await example();
    const [first] = readPayables(h.db, TODAY);
    expect(first).toMatchObject({ number: "V26-1001", total: 387_384 });
    expect(readInvoice(h.db, first!.invoice!)!.lines.map((l) => [l.orderLine, l.quantity])).toEqual([
      [x.oil, 40_000],
      [x.grease, 30_000],
      [x.freight, 10_000],
    ]);
    must(countIn(h, x.order, [{ line: x.oil, counted: "1" }]));
    const xml = selfBilledInvoiceXml(selfBilledInvoice(h.db, first!.invoice!)!);
    expect(xml).toMatch(/<cbc:ID>V26-1001<\/cbc:ID>/);
    expect(xml).toMatch(/<cbc:PayableAmount currencyID="EUR">3873.84<\/cbc:PayableAmount>/);
    expect(xml.match(/<cac:InvoiceLine>/g)).toHaveLength(3);
    // The freight is billed once.
    expect(readPayables(h.db, TODAY).map((p) => [p.number, p.total])).toEqual([
      ["V26-1001", 387_384],
      ["V26-1002", 74_880],
    ]);
    // What they send all the same finds nothing left to bill.
    expect(must(enter({ lines: theirs(x) })).state).toBe("Held");
  });

  it("locks what it bills: the price of its order's line, until it is taken off", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: [{ line: x.oil, quantity: "4" }] }));
    const price = () =>
      changePlaced(h.desk("ines"), {
        order: x.order,
        version: readOrderHead(h.db, x.order)!.version,
        reason: "They asked",
        lines: [{ line: x.oil, price: "630" }],
      });
    expect(refusal(price())[0]).toMatch(/Line 1 is invoiced: its price stays/);
    must(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "wrong yard" }));
    must(price());
  });
  it("is matched once where two people decide", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    const seen = at(invoice);
    must(claimHold(h.desk("ines"), { ...seen, reason: "quantity", position: 1 }));
    expect(claimHold(h.desk("lena"), { ...seen, reason: "quantity", position: 1 }).ok).toBe(false);
    expect(sql(h.db, "SELECT count(*) FROM payable").pluck().get()).toBe(1);
  });
});
