import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { readText } from "../../../exchange/mail/read-text";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readInvitation } from "../../queries/quotes/quotes";
import { readChase } from "../../queries/suppliers/chase";
import { readOverdue } from "../../queries/suppliers/overdue";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { loadFile } from "../files/load-file";
import { settleOrder } from "../orders/settle-order";
import { layOutBench } from "../placing/lay-out";
import { askForQuotes } from "../quotes/ask-for-quotes";
import { keepChaseRule, previewChase, sendChase, tickChase } from "./chase";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  const file = `order,supplier,store,item,quantity,required,promised,price
L-1,BAW,TQ,ANO,50,2026-11-20,2026-11-20,18.40
L-2,BAW,TQ,ANO,5,2026-11-26,2026-11-26,18.40
L-3,TTL,TQ,OIL,2,2026-12-20,,624
L-4,TTL,TQ,OIL,2,2026-11-12,,624
`;
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  sql(h.db, "UPDATE purchase_order SET placed = '2026-11-16T09:00:00.000Z'").run();
  sql(
    h.db,
    "UPDATE order_line SET answered = '2026-11-17' WHERE id IN (SELECT order_line FROM order_schedule WHERE promised IS NOT NULL)",
  ).run();
  sql(h.db, "UPDATE supplier SET language = 'de' WHERE code = 'TTL'").run();
  for (const { id } of sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order").all()) settleOrder(h.db, id);
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const NOW = { now: `${TODAY}T10:00:00.000Z`, day: TODAY };
const rows = () => readChase(h.db, NOW.now, TODAY);
const brought = (name: string) =>
  sql<{ id: number }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(name)!.id;
const mails = () =>
  sql<{ recipients: string; subject: string; eml: Buffer }>(
    h.db,
    "SELECT recipients, subject, eml FROM mail ORDER BY id",
  ).all();

describe("what needs a word", () => {
  it("is what is overdue, not confirmed in time, or due soon, the longest overdue first", () => {
    expect(rows().map((r) => [r.about, r.late, r.lines])).toEqual([
      ["overdue", 12, 1],
      ["overdue", 4, 1],
      ["confirm", 0, 1],
      ["announce", 0, 1],
    ]);
    expect(readOverdue(h.db, TODAY).map((r) => [r.supplier, r.late, r.quantity, r.open])).toEqual([
      ["BAW", 4, 500_000, 92_000],
      ["TTL", 12, 20_000, 124_800],
    ]);
  });

  it("is asked for in one letter to each supplier, in their language, with a link for each order, once for some days", async () => {
    const seen = previewChase(h.db, h.desk("ines").person.id, h.id("supplier", "TTL"), [], NOW)!;
    expect(seen.to).toEqual(["orders@ttl.example"]);
    expect(seen.body).toContain("Guten Tag Dorrit Pell");
    const sent = must(
      await sendChase(h.desk("ines"), { rows: rows().map((r) => r.key) }, { site: "https://tally.example" }),
    );
    expect(sent).toEqual({ letters: 2, orders: 4, without: [] });
    const texts = mails().map((m) => [m.recipients, readText(m.eml)] satisfies [string, string]);
    const german = texts.find(([to]) => to === "orders@ttl.example")![1];
    expect(german).toContain("Diese waren fällig und sind noch nicht da.");
    expect(german).toMatch(/2 \S+ Hydraulic oil, 12\. Nov/);
    expect(german.match(/https:\/\/tally\.example\/order\/\S+/g)!.length).toBe(2);
    expect(rows().every((r) => r.lastAsked === TODAY && !r.ripe)).toBe(true);
    expect(sql(h.db, "SELECT count(*) AS n FROM chase").get()).toEqual({ n: 4 });
    expect(sql(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'suppliers.asked'").get()).toEqual({ n: 1 });
  });

  it("is refused where it is no longer true, nobody can be reached, or the role forbids it", async () => {
    expect(refusal(await sendChase(h.desk("ines"), { rows: [`o${brought("L-1")}`, "o9999"] }))[0]).toMatch(
      /need no word/,
    );
    sql(h.db, "DELETE FROM supplier_contact").run();
    expect(refusal(await sendChase(h.desk("ines"), { rows: [`o${brought("L-1")}`] }))[0]).toMatch(/no e-mail address/);
    expect(refusal(await sendChase(h.desk("joss"), { rows: [`o${brought("L-1")}`] }))[0]).toBeDefined();
    expect(mails()).toEqual([]);
  });

  it("asks for prices that were not named by their day, in the same letter, with a link of its own that opens the request", async () => {
    const job = "job,name,vessel,item,store,due,quantity\n2299,Moorings,Knot,ROP,TQ,2026-11-30,900\n";
    must(loadFile(h.desk("osk"), "jobs", Buffer.from(job), "."));
    const need = readNeeds(h.db, usualPlan(TODAY)).find((n) => n.code === "ROP")!.key;
    const { bench } = must(layOutBench(h.desk("ines"), { needs: [need] }));
    const wanted = { bench, needs: [need], suppliers: [h.id("supplier", "TTL")], answerBy: TODAY, note: "" };
    must(await askForQuotes(h.desk("ines"), wanted, "https://tally.example"));
    expect(rows().some((r) => r.about === "prices")).toBe(false);
    const later = { now: `${addDays(TODAY, 3)}T10:00:00.000Z`, day: addDays(TODAY, 3) };
    const all = readChase(h.db, later.now, later.day).filter((r) => r.supplierName === "Tern & Tallow");
    expect(all.map((r) => [r.about, r.number, r.late, r.ripe])).toContainEqual(["prices", "Q26-1001", 3, true]);
    const desk = { ...h.desk("ines"), ...later };
    const sent = must(await sendChase(desk, { rows: all.map((r) => r.key) }, { site: "https://tally.example" }));
    expect([sent.letters, sent.orders]).toEqual([1, all.length]);
    const text = readText(mails().at(-1)!.eml);
    expect(text).toContain("Um Preise für diese haben wir gebeten");
    expect(text).toContain("Anfrage Q26-1001");
    const link = /https:\/\/tally\.example\/quote\/(\S+)/.exec(text)![1]!;
    expect(readInvitation(h.db, link, later.day)!.head.number).toBe("Q26-1001");
    expect(readInvitation(h.db, "guessed", later.day)).toBeNull();
    const again = readChase(h.db, later.now, later.day).find((r) => r.about === "prices")!;
    expect([again.lastAsked, again.ripe]).toEqual([later.day, false]);
  });

  it("goes out by itself where a rule says so, in the name of whoever wrote the order, once", async () => {
    expect(await tickChase(h.db, NOW.now, TODAY, "")).toBe(0);
    const rule = { confirmHours: "8", announceDays: "1", againDays: "7", byClock: "yes" };
    must(keepChaseRule(h.desk("ines"), { ...rule, supplier: h.id("supplier", "BAW") }));
    expect(await tickChase(h.db, NOW.now, TODAY, "")).toBe(1);
    expect(await tickChase(h.db, NOW.now, TODAY, "")).toBe(0);
    expect(sql(h.db, "SELECT person, about FROM chase").all()).toEqual([{ person: null, about: "overdue" }]);
    expect(refusal(keepChaseRule(h.desk("ines"), { ...rule, againDays: "0" }))).toEqual([
      "againDays: A whole number from 1 to 60.",
    ]);
  });
});
