import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { composeIBAN } from "ibantools";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderLineId } from "../../../core/ids";
import { statusReportXml } from "../../../exchange/iso20022/credit-transfer";
import { allAt, readXml, textAt } from "../../../exchange/xml-tree";
import { sql } from "../../db/open";
import { bankFileOf, handToBank } from "../../jobs/hand-to-bank";
import { takeInbox } from "../../jobs/inbox";
import { brokenTruths } from "../../queries/always-true";
import { readInvoice } from "../../queries/settling/invoices";
import { readPayList } from "../../queries/settling/pay-lists";
import { readPayables, readPayments } from "../../queries/settling/payables";
import { standInBank } from "../../standins/bank";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { countIn, placedOrder } from "../receiving/testing";
import { answerByHand, bankAnswered } from "./bank-answers";
import { takeInvoiceOff } from "./decide-invoice";
import { enterInvoice } from "./enter-invoice";
import { keepOurAccount, keepSupplierAccount } from "./keep-account";
import { payByHand } from "./pay";
import { dropPayList, leaveOut, releasePayList, sendPayList, writePayList } from "./pay-lists";

const OURS = "IE29AIBK93115212345678";
const THEIRS = "LU280019400644750000";
/** Of the stand-in bank: closed. */
const CLOSED = composeIBAN({ countryCode: "LU", bban: "0019400644750099" })!;

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  // A lead who releases what accounts wrote.
  sql(h.db, "INSERT INTO person_role (person, role) VALUES (?, 'purchasing lead')").run(h.id("person", "maud"));
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

/** Charges that are billed and matched; each is owed. */
async function billed(supplier: string, ...nets: string[]) {
  const owed: { invoice: number; payable: number }[] = [];
  for (const [i, net] of nets.entries()) {
    const { order, lines } = await placedOrder(h, supplier, [
      { kind: "not stocked", words: "Survey", quantity: "1", price: net },
    ]);
    const line = lines[0] as OrderLineId; // the one line of the order
    must(countIn(h, order, [{ line, counted: "1" }]));
    const { invoice, state } = must(
      enterInvoice(h.desk("lena"), {
        supplier: h.id("supplier", supplier),
        number: `${supplier}-${i + 1}`,
        day: "2026-11-01",
        lines: [{ line, quantity: "1" }],
      }),
    );
    expect(state).toBe("Matched");
    owed.push({ invoice, payable: readPayables(h.db, TODAY).find((p) => p.invoice === invoice)!.id });
  }
  return owed;
}
const accounts = (releaseFrom = "0") => {
  must(keepOurAccount(h.desk("osk"), { iban: OURS, bic: "AIBKIE2D", releaseFrom }));
  must(keepSupplierAccount(h.desk("lena"), { supplier: h.id("supplier", "TTL"), iban: THEIRS, bic: "" }));
};
const HOW = { day: TODAY, dueBy: "2026-12-31", leastYearly: "10" };
const write = (papers: number[], more: Record<string, unknown> = {}) =>
  writePayList(h.desk("lena"), { ...HOW, ...more, papers });
const at = (list: number) => ({ list, version: readPayList(h.db, list)!.head.version });
const list = (id: number) => readPayList(h.db, id)!;

