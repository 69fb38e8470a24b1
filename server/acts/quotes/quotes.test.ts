import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import { purchase } from "../../../core/numbers/quantity";
import { priceFor } from "../../../core/pricing/price";
import { readText } from "../../../exchange/mail/read-text";
import { wordsOn } from "../../../exchange/pdf/testing";
import { brokenLink } from "../../db/audit";
import { sql } from "../../db/open";
import { usualPlan } from "../../queries/needs/need";
import { readNeeds } from "../../queries/needs/pool";
import { readBench } from "../../queries/placing/bench";
import { priceRecords } from "../../queries/prices";
import { readInvitation, readQuote, readQuotesAsked } from "../../queries/quotes/quotes";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { layOutBench } from "../placing/lay-out";
import { acceptAnswers, endQuote } from "./accept-quote";
import { answerQuote, noteOpened, readAnswer } from "./answer-quote";
import { askForQuotes } from "./ask-for-quotes";

let h: TestHouse;
let bench: number;
const SITE = "http://localhost:4470";
const now = `${TODAY}T10:00:00.000Z`;
beforeEach(() => {
  h = testHouse();
  bench = must(layOutBench(h.desk("ines"), { needs: readNeeds(h.db, usualPlan(TODAY, 9)).map((n) => n.key) })).bench;
});
afterEach(() => h.close());

const ask = (suppliers: string[], more: Record<string, unknown> = {}) =>
  askForQuotes(
    h.desk("ines"),
    {
      bench,
      needs: readBench(h.db, bench, TODAY, 9)!.problem.rows.map((r) => r.id),
      suppliers: suppliers.map((s) => h.id("supplier", s)),
      answerBy: addDays(TODAY, 7),
      note: "We buy this every winter.",
      ...more,
    },
    SITE,
  );
/** The private links as they stand in the mails that were written. */
const links = () =>
  sql<{ eml: Buffer; recipients: string }>(h.db, "SELECT eml, recipients FROM mail WHERE quote IS NOT NULL ORDER BY id")
    .all()
    .map((m) => ({ to: m.recipients, link: /\/quote\/([\w-]+)/.exec(readText(m.eml))![1]! }));
const answer = (link: string, price: string, more: Record<string, unknown> = {}) => {
  const { lines } = readInvitation(h.db, link, TODAY)!;
  return answerQuote(
    h.db,
    link,
    {
      lines: lines.map((l) => ({ line: l.id, price, from: "", leadDays: "", note: "" })),
      validFrom: TODAY,
      validTo: addDays(TODAY, 30),
      conditions: "",
      decline: false,
      ...more,
    },
    { now, day: TODAY },
  );
};

const accepting = (quote: number, ...answers: number[]) => ({
  quote,
  answers,
  version: readQuote(h.db, quote, TODAY)!.head.version,
});

describe("asking for prices", () => {
  it("writes to each supplier with a link of their own, of which only the hash is kept", async () => {
    const { quote } = must(await ask(["TTL", "BAW"]));
    const sheet = readQuote(h.db, quote, TODAY)!;
    expect([sheet.head.number, sheet.lines.length, sheet.asked.length]).toEqual(["Q26-1001", 1, 2]);
    const written = links();
    expect(written.map((w) => w.to)).toEqual(["orders@ttl.example", "orders@baw.example"]);
    expect(new Set(written.map((w) => w.link)).size).toBe(2);
    const kept = JSON.stringify(sql(h.db, "SELECT * FROM quote_asked").all());
    for (const { link } of written) expect(kept).not.toContain(link);
    expect(readInvitation(h.db, written[0]!.link, TODAY)!.lines[0]).toMatchObject({
      name: "Hydraulic oil",
      quantity: 16_000_000,
      sold: { unit: "drum", theirCode: "TT-46" },
      ask: { quantity: 80_000, unit: "drum" }, // 1,600 L in drums of 200
    });
  });

  it("asks on paper and by e-mail in the supplier's language, unit and currency", async () => {
    sql(h.db, "UPDATE supplier SET language = 'de' WHERE code = 'TTL'").run();
    must(await ask(["TTL"]));
    const { eml } = sql<{ eml: Buffer }>(h.db, "SELECT eml FROM mail WHERE quote IS NOT NULL").get()!;
    expect(readText(eml)).toMatch(/bitte nennen Sie uns bis .* Preis und Termin für eine Position/);
    const pdf = /filename=request-Q26-1001\.pdf[\s\S]*?\r\n\r\n([\s\S]*?)\r\n--/.exec(eml.toString("latin1"))![1]!;
    const paper = (await wordsOn(Buffer.from(pdf, "base64"))).join(" ");
    for (const said of ["Preisanfrage Q26-1001", "Preise in EUR", "8 Fass", "1 Fass = 200 L"])
      expect(paper).toContain(said);
  });

  it("refuses days that passed, nobody to write to, and whoever may not", async () => {
    expect(refusal(await ask(["TTL"], { answerBy: "2026-11-23" }))).toEqual(["answerBy: This day has passed."]);
    expect(refusal(await ask([]))).toEqual(["suppliers: Tick at least one supplier."]);
    sql(h.db, "DELETE FROM supplier_contact").run();
    expect(refusal(await ask(["TTL"]))[0]).toMatch(/Tern & Tallow has no e-mail address/);
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM quote").get()!.n).toBe(0);
    expect(
      refusal(
        await askForQuotes(h.desk("joss"), { bench, needs: ["x"], suppliers: [1], answerBy: TODAY, note: "" }, SITE),
      )[0],
    ).toMatch(/./);
  });
});

