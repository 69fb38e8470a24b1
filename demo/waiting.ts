import { addDays, type Day, toDay, weekday } from "../core/calendar/day";
import type { BudgetId, ItemId, OrderId, PersonId } from "../core/ids";
import { readText } from "../exchange/mail/read-text";
import type { Desk, Done } from "../server/acts/desk";
import { tieDemand } from "../server/acts/jobs/tie-demand";
import { noteRound } from "../server/acts/needs/note-needs";
import { placeOrder } from "../server/acts/orders/place-order";
import { submitOrder } from "../server/acts/orders/submit-order";
import { writeOrders } from "../server/acts/orders/write-orders";
import { layOutBench } from "../server/acts/placing/lay-out";
import { answerQuote, noteOpened } from "../server/acts/quotes/answer-quote";
import { askForQuotes } from "../server/acts/quotes/ask-for-quotes";
import { receiveGoods } from "../server/acts/receiving/receive-goods";
import { decideLine, declineLine } from "../server/acts/requisitions/decide-line";
import { saveRequisition, startRequisition, submitRequisition } from "../server/acts/requisitions/raise-requisition";
import { sendBack, sign } from "../server/acts/signoff/sign";
import { meetByTransfer } from "../server/acts/stock/transfers";
import { readPerson } from "../server/auth/sessions";
import { type Db, sql } from "../server/db/open";
import { readNeeds, usualPlan } from "../server/queries/needs/needs";
import { readInvitation } from "../server/queries/quotes/quotes";
import { makeAgreements } from "./agreements";
import { hearAnswers } from "./answers";
import { keepTheirShelf } from "./consigned";
import { countSomeBins, setSomeAside, setTolerances } from "./dock";
import { insertOrder } from "./history";
import { countForTheCrane, enterSomeInvoices, orderForTheCrane } from "./settling";