describe("a pay list", () => {
  it("is written of what is owed, released by somebody else above the bound, and spoken for", async () => {
    const [a, b] = await billed("TTL", "100", "50");
    expect(refusal(write([a!.payable]))).toEqual([
      "No account of ours is on record: an administrator enters it under Company.",
    ]);
    accounts("100");
    expect(refusal(write([a!.payable], { day: "2026-11-23" }))[0]).toMatch(/is over/);
    const made = must(write([a!.payable, b!.payable]));
    expect(list(made.list)).toMatchObject({
      head: { number: "Y26-1001", state: "Written", transfers: 1 },
      lines: [{ total: 180_00, iban: THEIRS, parts: [{ minor: 120_00 }, { minor: 60_00 }] }],
    });
    // Spoken for: by no other list, by no hand, and its invoice stays.
    expect(refusal(write([a!.payable]))[0]).toMatch(/changed meanwhile/);
    expect(refusal(payByHand(h.desk("lena"), { day: TODAY, parts: [{ payable: a!.payable }] }))[0]).toMatch(
      /Pay list Y26-1001 pays TTL-1/,
    );
    const off = () =>
      takeInvoiceOff(h.desk("lena"), {
        invoice: a!.invoice,
        version: readInvoice(h.db, a!.invoice)!.head.version,
        why: "not ours",
      });
    expect(refusal(off())[0]).toMatch(/Pay list Y26-1001 pays it/);
    expect(refusal(sendPayList(h.desk("lena"), at(made.list)))).toEqual(["Pay list Y26-1001 is written."]);
    expect(refusal(releasePayList(h.desk("lena"), at(made.list)))[0]).toMatch(/somebody else than .* releases/);
    expect(refusal(releasePayList(h.desk("ines"), at(made.list)))).toEqual(["Your role does not allow this."]);
    expect(bankFileOf(h.db, made.list)).toBeNull();
    must(releasePayList(h.desk("maud"), at(made.list)));
    must(dropPayList(h.desk("lena"), at(made.list)));
    must(off());
  });

  it("goes to the bank as a file, once; what it executes is paid, what it rejects is owed again", async () => {
    accounts("1000");
    must(keepSupplierAccount(h.desk("lena"), { supplier: h.id("supplier", "BAW"), iban: CLOSED, bic: "" }));
    const [a, b] = [(await billed("TTL", "100"))[0]!, (await billed("BAW", "70"))[0]!];
    const made = must(write([a.payable, b.payable]));
    // Within the bound its writer may release it.
    must(releasePayList(h.desk("lena"), at(made.list)));
    must(sendPayList(h.desk("lena"), at(made.list)));
    const folder = mkdtempSync(join(tmpdir(), "bank-"));
    const bank = join(folder, "bank");
    const inbox = join(folder, "inbox");
    expect(handToBank(h.db, bank, `${TODAY}T10:00:00Z`)).toEqual(["Y26-1001"]);
    const xml = readXml(readFileSync(join(bank, "Y26-1001.xml")));
    const order = allAt(xml.ok ? xml.root : expect.fail("no XML"), "CstmrCdtTrfInitn")[0]!;
    expect(textAt(order, "GrpHdr", "CtrlSum")).toBe("204");
    expect(textAt(order, "PmtInf", "DbtrAcct", "Id", "IBAN")).toBe(OURS);
    expect(allAt(order, "PmtInf", "CdtTrfTxInf").map((t) => textAt(t, "RmtInf", "Ustrd"))).toEqual(["TTL-1", "BAW-1"]);
    const answer = standInBank({ from: bank, inbox });
    expect(answer("2026-11-23T10:00:00Z", "2026-11-23" as typeof TODAY)).toEqual([]);
    expect(answer(`${TODAY}T10:00:00Z`, TODAY)).toEqual(["Y26-1001"]);
    // What the bank took out of the folder is not laid there again.
    expect(handToBank(h.db, bank, `${TODAY}T10:01:00Z`)).toEqual([]);
    const turn = takeInbox(h.db, inbox, {
      now: new Date(`${TODAY}T10:02:00Z`),
      day: TODAY,
      clock: Date.now() + 60_000,
    });
    expect(turn).toEqual({ taken: ["bank-Y26-1001.xml"], refused: [] });
    expect(existsSync(join(inbox, "done", readdirSync(join(inbox, "done"))[0]!))).toBe(true);
    expect(list(made.list)).toMatchObject({
      head: { state: "Answered" },
      lines: [
        { state: "Executed", payment: "P26-1001" },
        { state: "Rejected", why: "the account is closed (AC04)" },
      ],
    });
    expect(readInvoice(h.db, a.invoice)!.head.state).toBe("Paid");
    expect(readPayables(h.db, TODAY).map((p) => [p.number, p.onList])).toEqual([["BAW-1", null]]);
    rmSync(folder, { recursive: true });
  });

  it("is answered by hand or by a report, each transfer once, and nothing of a report that is wrong", async () => {
    accounts("1000");
    const [a, b] = await billed("TTL", "100", "50");
    const first = must(write([a!.payable]));
    const report = (number: string, ...references: string[]) =>
      Buffer.from(
        statusReportXml(
          number,
          "2026-11-24T10:00:00Z",
          references.map((reference) => ({ reference, code: null })),
        ),
      );
    const answer = (bytes: Buffer) => bankAnswered(h.desk("lena"), bytes);
    expect(refusal(answer(report("Y26-1001", "Y26-1001-1")))[0]).toMatch(/the bank has nothing of it/);
    must(releasePayList(h.desk("maud"), at(first.list)));
    expect(refusal(answer(report("Y26-1001", "Y26-1001-1", "Y26-1001-7")))[0]).toMatch(/not on Y26-1001/);
    expect(refusal(answer(report("Y26-9", "x")))).toEqual(["file: There is no pay list Y26-9."]);
    expect(refusal(answer(Buffer.from("<Invoice/>")))[0]).toMatch(/no payment status report/);
    expect(readPayments(h.db)).toEqual([]);
    expect(must(answer(report("Y26-1001", "Y26-1001-1")))).toEqual({ number: "Y26-1001", executed: 1, rejected: 0 });
    expect(refusal(answer(report("Y26-1001", "Y26-1001-1")))[0]).toMatch(/is answered/);
    // By hand.
    const second = must(write([b!.payable]));
    must(releasePayList(h.desk("maud"), at(second.list)));
    const line = list(second.list).lines[0]!.id;
    const hand = (more: Record<string, unknown>) =>
      answerByHand(h.desk("lena"), { ...at(second.list), line, how: "executed", day: TODAY, ...more });
    expect(refusal(hand({ day: "2026-11-25" }))[0]).toMatch(/has not come yet/);
    expect(refusal(hand({ how: "rejected" }))).toEqual(["why: Say why the bank rejected it."]);
    must(hand({}));
    expect(list(second.list).head.state).toBe("Answered");
    expect(readPayables(h.db, TODAY)).toEqual([]);
  });

  it("leaves a transfer out before it is released, and is dropped with its last; a changed account stops it", async () => {
    accounts("1000");
    const [a] = await billed("TTL", "100");
    const made = must(write([a!.payable]));
    must(keepSupplierAccount(h.desk("lena"), { supplier: h.id("supplier", "TTL"), iban: OURS, bic: "" }));
    expect(refusal(releasePayList(h.desk("maud"), at(made.list)))[0]).toMatch(/account of .* was changed since/);
    must(leaveOut(h.desk("lena"), { ...at(made.list), line: list(made.list).lines[0]!.id }));
    expect(list(made.list)).toMatchObject({ head: { state: "Dropped", home: 0 }, lines: [{ state: "Left out" }] });
    expect(
      refusal(keepSupplierAccount(h.desk("lena"), { supplier: h.id("supplier", "TTL"), iban: "LU28", bic: "" }))[0],
    ).toMatch(/no IBAN/);
    must(write([a!.payable]));
  });
});