describe("answering through the link", () => {
  it("reads figures as its page writes them, says how, and stores what was shown", async () => {
    must(await ask(["TTL"]));
    const { link } = links()[0]!;
    const raw = (price: string, more: object = {}) => ({
      lines: readInvitation(h.db, link, TODAY)!.lines.map((l) => ({
        line: l.id,
        price,
        from: "",
        leadDays: "",
        note: "",
      })),
      validFrom: TODAY,
      validTo: TODAY,
      conditions: "",
      decline: false,
      ...more,
    });
    const read = (price: string) => {
      const understood = readAnswer(h.db, link, raw(price), TODAY);
      return understood.ok ? understood.value.lines[0]!.price : refusal(understood)[0];
    };
    expect([read("1,250"), read("1.25")]).toEqual([1_250_000_000, 1_250_000]);
    sql(h.db, "UPDATE supplier SET language = 'de' WHERE code = 'TTL'").run();
    expect([read("1,250"), read("1.250"), read("1.250,50")]).toEqual([1_250_000, 1_250_000_000, 1_250_500_000]);
    expect(read("1.25")).toBe("lines.0.price: „1.25“ ist keine Zahl. Schreiben Sie sie wie 12,5.");
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM quote_answer").get()!.n).toBe(0);
    const shown = JSON.stringify(must(readAnswer(h.db, link, raw("1,250"), TODAY)));
    sql(h.db, "UPDATE supplier SET language = 'en' WHERE code = 'TTL'").run(); // now it would be 1,250.00
    const at = { now, day: TODAY };
    expect(refusal(answerQuote(h.db, link, raw("1,250", { seen: shown }), at))).toEqual([
      "What we asked for changed meanwhile. Please look at it once more.",
    ]);
    const seen = JSON.stringify(must(readAnswer(h.db, link, raw("1.25"), TODAY)));
    must(answerQuote(h.db, link, raw("1.25", { seen }), at));
  });

  it("refuses the same line twice", async () => {
    must(await ask(["TTL"]));
    const { link } = links()[0]!;
    const line = readInvitation(h.db, link, TODAY)!.lines[0]!.id;
    const twice = ["5", "6"].map((price) => ({ line, price, from: "", leadDays: "", note: "" }));
    expect(refusal(answer(link, "", { lines: twice }))).toEqual([
      "A line stands twice in this answer. Load the page again.",
    ]);
  });

  it("takes an answer, tells the asker, lets it be corrected until a price of it is used", async () => {
    const { quote } = must(await ask(["TTL"]));
    const { link } = links()[0]!;
    noteOpened(h.db, readInvitation(h.db, link, TODAY)!, now);
    expect(must(answer(link, "550.00")).lines).toBe(1);
    must(answer(link, "", { decline: true }));
    expect(readQuote(h.db, quote, TODAY)!.asked[0]!.declined).toBe(true);
    const { version } = readQuote(h.db, quote, TODAY)!.head;
    expect(must(answer(link, "550.00")).lines).toBe(1);
    const sheet = readQuote(h.db, quote, TODAY)!;
    expect(sheet.asked[0]).toMatchObject({ opened: now, answered: now, declined: false });
    // 550.00 for a drum of 200 litres
    expect(sheet.answers.map((a) => [a.price, a.unit, a.perStockUnit])).toEqual([[550_000_000, "drum", 2_750_000]]);
    expect(
      sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE href = ? ORDER BY id")
        .all(`/quotes/${quote}`)
        .map((n) => n.text),
    ).toEqual([
      "Tern & Tallow answered Q26-1001",
      "Tern & Tallow declined Q26-1001",
      "Tern & Tallow corrected their answer to Q26-1001",
    ]);
    const answers = [sheet.answers[0]!.id];
    expect(acceptAnswers(h.desk("ines"), { quote, answers, version })).toMatchObject({ ok: false, stale: true });
    must(acceptAnswers(h.desk("ines"), accepting(quote, ...answers)));
    expect(refusal(answer(link, "1.00"))[0]).toMatch(/We use a price of yours already/);
    expect(brokenLink(h.db)).toBeNull();
  });

  it("refuses what cannot be, and keeps nothing of it", async () => {
    must(await ask(["TTL"]));
    const { link } = links()[0]!;
    expect(refusal(answer(link, ""))[0]).toMatch(/Give a price for one line at least/);
    expect(refusal(answer(link, "-4"))[0]).toMatch(/cannot be negative/);
    expect(refusal(answer(link, "5", { validTo: "2026-11-01" }))).toEqual([
      "validTo: The last day lies before the first.",
    ]);
    expect(
      refusal(answer(link, "5", { lines: [{ line: 99, price: "5", from: "", leadDays: "", note: "" }] }))[0],
    ).toMatch(/does not belong/);
    expect(
      refusal(
        answerQuote(
          h.db,
          "made-up",
          { lines: [], validFrom: TODAY, validTo: TODAY, conditions: "", decline: true },
          { now, day: TODAY },
        ),
      ),
    ).toEqual(["This link does not lead to a request of ours."]);
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM quote_answer").get()!.n).toBe(0);
    must(answer(link, "", { decline: true, conditions: "Sold out until March" }));
  });

  it("ends: nobody answers any more, and one that nobody answered is seen to be late", async () => {
    const { quote } = must(await ask(["TTL", "BAW"]));
    const written = links();
    expect(readQuotesAsked(h.db, TODAY)[0]).toMatchObject({ asked: 2, answered: 0, late: 0 });
    expect(readQuotesAsked(h.db, addDays(TODAY, 8))[0]!.late).toBe(2);
    const { asked } = readQuote(h.db, quote, TODAY)!;
    const ttl = asked.find((a) => a.name === "Tern & Tallow")!;
    must(endQuote(h.desk("ines"), { quote, asked: ttl.id }));
    expect(refusal(answer(written[0]!.link, "5"))[0]).toMatch(/has ended/);
    must(answer(written[1]!.link, "5"));
    must(endQuote(h.desk("ines"), { quote }));
    expect(refusal(endQuote(h.desk("ines"), { quote }))).toEqual(["This was ended already."]);
    expect(readQuotesAsked(h.db, addDays(TODAY, 8))[0]!.late).toBe(0);
  });
});

