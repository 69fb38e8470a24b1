import { addDays, type Day } from "../core/calendar/day";
import { lastPeriodEnd } from "../core/consigned/statement";
import type { ItemId, StoreId } from "../core/ids";
import { keepAgreement, startAgreement } from "../server/acts/consigned/keep-agreement";
import { answerLonger, askLonger } from "../server/acts/consigned/longer";
import { theirsLost } from "../server/acts/consigned/lost-and-found";
import { askRefill, promiseRefill } from "../server/acts/consigned/refill";
import { registerDelivery } from "../server/acts/consigned/register";
import { agreeStatement, makeStatement, sendStatement } from "../server/acts/consigned/statement";
import { submitAgreement } from "../server/acts/consigned/submit-agreement";
import type { Desk, Done } from "../server/acts/desk";
import { sign } from "../server/acts/signoff/sign";
import { addBins } from "../server/acts/stock/bins";
import { issueGoods } from "../server/acts/stock/issue-goods";
import { type Db, sql } from "../server/db/open";
import { readStatements } from "../server/queries/consigned/statements";

interface Tools {
  db: Db;
  today: Day;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
  idOf: (table: "supplier" | "store", code: string) => number;
  item: (code: string) => ItemId;
}

/** What Saltby’s keep at Tarn Quay: item, least, most, pack, price, and the price from the new year on. */
const SHELF = [
  ["BLT-M12", "600", "3000", "100", "0.18", "0.19"],
  ["NUT-M12", "800", "2400", "200", "0.11", "0.11"],
  ["WSH-M12", "500", "2500", "500", "0.03", "0.03"],
  ["BLT-M16", "350", "600", "50", "1.38", "1.42"],
] as const;

/**
 * Saltby Fasteners own the bolts on a rack at Tarn Quay since spring: registered, used by jobs, lost now and then, settled
 * each month; some become ours soon, and nuts are nearly out. At Holm Slip they keep the big ones since lately.
 */
export async function keepTheirShelf(t: Tools): Promise<void> {
  const { today, desk, must, idOf, item } = t;
  const store = idOf("store", "TQ") as StoreId; // a store’s own id
  const begins = addDays(today, -200);
  must(addBins(desk("sunniva", begins, "09:50"), { store, from: "R1", to: "R4", note: "Saltby’s rack" }));
  const rows = SHELF.map(([code, least, most, pack, price, later]) => ({
    item: item(code),
    least,
    most,
    pack,
    refillDays: "7",
    prices: [{ price }, ...(later === price ? [] : [{ day: `${Number(today.slice(0, 4)) + 1}-01-01`, price: later }])],
  }));
  const agreement = agreed(t, { store, begins, items: rows, place: "bins", binsFrom: "R1", binsTo: "R4" });
  await livedWith(t, agreement, store);
  const slip = agreed(t, {
    store: idOf("store", "HS") as StoreId, // likewise
    begins: addDays(today, -40),
    items: [
      { item: item("BLT-M20"), least: "40", most: "400", pack: "25", refillDays: "7", prices: [{ price: "2.94" }] },
    ],
  });
  must(
    registerDelivery(anywhere(desk("sunniva", addDays(today, -30), "10:15")), {
      agreement: slip,
      note: "SF-22014",
      rows: [{ item: item("BLT-M20"), quantity: "200" }],
    }),
  );
  // What was told long ago was read then.
  sql(t.db, "UPDATE notice SET read = at WHERE read IS NULL AND at < ?").run(addDays(today, -10));
}

/** Somebody who is at the other store that day. */
const anywhere = (desk: Desk): Desk => ({ ...desk, person: { ...desk.person, store: null } });

/** An agreement with Saltby’s, written by the buyer and signed the day after. */
function agreed(
  t: Tools,
  of: { store: StoreId; begins: Day; items: object[]; place?: string; binsFrom?: string; binsTo?: string },
): number {
  const { desk, must, idOf } = t;
  const { store, begins, ...terms } = of;
  const { agreement } = must(
    startAgreement(desk("ines", begins, "10:10"), { supplier: idOf("supplier", "SAF"), store }),
  );
  must(
    keepAgreement(desk("ines", begins, "10:40"), {
      agreement,
      version: 1,
      starts: addDays(begins, 4),
      ends: addDays(begins, 734),
      oursAfter: "90",
      first: "theirs",
      settles: "month",
      bears: "us",
      note: "Saltby’s van comes by on Mondays and Thursdays.",
      ...terms,
    }),
  );
  must(submitAgreement(desk("ines", begins, "10:45"), { agreement, version: 2 }));
  signed(t, agreement, addDays(begins, 1));
  return agreement;
}

