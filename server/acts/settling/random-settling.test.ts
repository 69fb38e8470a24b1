import fc from "fast-check";
import { expect, it } from "vitest";
import type { OrderId, OrderLineId, ReceiptId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readClaims, readInvoice } from "../../queries/settling/invoices";
import { billableOfOrder } from "../../queries/settling/ordered";
import { must, type TestHouse, testHouse } from "../../testing";
import { countIn, placedOrder } from "../receiving/testing";
import { undoReceipt } from "../receiving/undo-receipt";
import { claimLater } from "./claim-later";
import { enterCredit } from "./credit-note";
import { claimHold, dropClaim, passHold, sendInvoiceBack, takeInvoiceOff } from "./decide-invoice";
import { enterInvoice } from "./enter-invoice";

const COMPANIES = Number(process.env.WHARF_COMPANIES ?? 12);

/** Two came and four are billed: what is missing is claimed and credited. Tried first, whatever chance brings. */
const CREDITED = (
  [
    ["count", 1],
    ["bill", 3],
    ["claim", 0],
    ["credit", 0],
  ] as const
).map(([what, much]) => ({ do: what, order: 0, at: 0, much, price: "" as const }));

/** One thing that somebody does; figures choose among what there is. */
const step = fc.record({
  do: fc.constantFrom(
    "count",
    "bill",
    "bill",
    "bill",
    "claim",
    "claim",
    "accept",
    "send back",
    "take off",
    "drop",
    "claim later",
    "credit",
    "undo",
  ),
  order: fc.nat(9),
  at: fc.nat(9),
  much: fc.nat(6),
  price: fc.constantFrom("", "", "20.00", "31.21", "31.215", "44.44"),
});
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

const pick = <T>(all: readonly T[], n: number): T | undefined => all[n % Math.max(1, all.length)];

interface Company {
  h: TestHouse;
  orders: { order: OrderId; lines: OrderLineId[] }[];
  numbers: number;
}

/** Does it, where it can be done: what is refused is refused, and leaves nothing behind. */
function take(c: Company, s: Step): void {
  const { h } = c;
  const invoices = (states: string) =>
    sql<{ id: number; version: number }>(
      h.db,
      `SELECT id, version FROM invoice WHERE state IN (${states}) ORDER BY id`,
    ).all();
  const supplier = h.id("supplier", "BAW");
  const which = (v: { id: number; version: number }) => ({ invoice: v.id, version: v.version });
  switch (s.do) {
    case "count": {
      const { order, lines } = pick(c.orders, s.order)!;
      countIn(h, order, [{ line: lines[0], counted: String(1 + s.much) }]);
      return;
    }
    case "bill": {
      const { order } = pick(c.orders, s.order)!;
      const lines = billableOfOrder(h.db, order).map((l) => ({
        line: l.line,
        quantity: l.kind === "charge" ? "1" : quantityText((1 + s.much) * 10_000),
        ...(s.price && l.kind !== "charge" ? { price: s.price } : {}),
      }));
      enterInvoice(h.desk("lena"), { supplier, number: `B-${c.numbers++}`, day: "2026-11-24", another: "yes", lines });
      return;
    }
    case "claim":
    case "accept": {
      const v = pick(invoices("'Held'"), s.at);
      const hold = v && pick(readInvoice(h.db, v.id)!.open, s.much);
      if (!hold) return;
      const of = { ...which(v), reason: hold.reason, position: hold.position };
      if (s.do === "claim") claimHold(h.desk("ines"), of);
      else passHold(h.desk("ines"), { ...of, said: "as agreed" });
      return;
    }
    case "send back": {
      const v = pick(invoices("'Held'"), s.at);
      if (v && s.much < 2) sendInvoiceBack(h.desk("ines"), { ...which(v), why: "all wrong" });
      return;
    }
    case "take off": {
      const v = pick(invoices("'Held', 'Matched'"), s.at);
      if (v) takeInvoiceOff(h.desk("lena"), { ...which(v), why: "all wrong" });
      return;
    }
    case "drop": {
      const claim = pick(readClaims(h.db), s.at);
      if (claim && s.much < 3) dropClaim(h.desk("ines"), { claim: claim.id, version: claim.version, how: "given up" });
      return;
    }
    case "credit": {
      const claims = readClaims(h.db)
        .filter((x) => x.state === "Open")
        .slice(0, 1 + (s.much % 3));
      const all = claims.reduce((a, x) => a + x.net + x.tax, 0);
      // Now and then a part of it.
      const total = quantityText((s.at % 3 === 0 ? Math.ceil(all / 2) : all) * 100);
      enterCredit(h.desk("lena"), {
        supplier,
        number: `C-${c.numbers++}`,
        day: "2026-11-24",
        total,
        claims: claims.map((x) => x.id),
      });
      return;
    }
    case "claim later": {
      const v = pick(invoices("'Matched'"), s.at);
      if (!v) return;
      const of = { ...which(v), position: 1 + (s.order % 2), said: "found later" };
      claimLater(
        h.desk("ines"),
        s.price ? { ...of, reason: "agreed", amount: s.price } : { ...of, reason: "faulty", pieces: "1" },
      );
      return;
    }
    case "undo": {
      const receipts = sql<{ id: ReceiptId }>(h.db, "SELECT id FROM receipt ORDER BY id").all();
      const receipt = pick(receipts, s.at);
      if (receipt) undoReceipt(h.desk("tobias"), { receipt: receipt.id, reason: "another's" });
    }
  }
}

it("whatever is counted, billed, claimed, credited and undone: nothing is lost to the cent, nothing paid twice", async () => {
  let matched = 0;
  let credited = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 12, maxLength: 40 }), async (steps) => {
      const h = testHouse();
      try {
        const orders = [];
        for (const quantity of ["4", "9", "13"])
          orders.push(
            await placedOrder(h, "BAW", [
              { code: "ANO", quantity, price: "31.20" },
              { kind: "charge", words: "Freight", quantity: "1", price: "12.35" },
            ]),
          );
        const company: Company = { h, orders, numbers: 1 };
        for (const s of steps) take(company, s);
        expect(brokenTruths(h.db)).toEqual([]);
        const count = (text: string) => sql<{ n: number }>(h.db, text).get()!.n;
        matched += count("SELECT count(*) AS n FROM invoice WHERE state = 'Matched'");
        credited += count("SELECT count(*) AS n FROM claim WHERE state = 'Credited'");
        // Everything taken off and undone: it is as if it had not been, but for the papers.
        for (const { id, version } of sql<{ id: number; version: number }>(
          h.db,
          "SELECT id, version FROM invoice WHERE kind = 'credit note' AND state = 'Matched'",
        ).all())
          must(takeInvoiceOff(h.desk("lena"), { invoice: id, version, why: "all of it" }));
        expect(brokenTruths(h.db)).toEqual([]);
      } finally {
        h.close();
      }
    }),
    { numRuns: COMPANIES, examples: [[CREDITED]] },
  );
  expect(matched).toBeGreaterThan(COMPANIES / 2);
  expect(credited).toBeGreaterThan(0);
}, 600_000);
