import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { readText } from "../../../exchange/mail/read-text";
import { consignedPdf } from "../../../exchange/pdf/consigned-paper";
import { selfBilledInvoiceXml } from "../../../exchange/ubl/self-billed-invoice";
import { allAt, readXml, textAt } from "../../../exchange/xml-tree";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readTheirShelf } from "../../queries/consigned/link";
import { agreementPaper, refillPaper, selfBilled, statementPaper } from "../../queries/consigned/papers";
import { readConsigned, readShelfSlip, readSlipMoney, refillNeeds, withWorth } from "../../queries/consigned/shelves";
import { readStatement } from "../../queries/consigned/statements";
import { needNow } from "../../queries/needs/one";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { issueFromFile } from "../stock/issue-from-file";
import { issueGoods } from "../stock/issue-goods";
import { says } from "../stock/testing";
import { sayByLink } from "./by-link";
import { deliveryFromFile } from "./delivery-from-file";
import { changeAgreement, endAgreement, keepAgreement, startAgreement } from "./keep-agreement";
import { answerLonger, askLonger } from "./longer";
import { askRefill, giveUpRefill, promiseRefill, refillCsv } from "./refill";
import { tickConsigned } from "./ripen";
import {
  agreeStatement,
  makeStatement,
  sendStatement,
  statementCsv,
  tickStatements,
  withdrawStatement,
} from "./statement";
import { submitAgreement } from "./submit-agreement";
import { takeBackUse } from "./take-back";
import { bring, left, on, runningAgreement, signWhole, terms } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const ano = () => h.id("item", "ANO");
const quay = () => h.id("store", "TQ");
const use = (quantity: string, day: string) =>
  must(
    issueGoods(on(h.desk("tobias"), day), {
      store: quay(),
      reason: "for the workshop",
      rows: [{ item: ano(), quantity, whose: h.id("supplier", "BAW") }],
    }),
  );
const role = (name: string) =>
  sql<{ minor: number }>(h.db, "SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE role = ?").get(name)!.minor;
const itemOf = (agreement: number) =>
  sql<{ id: number }>(h.db, "SELECT id FROM agreement_item WHERE agreement = ?").get(agreement)!.id;
const linkOf = (text: Buffer) => /their-shelf\/([\w-]+)/.exec(readText(text))![1]!;
const lastMail = () => sql<{ eml: Buffer }>(h.db, "SELECT eml FROM mail ORDER BY id DESC LIMIT 1").get()!.eml;
const version = (statement: number) => readStatement(h.db, statement)!.version;