/** Whoever is asked signs. */
function signed({ db, desk, must }: Tools, agreement: number, day: Day): void {
  for (const login of ["sunniva", "maud", "halden"]) {
    const now = sql<{ state: string; version: number }>(db, "SELECT state, version FROM agreement WHERE id = ?").get(
      agreement,
    )!;
    const asked = sql(
      db,
      `SELECT 1 FROM signing g JOIN seat s ON s.signing = g.id JOIN seat_person p ON p.seat = s.id JOIN person q ON q.id = p.person
       WHERE g.agreement = ? AND s.state = 'waiting' AND q.login = ?`,
    ).get(agreement, login);
    if (now.state === "In sign-off" && asked)
      must(sign(desk(login, day, "14:20"), { paper: "agreement", id: agreement, version: now.version }));
  }
}

/** What came, was used, was lost and settled since; days before today. */
async function livedWith(t: Tools, agreement: number, store: StoreId): Promise<void> {
  const { db, today, desk, must, item } = t;
  const jobs = sql<{ id: number }>(
    db,
    // Jobs that planned for none of it: they take what they find they need.
    `SELECT id FROM job WHERE kind = 'job' AND closed IS NULL AND id NOT IN (SELECT d.job FROM job_demand d JOIN agreement_item x ON x.item = d.item WHERE x.agreement = ?)
     ORDER BY code LIMIT 6`,
  ).all(agreement);
  let key = 0;
  const bring = (ago: number, note: string, rows: [string, string][]) =>
    must(
      registerDelivery(desk("sunniva", addDays(today, -ago), `08:${String(10 + (key++ % 45))}`), {
        agreement,
        note,
        rows: rows.map(([code, quantity]) => ({ item: item(code), quantity })),
      }),
    );
  const use = (ago: number, job: number, rows: [string, string][]) =>
    must(
      issueGoods(desk("sunniva", addDays(today, -ago), `13:${String(10 + (key++ % 45))}`), {
        store,
        job: jobs[job % jobs.length]!.id,
        rows: rows.map(([code, quantity]) => ({ item: item(code), quantity })),
      }),
    );
  bring(194, "SF-20417", [
    ["BLT-M12", "1200"],
    ["NUT-M12", "1400"],
    ["WSH-M12", "1000"],
    ["BLT-M16", "250"],
  ]);
  for (const [ago, job, rows] of [
    [
      180,
      0,
      [
        ["BLT-M12", "260"],
        ["NUT-M12", "300"],
        ["WSH-M12", "200"],
      ],
    ],
    [
      166,
      1,
      [
        ["BLT-M12", "180"],
        ["NUT-M12", "220"],
        ["BLT-M16", "60"],
      ],
    ],
    [
      150,
      2,
      [
        ["BLT-M12", "320"],
        ["NUT-M12", "340"],
        ["WSH-M12", "260"],
      ],
    ],
    [
      131,
      3,
      [
        ["BLT-M12", "210"],
        ["NUT-M12", "250"],
        ["BLT-M16", "50"],
      ],
    ],
  ] satisfies [number, number, [string, string][]][])
    use(ago, job, rows);
  bring(118, "SF-20988", [
    ["BLT-M12", "1000"],
    ["NUT-M12", "1000"],
    ["WSH-M12", "500"],
    ["BLT-M16", "150"],
  ]);
  for (const [ago, job, rows] of [
    [
      97,
      4,
      [
        ["BLT-M12", "340"],
        ["NUT-M12", "380"],
        ["WSH-M12", "180"],
        ["BLT-M16", "40"],
      ],
    ],
  ] satisfies [number, number, [string, string][]][])
    use(ago, job, rows);
  bring(84, "SF-21460", [
    ["BLT-M12", "1000"],
    ["NUT-M12", "600"],
    ["WSH-M12", "1000"],
    ["BLT-M16", "200"],
  ]);
  use(62, 5, [
    ["BLT-M12", "420"],
    ["NUT-M12", "440"],
    ["WSH-M12", "150"],
    ["BLT-M16", "70"],
  ]);
  bring(54, "SF-21877", [
    ["BLT-M12", "1400"],
    ["NUT-M12", "400"],
    ["WSH-M12", "1000"],
    ["BLT-M16", "150"],
  ]);
  for (const [ago, job, rows] of [
    [
      12,
      0,
      [
        ["BLT-M12", "140"],
        ["NUT-M12", "160"],
        ["WSH-M12", "90"],
      ],
    ],
    [
      6,
      3,
      [
        ["BLT-M12", "90"],
        ["NUT-M12", "110"],
        ["BLT-M16", "30"],
      ],
    ],
  ] satisfies [number, number, [string, string][]][])
    use(ago, job, rows);
  const bin = sql<{ bin: string }>(
    db,
    "SELECT bin FROM stock_balance WHERE item = ? AND store = ? AND owner <> 0 AND quantity > 0 LIMIT 1",
  ).get(item("BLT-M12"), store)!.bin;
  must(
    theirsLost(desk("ines", addDays(today, -4), "16:05"), {
      store,
      item: item("BLT-M12"),
      owner: sql<{ id: number }>(db, "SELECT supplier AS id FROM agreement WHERE id = ?").get(agreement)!.id,
      bin,
      quantity: "6",
      why: "lost",
      note: "fell into the dock",
    }),
  );
  await settled(t, agreement);
  await asked(t, agreement);
}