/** Puts work on every stop, by the same acts that people use, on the days before today. */
export async function leaveWorkWaiting(db: Db, today: Day): Promise<void> {
  let keys = 0;
  /** `back` working days ago. */
  const ago = (back: number): Day => {
    let d = today;
    for (let left = back; left > 0; ) {
      d = addDays(d, -1);
      if (weekday(d) <= 5) left--;
    }
    return d;
  };
  /** In so many days, or on the Monday after where that is a weekend. */
  const soon = (days: number): Day => {
    let d = addDays(today, days);
    while (weekday(d) > 5) d = addDays(d, 1);
    return d;
  };
  const desk = (login: string, day: Day, time = "09:30"): Desk => {
    const { id } = sql<{ id: PersonId }>(db, "SELECT id FROM person WHERE login = ?").get(login)!;
    keys++;
    return {
      db,
      person: readPerson(db, id)!,
      day,
      hour: 9,
      now: `${day}T${time}:00.000Z`,
      key: `demo-${String(keys).padStart(6, "0")}`,
    };
  };
  const must = <T>(answer: Done<T>): T => {
    if (!answer.ok) throw new Error(answer.problems.map((p) => `${p.field}: ${p.says}`).join("; "));
    return answer.value;
  };
  const items = new Map(
    sql<{ id: ItemId; code: string }>(db, "SELECT id, code FROM item")
      .all()
      .map((i) => [i.code, i.id]),
  );
  const idOf = (table: "supplier" | "store", code: string) =>
    sql<{ id: number }>(db, `SELECT id FROM ${table} WHERE code = ?`).get(code)!.id;
  const version = (table: "purchase_order" | "requisition", id: number) =>
    sql<{ version: number }>(db, `SELECT version FROM ${table} WHERE id = ?`).get(id)!.version;

  const draft = (supplier: string, store: string, sent: Day, came: Day, lines: [string, number][], writer = "ines") =>
    insertOrder(
      db,
      {
        supplier: idOf("supplier", supplier),
        store: idOf("store", store),
        sent,
        came,
        lines: lines.map(([item, packs]) => ({ item, packs })),
      },
      desk(writer, sent).person.id,
      items,
    );
  const submitted = (order: OrderId, day: Day, time = "09:40") =>
    must(submitOrder(desk("ines", day, time), { order, version: version("purchase_order", order) }));
  const signed = (order: OrderId, login: string, day: Day, time = "11:15") =>
    must(sign(desk(login, day, time), { paper: "order", id: order, version: version("purchase_order", order) }));
  const cleared = (order: OrderId, day: Day) => {
    let waits = submitted(order, day).waitsFor;
    while (waits) waits = signed(order, waits === "Yard manager" ? "maud" : "halden", day).left;
  };
  const placed = async (order: OrderId, day: Day) => {
    cleared(order, day);
    must(await placeOrder(desk("ines", day, "13:05"), { order, version: version("purchase_order", order) }));
  };
  const count = (order: OrderId, day: Day, of: (ordered: number, i: number) => string) => {
    const lines = sql<{ id: number; quantity: number }>(
      db,
      "SELECT id, quantity FROM order_line WHERE purchase_order = ? ORDER BY position",
    ).all(order);
    must(
      receiveGoods(desk("tobias", day, "10:10"), {
        order,
        version: version("purchase_order", order),
        deliveryNote: `DN ${4400 + order}`,
        lines: lines.map((l, i) => ({ line: l.id, counted: of(l.quantity / 10_000, i) })),
      }),
    );
  };
  const ask = (
    login: string,
    day: Day,
    store: string,
    neededBy: Day,
    reason: string,
    lines: { item?: string; words?: string; quantity: string; estimate?: string }[],
    more: { watchers?: string[]; budget?: string } = {},
  ) => {
    const id = must(startRequisition(desk(login, day, "08:50"))).requisition;
    must(
      saveRequisition(desk(login, day, "08:58"), {
        requisition: id,
        version: 1,
        store: idOf("store", store),
        neededBy,
        reason,
        lines: lines.map((l) => ({
          item: l.item ? items.get(l.item)! : "",
          words: l.words ?? "",
          quantity: l.quantity,
          estimate: l.estimate ?? "",
          budget: more.budget
            ? sql<{ id: BudgetId }>(db, "SELECT id FROM budget WHERE code = ?").get(more.budget)!.id
            : "",
        })),
        watchers: (more.watchers ?? []).map((w) => desk(w, day).person.id),
      }),
    );
    return id;
  };
  const handIn = (login: string, day: Day, id: number) =>
    must(submitRequisition(desk(login, day, "09:05"), { requisition: id, version: version("requisition", id) }));

  // On the dock: overdue, today, and the days to come; one order part in.
  await placed(draft("NRR", "TQ", ago(16), ago(4), [["ROP-032", 2]]), ago(16));
  await placed(
    draft("HAF", "TQ", ago(12), ago(1), [
      ["FLT-F30", 24],
      ["FLT-AIR", 4],
      ["FLT-CRK", 6],
    ]),
    ago(12),
  );
  const part = draft("PUF", "TQ", ago(14), today, [
    ["LIF-ADU", 30],
    ["FLR-HND", 4],
    ["EXT-P06", 12],
    ["LFB-RNG", 6],
  ]);
  await placed(part, ago(14));
  count(part, ago(1), (n, i) => (i === 0 ? String(n - 12) : i === 2 ? String(n) : ""));
  await placed(
    draft("TTL", "TQ", ago(8), today, [
      ["HYD-032", 4],
      ["GRS-WRE", 3],
    ]),
    ago(8),
  );
  await placed(
    draft("LRE", "TQ", ago(5), today, [
      ["BRK-016", 20],
      ["CAB-GLD", 6],
      ["FUS-NH1", 4],
    ]),
    ago(5),
  );
  await placed(
    draft("BAW", "HS", ago(9), soon(2), [
      ["ANO-BK6", 36],
      ["ANO-RUD", 12],
      ["ANO-BSN", 24],
    ]),
    ago(9),
  );
  await placed(
    draft("OSD", "TQ", ago(6), soon(1), [
      ["BRG-6208", 24],
      ["SEA-LIP", 20],
      ["SEA-OR1", 4],
    ]),
    ago(6),
  );
  await placed(
    draft("VSS", "HS", ago(11), addDays(today, -3), [
      ["STL-A60", 10],
      ["STL-F50", 12],
    ]),
    ago(11),
  );
  await placed(
    draft("CGG", "SK", ago(2), soon(2), [
      ["GAL-COF", 4],
      ["GAL-TEA", 3],
      ["GAL-BAG", 3],
    ]),
    ago(2),
  );
  await placed(
    draft("FES", "TQ", ago(4), soon(4), [
      ["ENG-GSK", 8],
      ["ENG-BLT", 12],
      ["ENG-THM", 4],
    ]),
    ago(4),
  );
  await placed(
    draft("MIH", "HS", ago(7), soon(6), [
      ["CYL-SEA", 3],
      ["HOS-FIT", 4],
    ]),
    ago(7),
  );

  // Cleared and not yet placed.
  cleared(
    draft("LRE", "TQ", ago(1), soon(8), [
      ["LMP-EMG", 10],
      ["SNS-TMP", 4],
    ]),
    ago(1),
  );
  cleared(draft("BAW", "TQ", ago(1), soon(12), [["ANO-SEA", 4]]), ago(1));

  // Waiting for a signature: one overdue, one of this morning, one already with the finance director.
  submitted(draft("QUO", "TQ", ago(3), soon(14), [["ENG-1540", 9]]), ago(3));
  submitted(
    draft("NRR", "HS", ago(1), soon(13), [
      ["ROP-W16", 3],
      ["RIG-SH4", 40],
      ["RIG-TRN", 24],
    ]),
    ago(1),
    "14:20",
  );
  const big = draft("FES", "TQ", ago(2), soon(18), [
    ["ENG-TUR", 8],
    ["PMP-SEA", 4],
    ["ENG-INJ", 6],
  ]);
  submitted(big, ago(2));
  signed(big, "maud", ago(1), "15:30");

  // On the Bench: two being written, one of them sent back.
  draft("MIH", "TQ", ago(1), soon(9), [
    ["HOS-H34", 2],
    ["HOS-EXH", 3],
  ]);
  const back = draft("PUF", "TQ", ago(2), soon(12), [
    ["SUI-IMM", 6],
    ["FLR-ROC", 12],
  ]);
  submitted(back, ago(2), "15:10");
  must(
    sendBack(desk("maud", ago(1), "08:20"), {
      paper: "order",
      id: back,
      version: version("purchase_order", back),
      reason: "We have six suits at Skellan. Ask there first.",
    }),
  );

  // What Joss asked for: one all the way through, one ordered, one open, one being signed, one still a draft.
  const met = ask("joss", ago(15), "TQ", ago(4), "Bilge alarm keeps tripping on Knot", [
    { item: "SNS-TMP", quantity: "4" },
  ]);
  handIn("joss", ago(15), met);
  const bearings = ask("joss", ago(10), "TQ", soon(3), "Gearbox overhaul, Turnstone", [
    { item: "BRG-6310", quantity: "6" },
  ]);
  handIn("joss", ago(10), bearings);
  const serve = async (day: Day) => {
    const keys = readNeeds(db, usualPlan(day)).filter((n) => n.source === "requisition");
    const { orders } = must(
      writeOrders(desk("ines", day, "09:15"), {
        picks: keys.map((n) => ({ need: n.key, quantity: String(n.buy / 10_000) })),
      }),
    );
    for (const o of orders) await placed(o, day);
    return orders;
  };
  const [sensors] = await serve(ago(9));
  count(sensors!, ago(3), (n) => String(n));
  const hull = ask("joss", ago(2), "HS", soon(13), "Hull of Samphire before she is painted", [
    { item: "SRV-UTM", quantity: "1" },
    { words: "Ultrasonic couplant and two days of scaffolding at the stern", quantity: "1", estimate: "340.00" },
  ]);
  handIn("joss", ago(2), hull);
  must(sign(desk("maud", ago(1), "09:10"), { paper: "requisition", id: hull, version: version("requisition", hull) }));
  handIn(
    "joss",
    ago(1),
    ask("joss", ago(1), "HS", soon(9), "Deck of Marram, starboard side", [
      { item: "PNT-DCK", quantity: "40" },
      { item: "PNT-ROL", quantity: "20" },
    ]),
  );
  handIn(
    "joss",
    ago(1),
    ask("joss", ago(1), "HS", soon(16), "Stern gear of Marram", [
      { item: "SEA-STN", quantity: "2" },
      { item: "BRG-CUT", quantity: "1" },
    ]),
  );
  ask("joss", toDay(today), "HS", soon(20), "Ramp hinge of Dunlin", [{ item: "CYL-SEA", quantity: "" }]);

  // A line that the buyer changed, one that was declined, and one that somebody else follows.
  const tools = ask(
    "joss",
    ago(3),
    "HS",
    soon(12),
    "Rigging loft, before the winter work",
    [
      { item: "RIG-SH4", quantity: "8" },
      { words: "Splicing fids, a set of five", quantity: "2", estimate: "84.00" },
      { words: "A second kettle for the loft", quantity: "1", estimate: "39.00" },
    ],
    { watchers: ["tobias"], budget: "YARD" },
  );
  handIn("joss", ago(3), tools);
  const toolLines = sql<{ id: number }>(
    db,
    "SELECT id FROM requisition_line WHERE requisition = ? ORDER BY position",
  ).all(tools);
  must(
    decideLine(desk("ines", ago(1), "10:20"), {
      line: toolLines[0]!.id,
      quantity: "6",
      offered: "",
      why: "Two lie unused on Dunlin",
    }),
  );
  must(
    declineLine(desk("ines", ago(1), "10:22"), {
      line: toolLines[2]!.id,
      reason: "The galley has a spare one: ask Gwen",
    }),
  );

  // The island store was walked on Friday; two codes were known to nobody.
  must(
    noteRound(desk("tobias", ago(1), "15:40"), {
      store: idOf("store", "SK"),
      lines: [
        { key: "demo-round-1", code: "GAL-COF", quantity: "2", unit: "carton", note: "" },
        { key: "demo-round-2", code: "EXT-P06", quantity: "4", unit: "each", note: "two are past their date" },
        { key: "demo-round-3", code: "5012345678900", quantity: "3", unit: "", note: "blue tins by the door" },
        { key: "demo-round-4", code: "TP-88", quantity: "1", unit: "", note: "tape, wide" },
      ],
    }),
  );
  // The refit of Marram gets its antifouling bought for it alone; filters are brought over to the island.
  const paint = sql<{ id: number }>(
    db,
    "SELECT d.id FROM job_demand d JOIN job j ON j.id = d.job JOIN item i ON i.id = d.item WHERE j.code = '2291' AND i.code = 'PNT-AFR'",
  ).get();
  if (paint) tieDemand(desk("ines", today, "08:15"), { demand: paint.id, tie: "yes" });
  const spare = readNeeds(db, usualPlan(today)).find((n) => n.key.startsWith("s:") && n.code === "FLT-L22");
  if (spare) {
    must(
      meetByTransfer(desk("ines", today, "08:20"), {
        need: spare.key,
        item: spare.item,
        from: idOf("store", "TQ"),
        quantity: String(spare.wanted / 10_000),
      }),
    );
  }

  // Ines has laid the consumables of the slip season out: oils, filters, rope and paint, most of which several suppliers
  // sell. Of the three asked for a price of the oils, one answered, one looked, and the time is up.
  const laidOn = ago(4);
  const stillNeeded = new Set(readNeeds(db, usualPlan(today, 9)).map((n) => n.key));
  const laidOut = readNeeds(db, usualPlan(laidOn, 9)).filter(
    (n) =>
      stillNeeded.has(n.key) && n.item !== null && n.supplier && /^(HYD|GBX|GRS|CLT|FLT|IMP|HOS|ROP|PNT)/.test(n.code),
  );
  const { bench } = must(
    layOutBench(desk("ines", laidOn, "08:40"), {
      needs: laidOut.slice(0, 14).map((n) => n.key),
      name: "Slip season consumables",
    }),
  );
  must(
    await askForQuotes(
      desk("ines", laidOn, "09:05"),
      {
        bench,
        needs: laidOut.filter((n) => /^(HYD|GBX|CLT)/.test(n.code)).map((n) => n.key),
        suppliers: ["TTL", "QUO", "FES"].map((s) => idOf("supplier", s)),
        answerBy: ago(1),
        note: "We fill the tanks of three ferries this winter; a price until the end of March would help us.",
      },
      "http://localhost:4470",
    ),
  );
  const letters = sql<{ eml: Buffer }>(db, "SELECT eml FROM mail WHERE quote IS NOT NULL ORDER BY id").all();
  const links = letters.map((m) => /\/quote\/([\w-]+)/.exec(readText(m.eml))![1]!);
  const invitation = readInvitation(db, links[0]!, ago(3))!;
  const offered: Record<string, string> = { "HYD-046": "589.00", "GBX-090": "742.50", "CLT-RTU": "371.00" };
  must(
    answerQuote(
      db,
      links[0]!,
      {
        lines: invitation.lines.map((l) => ({
          line: l.id,
          price: offered[l.code] ?? "",
          from: "",
          leadDays: "8",
          note: l.code === "GBX-090" ? "in stock now" : "",
        })),
        validFrom: ago(3),
        validTo: addDays(today, 96),
        conditions: "Drums are lent; empty ones go back with the next delivery.",
        decline: false,
      },
      { now: `${ago(3)}T11:20:00.000Z`, day: ago(3) },
    ),
  );
  noteOpened(db, readInvitation(db, links[1]!, ago(2))!, `${ago(2)}T16:05:00.000Z`);

  await makeAgreements({ db, today, desk, must, idOf, item: (code) => items.get(code)! });
  hearAnswers({ db, today, desk, must });

  // A van from Brannock's came by yesterday, with more of one anode than was ordered, and a case that was dropped.
  const anodes = draft("BAW", "TQ", ago(3), today, [
    ["ANO-11W", 40],
    ["ANO-S60", 12],
  ]);
  await placed(anodes, ago(3));
  setTolerances({ db, desk, must }, ago(60));
  setSomeAside({ db, desk, must }, anodes, ago(1));
  countSomeBins({ db, desk, must }, today);
  await keepTheirShelf({ db, today, desk, must, idOf, item: (code) => items.get(code)! });

  const crane = orderForTheCrane({ db, desk, must, idOf }, ago(9));
  await placed(crane, ago(9));
  countForTheCrane({ db, desk, must, idOf }, crane, ago(1));
  enterSomeInvoices({ db, today, desk, must, crane });
}