describe("a use statement", () => {
  it("is what was used in its period, is sent, agreed to on the private link once, and owed to the cent", async () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    use("7", "2026-09-10");
    use("3", "2026-10-02");
    const first = sql<{ id: number }>(h.db, "SELECT min(id) AS id FROM consigned_use").get()!.id;
    must(takeBackUse(on(h.desk("tobias"), "2026-10-05"), { use: first, quantity: "2", reason: "not used" }));
    // The clock makes the one of the months that are over; once.
    expect(tickStatements(h.db, "2026-11-01T06:00:00.000Z", on(h.desk("ines"), "2026-11-01").day)).toBe(1);
    expect(tickStatements(h.db, "2026-11-01T06:01:00.000Z", on(h.desk("ines"), "2026-11-01").day)).toBe(0);
    const { id } = sql<{ id: number }>(h.db, "SELECT id FROM use_statement").get()!;
    expect(readStatement(h.db, id)).toMatchObject({
      number: "S26-1001",
      since: "2026-01-01",
      until: "2026-10-31",
      net: 24_000,
      tax: 4_800,
      total: 28_800,
      uses: 3,
      state: "Made",
    });
    expect(says(makeStatement(on(h.desk("ines"), "2026-11-02"), { agreement }))).toMatch(/Nothing was used up to/);
    must(
      await sendStatement(
        on(h.desk("ines"), "2026-11-02"),
        { statement: id, version: version(id) },
        { site: "https://buying.example" },
      ),
    );
    const link = linkOf(lastMail());
    expect(readTheirShelf(h.db, agreement).statements).toMatchObject([
      { number: "S26-1001", total: 28_800, state: "Sent" },
    ]);
    const at = { now: "2026-11-03T10:00:00.000Z", day: on(h.desk("ines"), "2026-11-03").day };
    const agree = () => sayByLink(h.db, link, { do: "agree", statement: id, version: version(id), by: "Elspeth" }, at);
    expect(says(sayByLink(h.db, link, { do: "agree", statement: id, version: version(id), by: "" }, at))).toBe(
      "Type your name.",
    );
    expect(says(sayByLink(h.db, link, { do: "agree", statement: 999, version: 1, by: "Elspeth" }, at))).toBe(
      "This is not about your goods.",
    );
    expect(says(sayByLink(h.db, "nobody", { do: "agree" }, at))).toMatch(/does not lead/);
    expect(agree().ok).toBe(true);
    expect(says(agree())).toBe("Statement S26-1001 is agreed.");
    // Owed: 30 days net from the day they agreed; nothing is received and not invoiced any more.
    expect(sql(h.db, "SELECT net, tax, total, home_total, due FROM payable").all()).toEqual([
      { net: 24_000, tax: 4_800, total: 28_800, home_total: 28_800, due: "2026-12-03" },
    ]);
    expect([role("received not invoiced"), role("payable"), role("input tax")]).toEqual([0, -28_800, 4_800]);
    // What is taken back afterwards goes onto the next one; below zero it waits.
    must(takeBackUse(on(h.desk("tobias"), "2026-11-05"), { use: first, quantity: "1", reason: "not used" }));
    expect(says(makeStatement(on(h.desk("ines"), "2026-11-06"), { agreement, until: "2026-11-05" }))).toMatch(
      /More was taken back than used/,
    );
    use("4", "2026-11-07");
    const { statement } = must(makeStatement(on(h.desk("ines"), "2026-11-08"), { agreement, until: "2026-11-07" }));
    expect(readStatement(h.db, statement)).toMatchObject({ since: "2026-11-01", net: 9_000, uses: 2 });
    must(withdrawStatement(on(h.desk("ines"), "2026-11-08"), { statement, version: 1, reason: "made anew" }));
    expect(must(makeStatement(on(h.desk("ines"), "2026-11-08"), { agreement, until: "2026-11-07" })).number).toBe(
      "S26-1003",
    );
  });

  it("goes out as paper, as a file and as a self-billed invoice that adds up", async () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    use("7", "2026-09-10");
    use("3", "2026-10-02");
    const { statement } = must(makeStatement(on(h.desk("ines"), "2026-11-02"), { agreement }));
    const paper = statementPaper(h.db, statement)!;
    expect(statementCsv(paper).split("\n").slice(0, 2)).toEqual([
      "statement,day,what,item,their_code,name,job,order,quantity,unit,price,net,currency,tax_rate",
      "S26-1001,2026-09-10,used,ANO,ZW-110,Hull anode,for the workshop,K26-1001,7,C62,30.00,210.00,EUR,20",
    ]);
    const read = readXml(Buffer.from(selfBilledInvoiceXml(selfBilled(h.db, statement)!)));
    if (!read.ok) throw new Error(read.says);
    const { root } = read;
    const sum = (path: string) =>
      allAt(root, ...path.split("/")).reduce((a, e) => a + Math.round(Number(e.text) * 100), 0);
    expect(textAt(root, "InvoiceTypeCode")).toBe("389");
    expect(sum("InvoiceLine/LineExtensionAmount")).toBe(sum("LegalMonetaryTotal/TaxExclusiveAmount"));
    expect(sum("TaxTotal/TaxSubtotal/TaxAmount")).toBe(sum("TaxTotal/TaxAmount"));
    expect(sum("LegalMonetaryTotal/PayableAmount")).toBe(36_000);
    for (const document of [paper, agreementPaper(h.db, agreement, TODAY)!])
      for (const language of ["en", "de", "fr", "nl"] as const)
        expect((await consignedPdf({ ...document, language })).subarray(0, 5).toString()).toBe("%PDF-");
  });
});

