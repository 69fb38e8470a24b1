import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { comesOut, figureText } from "../../../core/sums/sum";
import { byRank, type WayOut } from "../../../core/suppliers/ways-out";
import type { FileKind } from "../../../exchange/csv/kinds";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readCovers } from "../../queries/jobs/jobs";
import { usualPlan } from "../../queries/needs/needs";
import { readOrder } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { readBench } from "../../queries/placing/bench";
import { readOpenAnswers, readSaid } from "../../queries/suppliers/answers";
import { must, refusal, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { loadFile } from "../files/load-file";
import { makeLink } from "../orders/order-link";
import { answerByLink, writeDownAnswer } from "./answer-order";
import { counterAnswer, takeAnswers } from "./decide-answer";
import { tryAnswers } from "./try-answer";
import { waysOut } from "./way-out";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const load = (kind: FileKind, text: string) => must(loadFile(h.desk("osk"), kind, Buffer.from(text), "."));
const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });

/** 50 shaft anodes at 18.40, promised for 4 December; a job takes 40 on the 10th; 4 on hand. 20 of them come on the 31st. */
function split(): { id: OrderId; line: number; answer: number } {
  load("items", "code,name,unit\nSHA,Shaft anode,each\nSH65,Shaft anode 65,each\n");
  load(
    "sourcing",
    "item,supplier,their_code,unit,factor,lead_days\nSHA,BAW,Z-60,each,1,8\nSHA,TTL,T-60,each,1,15\nSH65,TTL,T-65,each,1,15\n",
  );
  load("prices", "item,supplier,from,price\nSHA,TTL,1,19.95\nSH65,TTL,1,21.90\n");
  load(
    "stock",
    "item,store,on_hand,policy,reorder_point,lot,level\nSHA,TQ,4,larger of,0,10,\nSHA,HS,9,larger of,2,10,\nSH65,TQ,2,larger of,0,10,\n",
  );
  load("jobs", "job,name,vessel,item,store,due,quantity\n2295,Refit,Marram,SHA,TQ,2026-12-10,40\n");
  load("orders", "order,supplier,store,item,quantity,required,price\nX-1,BAW,TQ,SHA,50,2026-12-04,18.40\n");
  const { id } = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = 'X-1'").get()!;
  const line = readOrder(h.db, id)!.lines[0]!.id;
  must(
    writeDownAnswer(h.desk("ines"), {
      order: id,
      revision: 1,
      way: "phone",
      saidBy: "Elspeth",
      saidOn: TODAY,
      lines: [
        {
          line,
          parts: [
            { quantity: "30", day: "2026-12-04" },
            { quantity: "20", day: "2026-12-31" },
          ],
        },
      ],
    }),
  );
  return { id, line, answer: readOpenAnswers(h.db, TODAY, id)[0]!.id };
}
const ways = (id: OrderId, answer: number) => {
  const desk = h.desk("ines");
  return waysOut(h.db, desk, id, answer, tryAnswers(h.db, id, [answer], desk)!);
};
const waySays = ({ key, what, cost, day, inTime }: WayOut) => [key.split(":")[0], what, cost, day, inTime];
const waits = () => [...readCovers(h.db, usualPlan(TODAY), null).values()].reduce((a, c) => a + c.late + c.lacking, 0);
const rows = (line: number) => readSchedule(h.db, line).map((s) => [s.quantity / 10_000, s.promised]);

