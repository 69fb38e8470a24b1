import fc from "fast-check";
import { expect, it } from "vitest";
import { addDays, type Day, toDay } from "../../../core/calendar/day";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readStatements } from "../../queries/consigned/statements";
import { must, type TestHouse, testHouse } from "../../testing";
import type { Done } from "../desk";
import { bookCount, handInCount, judgeCount, startCount } from "../stock/count-stock";
import { issueGoods, takeBackFromJob } from "../stock/issue-goods";
import { theirsLost } from "./lost-and-found";
import { tickConsigned } from "./ripen";
import { sendTheirsBack } from "./send-back";
import { agreeStatement, makeStatement, withdrawStatement } from "./statement";
import { takeBackUse } from "./take-back";
import { bring, on, runningAgreement } from "./testing";

const COMPANIES = Number(process.env.WHARF_COMPANIES ?? 15);

const step = fc.record({
  do: fc.constantFrom(
    "register",
    "use",
    "use",
    "use",
    "take back",
    "from job",
    "send back",
    "lose",
    "count",
    "days",
    "price",
    "state",
    "agree",
    "withdraw",
  ),
  a: fc.nat(90),
  b: fc.nat(9),
});
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

interface World {
  h: TestHouse;
  agreement: number;
  day: Day;
  notes: number;
}

const anode = (h: TestHouse) => h.id("item", "ANO");
const quay = (h: TestHouse) => h.id("store", "TQ");

/** One thing that somebody does, or what only time does; what cannot be is refused, and must leave nothing behind. */
function take(w: World, s: Step): Done<unknown> | null {
  const { h, agreement, day } = w;
  const desk = (login: string) => on(h.desk(login), day);
  const job = sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = '2291'").get()!.id;
  const item = sql<{ id: number }>(h.db, "SELECT id FROM agreement_item").get()!.id;
  const rows = [{ item: anode(h), quantity: String(s.a + 1) }];
  switch (s.do) {
    case "register":
      w.notes++;
      return bring(h, agreement, String((s.a + 1) * 5), day, {}, { note: `N${w.notes}`, beyond: "yes" });
    case "use":
      return issueGoods(desk("tobias"), {
        store: quay(h),
        rows,
        ...(s.b > 2 ? { job } : { reason: "for the workshop" }),
      });
    case "take back": {
      const use = sql<{ id: number }>(
        h.db,
        "SELECT id FROM consigned_use WHERE reverses IS NULL ORDER BY id LIMIT 1 OFFSET (? % max(1, (SELECT count(*) FROM consigned_use WHERE reverses IS NULL)))",
      ).get(s.a);
      return takeBackUse(desk("tobias"), { use: use?.id ?? 1, quantity: String(s.b + 1), reason: "not used" });
    }
    case "from job":
      return takeBackFromJob(desk("tobias"), {
        store: quay(h),
        job,
        item: anode(h),
        quantity: String(s.b + 1),
        reason: "not used",
      });
    case "send back":
      return sendTheirsBack(desk("tobias"), {
        agreementItem: item,
        quantity: String(s.b + 1),
        reason: "too many of them",
      });
    case "lose":
      return theirsLost(desk("ines"), {
        store: quay(h),
        item: anode(h),
        owner: h.id("supplier", "BAW"),
        bin: "",
        quantity: String(s.b + 1),
        why: "lost",
      });
    case "count":
      return countTheirs(w, s.b - 4);
    case "days":
      w.day = addDays(day, s.a);
      tickConsigned(h.db, `${w.day}T10:00:00.000Z`, w.day);
      return null;
    case "price":
      sql(h.db, "INSERT INTO agreement_price VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(
        item,
        addDays(day, 1 + s.b),
        1_000_000 + s.a * 333_333,
      );
      return null;
    case "state":
      return makeStatement(desk("ines"), { agreement, until: addDays(day, -s.b) });
    case "agree":
    case "withdraw": {
      const open = readStatements(h.db).find((x) => x.state === "Made");
      const of = { statement: open?.id ?? 1, version: open?.version ?? 1 };
      return s.do === "agree"
        ? agreeStatement(desk("ines"), { ...of, by: "Elspeth" })
        : withdrawStatement(desk("ines"), { ...of, reason: "made anew" });
    }
  }
}

/** Their goods are counted, so many off, and the difference is booked. */
function countTheirs({ h, day }: World, off: number): Done<unknown> {
  const desk = (login: string) => on(h.desk(login), day);
  const started = startCount(desk("tobias"), { store: quay(h), item: anode(h) });
  if (!started.ok) return started;
  const { count } = started.value;
  const theirs = sql<{ id: number; expected: number }>(
    h.db,
    "SELECT id, expected FROM stock_count_line WHERE stock_count = ? AND owner IS NOT NULL LIMIT 1",
  ).get(count);
  if (!theirs) return started;
  const seen = Math.max(0, theirs.expected + off * 10_000);
  must(handInCount(desk("tobias"), { count, rows: [{ line: theirs.id, counted: String(seen / 10_000) }] }));
  if (seen !== theirs.expected)
    must(judgeCount(desk("ines"), { count, rows: [{ line: theirs.id, what: "book", seen }] }));
  const { version } = sql<{ version: number }>(h.db, "SELECT version FROM stock_count WHERE id = ?").get(count)!;
  return bookCount(desk("ines"), { count, version });
}

it("whatever happens to a supplier’s goods, what must always be true is true, and what is refused leaves nothing", () => {
  fc.assert(
    fc.property(
      fc.array(step, { minLength: 8, maxLength: 22 }),
      fc.constantFrom("us", "them"),
      fc.constantFrom("theirs", "ours"),
      (steps, bears, first) => {
        const h = testHouse();
        try {
          const w: World = {
            h,
            agreement: runningAgreement(h, { ends: "2030-12-31", bears, first }),
            day: toDay("2026-08-01"),
            notes: 0,
          };
          must(bring(h, w.agreement, "120", w.day));
          for (const s of steps) {
            const rows = () =>
              sql<{ n: number }>(
                h.db,
                "SELECT (SELECT count(*) FROM movement) + (SELECT count(*) FROM consigned_take) + (SELECT count(*) FROM posting) + (SELECT count(*) FROM purchase_order) AS n",
              ).get()!.n;
            tickConsigned(h.db, `${w.day}T08:00:00.000Z`, w.day);
            const before = rows();
            const did = take(w, s);
            if (did !== null && !did.ok) expect([s, rows()]).toEqual([s, before]);
            expect([s, ...brokenTruths(h.db)]).toEqual([s]);
          }
          // Taken back whole, nothing of theirs is owed but what became ours, was lost, or is agreed to.
          const { net } = sql<{ net: number }>(
            h.db,
            "SELECT coalesce(sum(net), 0) AS net FROM consigned_use WHERE statement IN (SELECT id FROM use_statement WHERE state = 'Agreed')",
          ).get()!;
          const { owed } = sql<{ owed: number }>(h.db, "SELECT coalesce(sum(net), 0) AS owed FROM payable").get()!;
          expect(owed).toBe(net);
        } finally {
          h.close();
        }
      },
    ),
    { numRuns: COMPANIES },
  );
}, 240_000);
