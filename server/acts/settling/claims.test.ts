import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readReturns } from "../../queries/receiving/set-aside";
import { readClaims } from "../../queries/settling/invoices";
import { notTakenIn } from "../../queries/settling/returned";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { countIn } from "../receiving/testing";
import { decideAsides } from "../receiving/testing-asides";
import { claimLater } from "./claim-later";
import { enterCredit } from "./credit-note";
import { claimHold, dropClaim, takeInvoiceOff } from "./decide-invoice";
import { enterTheirs, exampleOrder, settlingJournal, theirs, versionOf } from "./testing";
import { previewClaim, writeClaim } from "./write-claim";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const example = (drums?: string) => exampleOrder(h, drums);
const enter = (more: Record<string, unknown>) => enterTheirs(h, more);
const at = (invoice: number) => versionOf(h, invoice);
const journal = () => settlingJournal(h);
const credit = (number: string, total: string, claims: readonly number[]) =>
  enterCredit(h.desk("lena"), { supplier: h.id("supplier", "TTL"), number, day: "2026-11-24", total, claims });

describe("a claim", () => {
  it("is claimed until it is given up, which costs, or its invoice is taken off", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    const [claim] = readClaims(h.db);
    const drop = (who: string, how = "they have closed") =>
      dropClaim(h.desk(who), { claim: claim!.id, version: claim!.version, how });
    expect(refusal(drop("lena"))).toEqual(["A buyer gives a claim up: it becomes a cost."]);
    must(drop("ines"));
    expect(journal()).toMatchObject({ claims: 0, "input tax": 763_94, "price variance": -26_00 + 617_50 });
    expect(refusal(drop("ines"))).toEqual(["Claim L26-1001 is dropped."]);
    expect(refusal(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "all wrong" }))[0]).toMatch(
      /was dropped already/,
    );
  });

  it("is written about to the supplier, in their language, while it is open", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x), total: "4583.64" }));
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1, said: "See our note." }));
    sql(h.db, "UPDATE supplier SET language = 'de' WHERE code = 'TTL'").run();
    const [claim] = readClaims(h.db);
    const { subject, body, to } = previewClaim(h.db, claim!, h.desk("ines").person.id);
    expect(to).toBe("orders@ttl.example");
    expect(subject).toMatch(/^Reklamation L26-1001: Ihre Rechnung TT-40117/);
    expect(body).toMatch(/Gutschrift über 617,50 EUR und 123,50 EUR Steuer, zusammen 741,00 EUR/);
    expect(body).toMatch(/See our note\./);
    const write = (version: number, who = "ines") => writeClaim(h.desk(who), { claim: claim!.id, version });
    expect(refusal(await write(1, "tobias"))).toEqual(["Your role does not allow this."]);
    must(await write(claim!.version));
    expect(refusal(await write(claim!.version))[0]).toMatch(/was changed by somebody else/);
    expect(sql(h.db, "SELECT recipients, invoice FROM mail ORDER BY id DESC").get()).toEqual({
      recipients: to,
      invoice,
    });
    const now = readClaims(h.db)[0]!;
    expect(now.written).not.toBeNull();
    must(dropClaim(h.desk("ines"), { claim: now.id, version: now.version, how: "a good supplier" }));
    expect(refusal(await write(now.version + 1))[0]).toMatch(/is dropped/);
  });
  it("is credited by a credit note over exactly as much, which can be taken off again", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    const [claim] = readClaims(h.db);
    const credit = (more: Record<string, unknown>) =>
      enterCredit(h.desk("lena"), {
        supplier: h.id("supplier", "TTL"),
        number: "C-9",
        day: "2026-11-24",
        total: "741.00",
        claims: [claim!.id],
        ...more,
      });
    expect(refusal(credit({ total: "741.01" }))[0]).toMatch(
      /come to 741\.00 EUR: a credit note larger than what it meets/,
    );
    expect(refusal(credit({ number: "tt40117" }))[0]).toMatch(/is here already/);
    expect(credit({ claims: [] })).toMatchObject({ ok: false, problems: [{ field: "claims" }] });
    const note = must(credit({})).invoice;
    expect(journal()).toMatchObject({ claims: 0, payable: -4_583_64 + 741_00, "input tax": 640_44 });
    expect(sql(h.db, "SELECT sum(total) FROM payable WHERE ended IS NULL").pluck().get()).toBe(3_842_64);
    expect(readClaims(h.db)[0]).toMatchObject({ state: "Credited", how: "credit note C-9" });
    expect(refusal(credit({ number: "C-10" }))).toEqual(["claims: Claim L26-1001 is credited."]);
    expect(refusal(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "all wrong" }))[0]).toMatch(
      /was credited already/,
    );
    must(takeInvoiceOff(h.desk("lena"), { ...at(note), why: "of another claim" }));
    expect(readClaims(h.db)[0]!.state).toBe("Open");
    expect(journal()).toMatchObject({ claims: 741_00, payable: -4_583_64 });
  });

  it("is credited in part: what is left stays asked, until the rest comes or is given up", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: theirs(x) }));
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    const [claim] = readClaims(h.db);
    const note = must(credit("C-9", "247.00", [claim!.id])).invoice;
    const parts = () => readClaims(h.db).map((c) => [c.number, c.net, c.tax, c.state]);
    expect(parts()).toEqual([
      ["L26-1001", 411_67, 82_33, "Open"],
      ["L26-1002", 205_83, 41_17, "Credited"],
    ]);
    expect(journal()).toMatchObject({ claims: 494_00, payable: -4_583_64 + 247_00 });
    // A note over both, larger than what is left, is refused; several are met whole.
    expect(refusal(credit("C-10", "494.01", [claim!.id]))[0]).toMatch(/come to 494\.00 EUR: a credit note larger/);
    expect(refusal(credit("C-10", "0", [claim!.id]))[0]).toMatch(/more than nothing/);
    must(takeInvoiceOff(h.desk("lena"), { ...at(note), why: "of another claim" }));
    const both = readClaims(h.db);
    expect(both.map((c) => c.state)).toEqual(["Open", "Open"]);
    expect(
      refusal(
        credit(
          "C-10",
          "740",
          both.map((c) => c.id),
        ),
      )[0],
    ).toMatch(/meets one claim\. Choose which/);
    must(
      credit(
        "C-11",
        "741",
        both.map((c) => c.id),
      ),
    );
    expect(journal()).toMatchObject({ claims: 0, payable: -4_583_64 + 741_00, "input tax": 640_44 });
  });

  it("is made once its invoice matched, of goods that turned out not good, and is turned round with it", async () => {
    const x = await example();
    const { invoice } = must(enter({ lines: [{ line: x.oil, quantity: "4", price: "617.50" }], total: "2964" }));
    const before = journal();
    const claim = (more: Record<string, unknown>, who = "ines") =>
      claimLater(h.desk(who), { ...at(invoice), position: 1, reason: "faulty", said: "water in it", ...more });
    expect(refusal(claim({ pieces: "1" }, "tobias"))).toEqual(["Your role does not allow this."]);
    expect(refusal(claim({ pieces: "5" }))).toEqual(["pieces: Of this line 4 are left to be claimed."]);
    expect(refusal(claim({}))[0]).toMatch(/how many are not good/);
    expect(refusal(claim({ amount: "2470.01" }))).toEqual(["amount: Of this line 2470.00 EUR are left to be claimed."]);
    expect(refusal(claim({ amount: "0" }))[0]).toMatch(/more than nothing/);
    expect(refusal(claim({ pieces: "1", goodsReturn: 99 }))[0]).toMatch(/of another order/);
    must(claim({ pieces: "1" }));
    expect(readClaims(h.db)).toMatchObject([
      { number: "L26-1001", reason: "faulty", quantity: 0, pieces: 10_000, net: 617_50, tax: 123_50, home: 741_00 },
    ]);
    expect(journal()).toEqual({
      ...before,
      claims: 741_00,
      "price variance": before["price variance"]! - 617_50,
      "input tax": before["input tax"]! - 123_50,
    });
    const letter = previewClaim(h.db, readClaims(h.db)[0]!, h.desk("ines").person.id);
    expect(letter.body).toMatch(/1 drum of .*: not good\./);
    must(claim({ amount: "100", reason: "agreed", said: "a bonus for the year" }));
    expect(refusal(claim({ amount: "1752.51" }))[0]).toMatch(/1752\.50 EUR are left/);
    must(takeInvoiceOff(h.desk("lena"), { ...at(invoice), why: "all wrong" }));
    expect(readClaims(h.db).map((c) => c.state)).toEqual(["Withdrawn", "Withdrawn"]);
    expect(Object.values(journal()).every((minor) => minor === 0)).toBe(true);
  });

  it("of goods that went back for a credit names their return, and settles it with the credit note", async () => {
    const x = await example("0");
    must(
      countIn(h, x.order, [
        { line: x.oil, counted: "4", faulty: "1", fault: "damaged" },
        { line: x.grease, counted: "3" },
      ]),
    );
    const { invoice } = must(enter({ lines: theirs(x) }));
    expect(notTakenIn(h.db, invoice)).toMatchObject([{ quantity: 10_000, why: "damaged", became: "" }]);
    must(decideAsides(h, "send back", { reason: "it leaks", awaits: "credit" }));
    const [back] = readReturns(h.db, null);
    expect(notTakenIn(h.db, invoice)).toMatchObject([{ became: "send back", number: back!.number }]);
    must(claimHold(h.desk("ines"), { ...at(invoice), reason: "quantity", position: 1 }));
    const [claim] = readClaims(h.db);
    expect(claim).toMatchObject({ goodsReturn: back!.id, returnNumber: back!.number });
    expect(previewClaim(h.db, claim!, h.desk("ines").person.id).body).toContain(`with our return ${back!.number}`);
    const settled = () => readReturns(h.db, null)[0]!.settledHow;
    must(credit("C-8", "41", [claim!.id]));
    expect(settled()).toBe("");
    const note = must(credit("C-9", "700", [claim!.id])).invoice;
    expect(settled()).toBe("credit note C-9");
    must(takeInvoiceOff(h.desk("lena"), { ...at(note), why: "of another claim" }));
    expect(readReturns(h.db, null)[0]).toMatchObject({ settled: null, settledHow: "" });
  });
});