describe("a refill", () => {
  it("is asked for below the least up to the most in whole packs, promised, met by what comes, and never an order", async () => {
    const agreement = runningAgreement(h);
    const orders = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM purchase_order").get()!.n;
    const need = () => refillNeeds(h.db, TODAY).get(agreement)?.[0]?.ask ?? 0;
    expect(need()).toBe(2_000_000);
    must(bring(h, agreement, "9", TODAY));
    expect(need()).toBe(1_900_000); // 191 fit, in packs of five
    const item = itemOf(agreement);
    const ask = (quantity: string, more = {}) =>
      askRefill(
        h.desk("ines"),
        { agreement, rows: [{ agreementItem: item, quantity }], ...more },
        { site: "https://buying.example" },
      );
    expect(says(await ask("12"))).toBe("Hull anode comes in packs of 5.");
    expect(says(await ask("10", { wanted: "2026-11-23" }))).toBe("This day has passed.");
    const { refill } = must(await ask("190"));
    expect(need()).toBe(0);
    expect(refillCsv(refillPaper(h.db, refill)!)).toContain("F26-1001,ANO,ZW-110,Hull anode,190,C62,2026-12-01");
    const link = linkOf(lastMail());
    const at = { now: `${TODAY}T10:00:00.000Z`, day: TODAY };
    expect(sayByLink(h.db, link, { do: "promise", refill, version: 1, day: "2026-12-04", said: "by van" }, at).ok).toBe(
      true,
    );
    expect(says(promiseRefill(h.desk("ines"), { refill, version: 1, day: "2026-12-05" }))).toMatch(
      /changed it meanwhile/,
    );
    must(bring(h, agreement, "100", TODAY, {}, { note: "LS-2" }));
    expect(sql(h.db, "SELECT came, open FROM refill_line").all()).toEqual([{ came: 1_000_000, open: 1 }]);
    must(giveUpRefill(h.desk("ines"), { refill, version: 2, reason: "enough" }));
    expect(says(giveUpRefill(h.desk("ines"), { refill, version: 3, reason: "enough" }))).toMatch(/is to come any more/);
    expect(orders()).toBe(0);
  });

  it("fills the sheet by its own despatch advice, and uses come from a file: all or none", async () => {
    const agreement = runningAgreement(h);
    const { number } = must(
      await askRefill(h.desk("ines"), { agreement, rows: [{ agreementItem: itemOf(agreement), quantity: "50" }] }),
    );
    const advice = (order: string, line: string) =>
      Buffer.from(
        `<DespatchAdvice xmlns="urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2"><cbc:ID>LS-9</cbc:ID><cbc:IssueDate>2026-11-23</cbc:IssueDate><cac:OrderReference><cbc:ID>${order}</cbc:ID></cac:OrderReference><cac:DespatchLine><cbc:ID>1</cbc:ID><cbc:DeliveredQuantity unitCode="C62">50</cbc:DeliveredQuantity><cac:OrderLineReference><cbc:LineID>${line}</cbc:LineID></cac:OrderLineReference><cac:Item><cbc:Name>Anode</cbc:Name></cac:Item></cac:DespatchLine></DespatchAdvice>`,
      );
    const read = (bytes: Buffer) => deliveryFromFile(h.db, agreement, { name: "a.xml", bytes }, TODAY);
    expect(await read(advice(number, "1"))).toEqual({
      ok: true,
      value: { note: "LS-9", rows: [{ item: ano(), quantity: "50", lot: "", expires: "" }], strangers: [] },
    });
    expect(says(await read(advice("26-1001", "1")))).toMatch(/no refill of this agreement/);
    must(bring(h, agreement, "50", TODAY));
    const file = (text: string) => issueFromFile(h.desk("tobias"), Buffer.from(text));
    expect(says(await file("store,item,quantity,job\nTQ,ANO,5,2291\nTQ,ANO,5,9999\n"))).toBe(
      "Line 3: There is no job 9999.",
    );
    expect(says(await file("store,item,quantity,job\nTQ,ANO,5,2291\nTQ,ROP,4000,2291\n"))).toMatch(/^Line 3: /);
    expect(left(h)).toEqual([50]);
    expect(must(await file("store,item,quantity,job\nTQ,ANO,5,2291\nTQ,ANO,6,2291\n"))).toEqual({
      papers: ["M26-1001"],
      rows: 2,
    });
    expect(left(h)).toEqual([39]);
  });
});

describe("more time", () => {
  it("is asked for, and moves the day with a yes alone", async () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    const layer = sql<{ id: number }>(h.db, "SELECT id FROM consigned_layer").get()!.id;
    const ask = () => askLonger(h.desk("ines"), { layers: [layer], days: "30" });
    must(await ask());
    expect(says(await ask())).toMatch(/asked already/);
    const asked = () => sql<{ id: number }>(h.db, "SELECT max(id) AS id FROM longer").get()!.id;
    must(answerLonger(h.desk("ines"), { longer: asked(), answer: "no", by: "Elspeth" }));
    must(await ask());
    expect(must(answerLonger(h.desk("ines"), { longer: asked(), answer: "yes", by: "Elspeth" })).oursOn).toBe(
      "2026-12-30",
    );
    expect(says(answerLonger(h.desk("ines"), { longer: asked(), answer: "yes", by: "Elspeth" }))).toBe(
      "This was answered already.",
    );
    expect(tickConsigned(h.db, "2026-12-01T00:00:00.000Z", on(h.desk("ines"), "2026-12-01").day)).toBe(0);
    expect(tickConsigned(h.db, "2026-12-30T00:00:00.000Z", on(h.desk("ines"), "2026-12-30").day)).toBe(1);
  });
});