/** The months that are over: all agreed to but the last, which was sent and not answered. */
async function settled({ db, today, desk, must }: Tools, agreement: number): Promise<void> {
  const last = lastPeriodEnd("month", today);
  const ends: Day[] = [last];
  while (ends.length < 5) ends.unshift(lastPeriodEnd("month", ends[0]!));
  for (const until of ends) {
    const on = [addDays(until, 2), today].sort()[0]!;
    const made = makeStatement(desk("petra", on, "09:30"), { agreement, until });
    if (!made.ok) continue; // nothing was used in that month
    const of = () => readStatements(db, agreement).find((s) => s.id === made.value.statement)!;
    must(await sendStatement(desk("petra", on, "09:40"), { statement: of().id, version: of().version }));
    if (until !== last)
      must(
        agreeStatement(desk("petra", addDays(on, 3), "11:15"), {
          statement: of().id,
          version: of().version,
          by: "Wenna Saltby",
        }),
      );
  }
}

/** Nuts are asked for, and they once let bolts stay longer. */
async function asked({ db, today, desk, must, item }: Tools, agreement: number): Promise<void> {
  const at = addDays(today, -3);
  const line = sql<{ id: number }>(db, "SELECT id FROM agreement_item WHERE agreement = ? AND item = ?").get(
    agreement,
    item("NUT-M12"),
  )!;
  const { refill } = must(
    await askRefill(desk("ines", at, "09:20"), {
      agreement,
      wanted: addDays(today, 2),
      rows: [{ agreementItem: line.id, quantity: "800" }],
    }),
  );
  must(
    promiseRefill(desk("ines", addDays(at, 1), "10:30"), {
      refill,
      version: 1,
      day: addDays(today, 3),
      said: "with the van on Friday",
    }),
  );
  const layer = sql<{ id: number }>(
    db,
    "SELECT y.id FROM consigned_layer y WHERE y.item = ? AND y.rest > 0 AND y.ours_on IS NOT NULL ORDER BY y.ours_on DESC LIMIT 1",
  ).get(item("WSH-M12"));
  if (!layer) return;
  must(await askLonger(desk("ines", addDays(today, -20), "15:10"), { layers: [layer.id], days: "30" }));
  const { id } = sql<{ id: number }>(db, "SELECT max(id) AS id FROM longer").get()!;
  must(answerLonger(desk("ines", addDays(today, -19), "08:50"), { longer: id, answer: "yes", by: "Wenna Saltby" }));
}