describe("accepting answers", () => {
  it("makes the price the supplier's, for its dates, before the list; plans know it", async () => {
    const { quote } = must(await ask(["TTL"]));
    const { link } = links()[0]!;
    must(answer(link, "550.00", { validTo: addDays(TODAY, 5) }));
    const [got] = readQuote(h.db, quote, TODAY)!.answers;
    must(acceptAnswers(h.desk("ines"), accepting(quote, got!.id)));
    const { id } = sql<{ id: number }>(h.db, "SELECT id FROM sourcing WHERE supplier = ? AND item = ?").get(
      h.id("supplier", "TTL"),
      h.id("item", "OIL"),
    )!;
    const at = (day: typeof TODAY) => priceFor(priceRecords(h.db, id, day), purchase(80_000), day)!;
    expect(at(TODAY)).toMatchObject({ price: 550_000_000, source: { kind: "quote", quote: "Q26-1001" } });
    expect(at(addDays(TODAY, 6)).price).toBe(624_000_000);
    const oil = readBench(h.db, bench, TODAY, 9)!.problem.rows.find((r) => r.name === "Hydraulic oil")!;
    expect(oil.offers[0]!.levels.map((l) => l.price)).toEqual([550_000_000]);
    expect(readNeeds(h.db, usualPlan(TODAY, 9)).find((n) => n.name === "Hydraulic oil")!.price).toBe(550_000_000);
  });

  it("sets a supplier up for an item that they never sold", async () => {
    const { quote } = must(await ask(["BAW"]));
    const { link } = links()[0]!;
    must(
      answer(link, "2.95", {
        lines: readInvitation(h.db, link, TODAY)!.lines.map((l) => ({
          line: l.id,
          price: "2.95",
          from: "100",
          leadDays: "6",
          note: "",
        })),
      }),
    );
    const [got] = readQuote(h.db, quote, TODAY)!.answers;
    must(acceptAnswers(h.desk("ines"), accepting(quote, got!.id)));
    const oil = readBench(h.db, bench, TODAY, 9)!.problem.rows.find((r) => r.name === "Hydraulic oil")!;
    const offer = oil.offers.find((o) => o.supplier === h.id("supplier", "BAW"))!;
    expect([offer.packing.unit, offer.packing.factor, offer.levels.map((l) => [l.from, l.price])]).toEqual([
      "L",
      10_000,
      [
        [0, 3_120_000],
        [1_000_000, 2_950_000],
      ],
    ]);
    const late = acceptAnswers({ ...h.desk("ines"), day: addDays(TODAY, 90) }, accepting(quote, got!.id));
    expect(late.ok).toBe(true); // it was accepted before
  });

  it("refuses a price that ended, by name", async () => {
    const { quote } = must(await ask(["TTL"]));
    const { link } = links()[0]!;
    must(answer(link, "550.00"));
    const [got] = readQuote(h.db, quote, TODAY)!.answers;
    expect(refusal(acceptAnswers({ ...h.desk("ines"), day: addDays(TODAY, 40) }, accepting(quote, got!.id)))).toEqual([
      `${got!.id}: The price of Tern & Tallow for Hydraulic oil has ended. Ask again.`,
    ]);
  });
});