describe("the ways out of what an answer leaves short", () => {
  it("are ranked by who waits, cost and day; 6 from another supplier cost 9.30 more, in time", () => {
    const { id, answer } = split();
    const before = JSON.stringify(readOrder(h.db, id));
    const found = ways(id, answer);
    expect(JSON.stringify(readOrder(h.db, id))).toBe(before);
    expect(found.map(waySays)).toEqual([
      ["move", "6 each from Holm Slip", 0, "2026-11-25", true],
      ["buy", "6 each from Tern & Tallow", 930, "2026-12-09", true],
      ["ask", "Ask for 6 each by Thu 10 Dec", null, null, null],
      ["bench", "Buy 6 each elsewhere, by the Bench", null, null, null],
      ["wait", "Take it and wait", 0, "2026-12-31", false],
    ]);
    expect([...found].reverse().sort(byRank)).toEqual(found);
    const sum = found[1]!.sum!;
    expect(sum.steps.map((s) => `${s.op} ${figureText(s.figure)}`.trim())).toEqual([
      "119.70 EUR",
      "− 110.40 EUR",
      "= 9.30 EUR",
    ]);
    expect(comesOut(sum)).toBe(true);
  });

  it("bought elsewhere, all of it is done in one act: the line is cut, a draft is written, nobody waits", () => {
    const { id, line, answer } = split();
    const way = ways(id, answer).find((w) => w.key.startsWith("buy"))!;
    const { draft } = must(
      takeAnswers(h.desk("ines"), { ...at(id), lines: [answer], way: way.key, cost: way.cost, day: way.day }),
    );
    expect(rows(line)).toEqual([
      [30, "2026-12-04"],
      [14, "2026-12-31"],
    ]);
    const written = readOrder(h.db, draft!)!;
    expect([written.head.supplierName, written.head.stage, written.head.required]).toEqual([
      "Tern & Tallow",
      "draft",
      "2026-12-10",
    ]);
    expect(written.lines.map((l) => [l.quantity, l.net])).toEqual([[60_000, 11_970]]);
    expect(waits()).toBe(0);
    expect(sql(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'order.answer-taken'").get()).toEqual({ n: 1 });
  });

  it("by the Bench, the line is cut and the need lies there with its day; on a bench that it lies on already, it stays", () => {
    const { id, line, answer } = split();
    const { bench, draft } = must(takeAnswers(h.desk("ines"), { ...at(id), lines: [answer], way: "bench" }));
    expect(draft).toBeNull();
    expect(rows(line)).toEqual([
      [30, "2026-12-04"],
      [14, "2026-12-31"],
    ]);
    const sheet = readBench(h.db, bench!, TODAY, 9)!;
    expect(sheet.head.name).toBe("Instead of 26-1001");
    expect(sheet.problem.rows.map((r) => [r.name, r.offers.length])).toEqual([["Shaft anode", 2]]);
    const [row] = Object.values(sheet.rows);
    expect(row).toMatchObject({ code: "SHA", neededOn: "2026-12-10", warning: false, missesBy: 0 });
    const parts = [
      { quantity: "25", day: "2026-12-04" },
      { quantity: "19", day: "2026-12-31" },
    ];
    const said = { order: id, revision: 2, way: "phone", saidBy: "Elspeth", saidOn: TODAY, lines: [{ line, parts }] };
    must(writeDownAnswer(h.desk("ines"), said));
    const again = readOpenAnswers(h.db, TODAY, id)[0]!.id;
    expect(must(takeAnswers(h.desk("ines"), { ...at(id), lines: [again], way: "bench" })).bench).toBe(bench);
    expect(sql(h.db, "SELECT count(*) AS n FROM bench_row").get()).toEqual({ n: 2 });
  });

  it("a transfer and a stand-in are written the same way", () => {
    const { id, answer } = split();
    must(loadFile(h.desk("osk"), "stock", Buffer.from("item,store,on_hand\nSH65,TQ,8\n"), "."));
    sql(h.db, "INSERT INTO alternative (item, other, note, both_ways) VALUES (?, ?, 'a thicker one', 0)").run(
      h.id("item", "SHA"),
      h.id("item", "SH65"),
    );
    const found = ways(id, answer);
    expect(found.map((w) => w.what)).toContain("6 each Shaft anode 65 from the shelf");
    const use = found.find((w) => w.key.startsWith("use"))!;
    expect([use.cost, use.inTime]).toEqual([0, true]);
    must(takeAnswers(h.desk("ines"), { ...at(id), lines: [answer], way: use.key, cost: use.cost, day: use.day }));
    expect(waits()).toBe(0);
    expect(
      sql(
        h.db,
        "SELECT i.code, d.quantity FROM job_demand d JOIN item i ON i.id = d.item JOIN job j ON j.id = d.job WHERE j.code = '2295' ORDER BY i.code",
      ).all(),
    ).toEqual([
      { code: "SH65", quantity: 60_000 },
      { code: "SHA", quantity: 340_000 },
    ]);
  });

  it("what it comes to has changed meanwhile: it is not taken, and nothing is done", () => {
    const { id, answer, line } = split();
    const way = ways(id, answer).find((w) => w.key.startsWith("buy"))!;
    load("prices", "item,supplier,from,price\nSHA,TTL,1,20.95\n");
    const send = { ...at(id), lines: [answer], way: way.key, cost: way.cost, day: way.day };
    expect(refusal(takeAnswers(h.desk("ines"), send))).toEqual([
      "This way comes to something else than a moment ago. Look again.",
    ]);
    expect(refusal(takeAnswers(h.desk("ines"), { ...send, way: "buy:9999" }))).toEqual([
      "This way is no longer open: stock, prices or days have changed. Look again.",
    ]);
    expect(rows(line)).toEqual([[50, null]]);
  });
});

describe("a proposal in the place of an answer", () => {
  const proposal = {
    parts: [
      { quantity: "36", day: "2026-12-10" },
      { quantity: "14", day: "2026-12-31" },
    ],
    remark: "The yard needs 40 by the 10th.",
  };

  it("stands on the private page; agreed to, it is taken without anybody being asked again", () => {
    const { id, line, answer } = split();
    const { link } = must(makeLink(h.desk("ines"), { order: id }));
    must(counterAnswer(h.desk("ines"), { ...at(id), answer, proposal: { ...proposal, line } }));
    expect(readSaid(h.db, id)[0]).toMatchObject({ state: "countered", why: proposal.remark });
    expect(readOpenAnswers(h.db, TODAY)).toEqual([]);
    expect(rows(line)).toEqual([[50, null]]);
    const agreed = must(
      answerByLink(
        h.db,
        link,
        { revision: 1, lines: [{ line, parts: proposal.parts }] },
        { now: `${TODAY}T17:00:00.000Z`, day: TODAY },
      ),
    );
    expect(agreed).toEqual({ asOrdered: [line], wait: [] });
    expect(rows(line)).toEqual([
      [36, "2026-12-10"],
      [14, "2026-12-31"],
    ]);
    expect(readOrder(h.db, id)!.revisions.length).toBe(2);
  });

  it("answered with something else, it waits for the buyer again", () => {
    const { id, line, answer } = split();
    must(counterAnswer(h.desk("ines"), { ...at(id), answer, proposal: { ...proposal, line } }));
    const { link } = must(makeLink(h.desk("ines"), { order: id }));
    const other = [{ line, parts: [{ quantity: "50", day: "2026-12-20" }] }];
    must(answerByLink(h.db, link, { revision: 1, lines: other }, { now: `${TODAY}T17:00:00.000Z`, day: TODAY }));
    expect(readOpenAnswers(h.db, TODAY, id).length).toBe(1);
  });

  it("is refused where nobody can mean it", () => {
    const { id, line, answer } = split();
    const send = (parts: object[]) =>
      refusal(counterAnswer(h.desk("ines"), { ...at(id), answer, proposal: { line, parts } }));
    expect(send([{ quantity: "50", day: "2026-11-01" }])[0]).toMatch(/^line\.\d+\.parts: .*passed/);
    expect(send([{ quantity: "500", day: "2026-12-10" }])[0]).toMatch(/more than/);
    expect(
      send([
        { quantity: "30", day: "2026-12-04" },
        { quantity: "20", day: "2026-12-31" },
      ]),
    ).toEqual(["This is what they said. Take it."]);
  });
});
