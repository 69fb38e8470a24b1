import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day } from "../core/calendar/day";
import type { BasisPoints } from "../core/numbers/money";
import { type Facts, type Ladder, type Rules, type Signer, WIDE } from "../core/signoff/rulebook";
import { type People, wayFor } from "../core/signoff/way";
import { openDatabase, sql } from "../server/db/open";
import { PAST_PAPERS, tryRules } from "../server/jobs/signoff/try-rules";
import { print, time } from "./measure";

const RULES = 500;
const ROUTED = 1_000;
const PAST = 100_000;

const team = (n: number): Signer => ({ kind: "team", team: n, all: false });
const ladder = (id: number, change: Partial<Ladder>): Ladder => ({
  id,
  name: `Ladder ${id}`,
  papers: ["order"],
  ...WIDE,
  rungs: [
    { upTo: 80_000, who: null, hours: 8, climbsTo: null },
    { upTo: 1_250_000, who: team(1), hours: 8, climbsTo: null },
    { upTo: null, who: team(2), hours: 16, climbsTo: null },
  ],
  ...change,
});
/** Each narrowed to a supplier, a category or a store of its own; the last takes whatever is left. */
const many = (): Rules => ({
  allowance: { percent: 200 as BasisPoints, amount: 10_000 },
  ladders: Array.from({ length: RULES }, (_, i) =>
    ladder(
      i + 1,
      i === RULES - 1
        ? {}
        : i % 3 === 0
          ? { suppliers: [1000 + i] }
          : i % 3 === 1
            ? { categories: [`Category ${i}`] }
            : { stores: [1000 + i] },
    ),
  ),
});

const members = [{ id: 1, name: "Maud" }];
const people: People = { membersOf: () => members, nameOf: () => "Yard manager" };

/** Routing a paper against five hundred ladders, and trying rules on a hundred thousand papers. */
export function signOffBench(today: Day): void {
  const rules = many();
  const papers = Array.from(
    { length: ROUTED },
    (_, i): Facts => ({
      paper: "order",
      amount: (i * 7_919) % 3_000_000,
      department: 1,
      categories: ["Oils", "Safety"],
      supplier: (i % 40) + 1,
      store: (i % 3) + 1,
      kind: null,
      overBudget: false,
    }),
  );
  /** The floor compares each ladder with the paper and does nothing else. */
  const compare = (f: Facts) => {
    for (const l of rules.ladders)
      if (
        l.papers.includes(f.paper) &&
        (l.departments.length === 0 || l.departments.includes(f.department!)) &&
        (l.suppliers.length === 0 || l.suppliers.includes(f.supplier!)) &&
        (l.stores.length === 0 || l.stores.includes(f.store!)) &&
        (l.categories.length === 0 || f.categories.some((c) => l.categories.includes(c)))
      )
        return l;
    return null;
  };
  print(
    `${ROUTED} papers routed against ${RULES} ladders`,
    time(() => papers.map((f) => wayFor(rules, f, 9, people, "EUR"))),
    time(() => papers.map(compare)),
    5,
  );

  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fillPast(today);
    const from = addDays(today, -365);
    const tried: Rules = { ...rules, ladders: [ladder(1, { rungs: rules.ladders[0]!.rungs.slice(1) })] };
    const moved = tryRules(db, tried, today).moved;
    print(
      `${PAST} papers tried (${moved} go another way)`,
      time(() => tryRules(db, tried, today), 5),
      time(() => {
        for (const _ of sql(db, PAST_PAPERS).iterate(from));
      }, 5),
      4,
      "reading",
    );
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }

  function fillPast(day: Day): void {
    db.transaction(() => {
      db.exec(`
        INSERT INTO company (id, name, address, currency) VALUES (1, 'Kelpholm', '', 'EUR');
        INSERT INTO store (id, code, name) VALUES (1, 'TQ', 'Tarn Quay'), (2, 'HS', 'Holm Slip'), (3, 'SK', 'Skellan');
        INSERT INTO person (id, login, name) VALUES (1, 'maud', 'Maud'), (2, 'halden', 'Halden'), (9, 'ines', 'Ines');
        INSERT INTO person_role (person, role) VALUES (1, 'approver'), (2, 'approver'), (9, 'buyer');
        INSERT INTO team (id, name) VALUES (1, 'Yard manager'), (2, 'Finance director');
        INSERT INTO team_member (team, person) VALUES (1, 1), (2, 2);`);
      for (let i = 1; i <= 40; i++)
        sql(db, "INSERT INTO supplier (id, code, name, currency) VALUES (?, ?, ?, 'EUR')").run(
          i,
          `S${i}`,
          `Supplier ${i}`,
        );
      sql(db, "INSERT INTO rulebook (version, starts, rules, kept) VALUES (1, '2020-01-01', ?, '2020-01-01')").run(
        JSON.stringify({ ...rules, ladders: [ladder(1, {})] }),
      );
      const order = sql(
        db,
        "INSERT INTO purchase_order (id, number, supplier, store, currency, writer, stage, state, required, written) VALUES (?, ?, ?, ?, 'EUR', 9, 'placed', 'With supplier', ?, ?)",
      );
      const signing = sql(
        db,
        "INSERT INTO signing (paper, purchase_order, round, amount, writer, rulebook, ladder, facts, state, started) VALUES ('order', ?, 1, ?, 9, 1, 'Orders', ?, 'Cleared', ?)",
      );
      for (let i = 1; i <= PAST; i++) {
        const facts = { ...papers[i % ROUTED]!, amount: (i * 7_919) % 3_000_000 };
        const at = addDays(day, -(i % 360));
        order.run(i, `26-${i}`, facts.supplier, facts.store, at, at);
        signing.run(i, facts.amount, JSON.stringify(facts), `${at}T09:00:00.000Z`);
      }
    })();
    db.exec("ANALYZE");
  }
}