describe("what is shown", () => {
  it("says what becomes ours, whether least and most are right, and what it saved", () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    use("12", "2026-11-10");
    const [row] = readConsigned(h.db, TODAY);
    expect(row).toMatchObject({ here: 880_000, used30: 120_000, next: { day: "2026-11-30", becomes: 860_000 } });
    const slip = readShelfSlip(h.db, row!, TODAY);
    expect(slip.stands.steps.map((s) => [s.op, s.label])).toEqual([
      ["", "registered"],
      ["−", "used"],
      ["=", "theirs, on our shelf"],
    ]);
    expect(slip.byMonth.at(-1)).toEqual({ month: "2026-11", quantity: 120_000 });
    const money = readSlipMoney(h.db, withWorth(h.db, [row!], TODAY)[0]!, slip, TODAY);
    expect(money.ways?.proposed).toBe("ask");
    expect(money.ways?.ways.map((x) => [x.kind, x.cost])).toEqual([
      ["let", 258_000],
      ["ask", 0],
      ["send back", -258_000],
    ]);
    expect(money.unsettledNet).toBe(36_000);
    // 100 for 70 days and 88 for 14: 98 on average at 30.00, 18 % a year, 84 days.
    expect(money.holding?.steps.at(-1)?.figure).toEqual({ kind: "money", minor: 12_179, currency: "EUR" });
  });

  it("counts as available, or not, by the company’s setting; what is refilled asks for nothing more", () => {
    const key = `s:${ano()}:${quay()}`;
    const plan = { today: TODAY, hour: 9, run: "usual" as const, asOf: TODAY };
    sql(h.db, "UPDATE item_store SET reorder_point = 800000, level = 1000000 WHERE item = ? AND store = ?").run(
      ano(),
      quay(),
    );
    expect(needNow(h.db, plan, key)).not.toBeNull(); // 60 of ours, 80 wanted
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", TODAY);
    expect(needNow(h.db, plan, key)).toBeNull();
    sql(h.db, "UPDATE company SET counts_theirs = 0").run();
    expect(needNow(h.db, plan, key)).not.toBeNull();
  });
});

describe("an agreement", () => {
  it("does not overlap another, keeps prices that have begun when it is changed, and ends", () => {
    const agreement = runningAgreement(h);
    const other = must(startAgreement(h.desk("ines"), { supplier: h.id("supplier", "BAW"), store: quay() })).agreement;
    must(keepAgreement(h.desk("ines"), terms(h, other)));
    expect(says(submitAgreement(h.desk("ines"), { agreement: other, version: 2 }))).toMatch(
      /is in Agreement A26-1001 with Brannock for Tarn Quay already/,
    );
    bring(h, agreement, "100", "2026-09-01");
    const change = must(changeAgreement(h.desk("ines"), { agreement })).agreement;
    expect(says(changeAgreement(h.desk("ines"), { agreement }))).toMatch(/being written already/);
    const typed = (prices: object[]) => ({
      ...terms(h, change),
      items: [{ ...terms(h, change).items[0], most: "300", prices }],
    });
    must(keepAgreement(h.desk("ines"), typed([{ price: "31.00" }])));
    expect(says(submitAgreement(h.desk("ines"), { agreement: change, version: 2 }))).toMatch(
      /prices that have begun stay as they were agreed/,
    );
    must(
      keepAgreement(h.desk("ines"), {
        ...typed([{ price: "30.00" }, { day: "2026-12-01", price: "31.00" }]),
        version: 2,
      }),
    );
    must(submitAgreement(h.desk("ines"), { agreement: change, version: 3 }));
    signWhole(h, change);
    expect(
      sql(h.db, "SELECT state, revision FROM agreement WHERE id IN (?, ?) ORDER BY id").all(agreement, change),
    ).toEqual([
      { state: "Running", revision: 2 },
      { state: "Taken in", revision: 0 },
    ]);
    expect(sql(h.db, "SELECT most FROM agreement_item WHERE agreement = ?").all(agreement)).toEqual([
      { most: 3_000_000 },
    ]);
    expect(left(h)).toEqual([100]);
    const { version: v } = sql<{ version: number }>(h.db, "SELECT version FROM agreement WHERE id = ?").get(agreement)!;
    expect(must(endAgreement(h.desk("ines"), { agreement, version: v, reason: "they moved away" })).ended).toBe(
      "2026-11-23",
    );
    expect(says(bring(h, agreement, "5", TODAY))).toMatch(/ended on Mon 23 Nov/);
    expect(says(agreeStatement(h.desk("ines"), { statement: 1, version: 1, by: "Nobody" }))).toBe(
      "There is no such statement.",
    );
  });
});
