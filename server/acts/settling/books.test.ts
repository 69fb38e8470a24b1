import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { type Day, toDay } from "../../../core/calendar/day";
import { allAt, readXml, textAt } from "../../../exchange/xml-tree";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { journalLines, readCloses, readUnbilled } from "../../queries/settling/books";
import { auditFile } from "../../queries/settling/journal-file";
import { readNotInvoiced, readTrialBalance } from "../../queries/stock/values";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { countIn, placedOrder } from "../receiving/testing";
import { closeBooks } from "./close-books";
import { enterInvoice } from "./enter-invoice";
import { payByHand } from "./pay";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const LATER = toDay("2026-12-03");
const on = (login: string, day: Day) => ({ ...h.desk(login), day, now: `${day}T09:00:00.000Z` });
const close = (until: string, day = LATER) => closeBooks(on("lena", day), { until });

/** Goods and their freight, counted in today: 4 drums at 624, freight 95. */
async function came() {
  const { order, lines } = await placedOrder(h, "TTL", [
    { code: "OIL", quantity: "4", price: "624" },
    { kind: "charge", words: "Freight", quantity: "1", price: "95" },
  ]);
  must(countIn(h, order, [{ line: lines[0]!, counted: "4" }]));
  return { order, oil: lines[0]!, freight: lines[1]! };
}
const standing = (day: Day) =>
  Object.fromEntries(
    readTrialBalance(h.db, day)
      .map((r) => [r.role, r.debit - r.credit] as const)
      .filter(([, minor]) => minor !== 0),
  );

describe("a month", () => {
  it("is closed once it is over: what was not billed is accrued, and turned round a day later", async () => {
    const { oil, freight } = await came();
    expect(refusal(close("2026-11-30", TODAY))).toEqual(["until: A period ends with a month that is over."]);
    expect(refusal(close("2026-11-29"))).toEqual(["until: A period ends with a month that is over."]);
    expect(refusal(closeBooks(on("ines", LATER), { until: "2026-11-30" }))).toEqual(["Your role does not allow this."]);
    expect(readUnbilled(h.db, toDay("2026-11-30"))).toMatchObject([{ words: "Freight", minor: 95_00 }]);
    expect(readUnbilled(h.db, toDay("2026-11-23"))).toEqual([]);
    expect(must(close("2026-11-30")).number).toBe("J26-1001");
    expect(standing(toDay("2026-11-30"))).toMatchObject({ accrued: -95_00, expense: 95_00 });
    expect(standing(toDay("2026-12-01"))).not.toHaveProperty("accrued");
    expect(readCloses(h.db)).toMatchObject([{ until: "2026-11-30", accrued: 95_00 }]);
    expect(refusal(close("2026-11-30"))[0]).toMatch(/lies in a period that is closed/);
    // What is billed later costs in its month, once.
    must(
      enterInvoice(on("lena", LATER), {
        supplier: h.id("supplier", "TTL"),
        number: "TT-1",
        day: "2026-11-28",
        lines: [
          { line: oil, quantity: "4" },
          { line: freight, quantity: "1" },
        ],
      }),
    );
    expect(standing(LATER)).toMatchObject({ expense: 95_00 });
    expect(readUnbilled(h.db, toDay("2026-12-31"))).toEqual([]);
    // As it was known then.
    expect(readNotInvoiced(h.db, toDay("2026-11-30")).value).toBe(2_496_00);
    expect(readNotInvoiced(h.db, toDay("2026-11-23")).value).toBe(0);
    expect(readNotInvoiced(h.db).value).toBe(0);
  });

  it("that is closed is booked into no more: what comes of its days is booked a day after it", async () => {
    await came();
    must(close("2026-11-30"));
    const before = readCloses(h.db)[0]!;
    await came(); // counted in on a day of it
    expect(sql(h.db, "SELECT max(day) FROM posting_entry WHERE kind = 'receipt'").pluck().get()).toBe("2026-12-01");
    const rows = [...journalLines(h.db, before.starts, before.until)].flat();
    expect(rows.reduce((a, l) => a + Math.max(0, l.minor), 0)).toBe(before.debit);
    expect(refusal(payByHand(on("lena", LATER), { day: "2026-11-30", parts: [{ payable: 1 }] }))).toEqual([
      "day: Mon 30 Nov lies in a period that is closed.",
    ]);
    expect(() =>
      sql(h.db, "INSERT INTO posting_entry (day, kind, at) VALUES ('2026-11-30', 'receipt', '')").run(),
    ).toThrow(/this period is closed/);
    expect(() => sql(h.db, "UPDATE book_close SET debit = 0").run()).toThrow(/never changed/);
  });

  it("goes out as an audit file whose sums are its lines, and whose accounts meet the month before", async () => {
    await came();
    must(close("2026-11-30"));
    const of = { from: toDay("2026-11-01"), until: toDay("2026-11-30"), made: LATER };
    const read = readXml(Buffer.from([...auditFile(h.db, of)].join("")));
    const root = read.ok ? read.root : expect.fail(read.says);
    const ledger = allAt(root, "GeneralLedgerEntries")[0]!;
    const amounts = (side: string) =>
      allAt(ledger, "Journal", "Transaction", "Line", side, "Amount").reduce(
        (a, e) => a + Math.round(Number(e.text) * 100),
        0,
      );
    expect(amounts("DebitAmount")).toBe(amounts("CreditAmount"));
    expect(textAt(ledger, "TotalDebit")).toBe((amounts("DebitAmount") / 100).toFixed(2));
    expect(allAt(ledger, "Journal", "Transaction").length).toBe(Number(textAt(ledger, "NumberOfEntries")));
    const accounts = allAt(root, "MasterFiles", "GeneralLedgerAccounts", "Account");
    const closing = accounts.reduce(
      (a, e) => a + Number(textAt(e, "ClosingDebitBalance") ?? 0) - Number(textAt(e, "ClosingCreditBalance") ?? 0),
      0,
    );
    expect(Math.round(closing * 100)).toBe(0);
    expect(accounts.map((e) => textAt(e, "AccountID"))).toContain("Accrued");
  });
});
