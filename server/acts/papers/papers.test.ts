import { readFileSync } from "node:fs";
import { unzipSync } from "fflate";
import { PNG } from "pngjs";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { readText } from "../../../exchange/mail/read-text";
import { lookOf } from "../../../exchange/pdf/order-document";
import { orderPdf } from "../../../exchange/pdf/order-pdf";
import { wordsOn } from "../../../exchange/pdf/testing";
import { sql } from "../../db/open";
import { type BatchHouse, hasPapers, papersFile, runBatch, sweepPapers } from "../../jobs/papers/run-batch";
import { brokenTruths } from "../../queries/always-true";
import { documentNow } from "../../queries/orders/document";
import { readBatch, readBatchOrders } from "../../queries/papers/batches";
import { readLogo } from "../../queries/papers/templates";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { addLines } from "../orders/add-lines";
import { mailOrder } from "../orders/mail-order";
import { placeOrder } from "../orders/place-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { keepContact } from "../records/keep-supplier";
import { startBatch, stopBatch } from "./batches";
import { addStandingText, dropLogo, dropStandingText, keepLogo, keepPaper } from "./keep-papers";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const draft = (supplier = "TTL", code = "OIL") => {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", supplier), store: h.id("store", "TQ") }),
  );
  must(addLines(h.desk("ines"), { ...at(order), add: [{ code, quantity: "1" }] }));
  return order;
};
const cleared = (supplier?: string, code?: string) => {
  const order = draft(supplier, code);
  must(submitOrder(h.desk("ines"), at(order)));
  return order;
};
const placed = async () => {
  const order = cleared();
  must(await placeOrder(h.desk("ines"), at(order)));
  return order;
};
const lookNow = (order: OrderId) => lookOf(documentNow(h.db, order, TODAY)!.document);
const lastMail = () =>
  sql<{ subject: string; recipients: string; eml: Buffer }>(
    h.db,
    "SELECT subject, recipients, eml FROM mail ORDER BY id DESC LIMIT 1",
  ).get()!;
const paper = {
  kind: "one-off",
  language: "en",
  columns: ["amount", "ours"],
  prices: true,
  above: "",
  below: "Deliver to {place}.",
  foot: "Name {number}.",
  subject: "Order {number}",
  message: "{greeting}\n\nour order for {supplier}.\n{link}",
};
const picture = PNG.sync.write(new PNG({ width: 8, height: 4 }));

describe("a kind of paper", () => {
  it("looks as the company wants it from now on; what left the house stays as it was", async () => {
    const before = await placed();
    must(keepPaper(h.desk("osk"), paper));
    expect(lookNow(before)).toMatchObject({ foot: expect.stringMatching(/^Please name/), below: "" });
    const order = draft();
    // Columns have an order of their own, whatever order they were ticked in.
    expect(lookNow(order)).toMatchObject({ columns: ["ours", "amount"], below: "Deliver to {place}." });
    const { document } = documentNow(h.db, order, TODAY)!;
    expect(document.look?.language).toBe("en");
  });

  it("is written in the supplier's language, with the texts kept for it", () => {
    must(keepPaper(h.desk("osk"), { ...paper, language: "de", below: "Gruß" }));
    const order = draft();
    expect(lookNow(order)).toMatchObject({ language: "en", below: "" });
    sql(h.db, "UPDATE supplier SET language = 'de' WHERE code = 'TTL'").run();
    expect(lookNow(order)).toMatchObject({ language: "de", below: "Gruß" });
    sql(h.db, "UPDATE supplier SET language = 'fr' WHERE code = 'TTL'").run();
    expect(lookNow(order)).toMatchObject({ language: "fr", foot: expect.stringMatching(/^Merci/) });
  });

  it("refuses words in braces that stand for nothing, and what it does not know", () => {
    expect(refusal(keepPaper(h.desk("osk"), { ...paper, foot: "See {page} of {pages}", subject: "" }))).toEqual([
      "subject: An e-mail needs a subject.",
    ]);
    expect(refusal(keepPaper(h.desk("osk"), { ...paper, foot: "See {page} of {pages}" }))).toEqual([
      "foot: {page}, {pages} stands for nothing. Choose from the list beside.",
    ]);
    expect(refusal(keepPaper(h.desk("osk"), { ...paper, kind: "standing" }))).toEqual([
      "kind: There is no such kind of paper.",
    ]);
    expect(refusal(keepPaper(h.desk("ines"), paper))).toEqual(["Your role does not allow this."]);
  });
});

describe("the logo", () => {
  it("stands on papers from now on, and stays on those that bore it", async () => {
    const { logo } = must(keepLogo(h.desk("osk"), picture));
    const order = await placed();
    must(dropLogo(h.desk("osk")));
    expect(lookNow(order).logo).toBe(logo);
    expect(readLogo(h.db, logo)).toMatchObject({ type: "image/png", bytes: picture });
    expect(lookNow(draft()).logo).toBeNull();
    expect(() => sql(h.db, "DELETE FROM logo").run()).toThrow(/only added/);
  });

  it("is a picture that prints, or is refused", () => {
    const broken = Buffer.from(picture);
    broken[45]! ^= 0xff;
    for (const bytes of [Buffer.from("GIF89a"), picture.subarray(0, 40), broken, Buffer.from([0xff, 0xd8, 0xff, 0])])
      expect(refusal(keepLogo(h.desk("osk"), bytes))[0]).toMatch(/^logo: This is no PNG or JPEG picture/);
    const vast = Buffer.from(picture);
    vast.writeUInt32BE(60_000, 16);
    vast.writeUInt32BE(60_000, 20);
    expect(refusal(keepLogo(h.desk("osk"), vast))[0]).toMatch(/of at most 2000 by 2000/);
    expect(refusal(keepLogo(h.desk("osk"), Buffer.alloc(1_000_001)))[0]).toMatch(/At most 1 MB/);
    expect(refusal(keepLogo(h.desk("osk"), Buffer.alloc(0)))).toEqual(["logo: Choose a picture."]);
  });
});

describe("standing texts", () => {
  it("stand on the orders they are for, once each", () => {
    const all = { text: "Pallets are exchanged.", kind: "", supplier: "" };
    const { id } = must(addStandingText(h.desk("osk"), all));
    must(addStandingText(h.desk("osk"), { text: "No foam.", kind: "", supplier: String(h.id("supplier", "BAW")) }));
    must(addStandingText(h.desk("osk"), { text: "It holds a year.", kind: "blanket", supplier: "" }));
    const texts = (order: OrderId) => documentNow(h.db, order, TODAY)!.document.texts;
    expect(texts(draft())).toBe("Pallets are exchanged.");
    expect(texts(draft("BAW", "ANO"))).toBe("Pallets are exchanged.\nNo foam.");
    expect(refusal(addStandingText(h.desk("osk"), all))).toEqual(["text: This stands there already."]);
    expect(refusal(addStandingText(h.desk("osk"), { ...all, supplier: "99" }))).toEqual([
      "supplier: There is no such supplier.",
    ]);
    must(dropStandingText(h.desk("osk"), { id }));
    expect(texts(draft())).toBe("");
    must(
      addStandingText(h.desk("osk"), { text: "Paletten werden getauscht.", kind: "", supplier: "", language: "de" }),
    );
    expect(texts(draft())).toBe("");
    sql(h.db, "UPDATE supplier SET language = 'de'").run();
    expect(texts(draft())).toBe("Paletten werden getauscht.");
    expect(refusal(addStandingText(h.desk("osk"), { ...all, language: "tlh" }))[0]).toMatch(/^language: /);
    expect(refusal(dropStandingText(h.desk("osk"), { id }))).toEqual(["This text is gone already."]);
  });
});

describe("an e-mail that brings an order", () => {
  const other = () =>
    must(
      keepContact(h.desk("ines"), {
        supplier: h.id("supplier", "TTL"),
        name: "Ottoline Marsh",
        title: "Sales",
        phone: "",
        mail: "sales@ttl.example",
      }),
    ).contact;

  it("goes to the chosen people, with the text that was typed for this once", async () => {
    const order = cleared();
    const to = [other()];
    must(
      await placeOrder(
        h.desk("ines"),
        { ...at(order), to, subject: "Rush: {number}", message: "Dear Ottoline, as agreed. {link}" },
        { site: "https://buying.example" },
      ),
    );
    expect(lastMail()).toMatchObject({ subject: "Rush: 26-1001", recipients: "sales@ttl.example" });
    expect(readText(lastMail().eml)).toMatch(/^Dear Ottoline, as agreed\. https:\/\/buying\.example\/order\//);
  });

  it("can be sent again, as what left the house, and only after it did", async () => {
    const order = cleared();
    expect(refusal(await mailOrder(h.desk("ines"), { order }))).toEqual([
      "26-1001 was not placed yet: placing it sends it.",
    ]);
    must(await placeOrder(h.desk("ines"), at(order)));
    sql(h.db, "UPDATE supplier SET name = 'Another name' WHERE code = 'TTL'").run();
    must(await mailOrder(h.desk("ines", "again-once"), { order, to: [other()] }, { site: "https://buying.example" }));
    must(await mailOrder(h.desk("ines", "again-once"), { order }, { site: "https://buying.example" }));
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM mail").get()!.n).toBe(2);
    expect(lastMail().recipients).toBe("sales@ttl.example");
    expect(readText(lastMail().eml)).toMatch(/^Dear Ottoline Marsh,[\s\S]*https:\/\/buying\.example\/order\//);
    expect(documentNow(h.db, order, TODAY)!.document.supplier.name).toBe("Tern & Tallow");
    expect(refusal(await mailOrder(h.desk("joss"), { order }))).toEqual(["Your role does not allow this."]);
  });

  it("refuses nobody, strangers and unknown words, and then sends nothing", async () => {
    const order = cleared();
    const stranger = sql<{ id: number }>(
      h.db,
      "SELECT id FROM supplier_contact WHERE mail = 'orders@baw.example'",
    ).get()!;
    const tries: [object, RegExp][] = [
      [{ to: [] }, /^to: Choose at least one person/],
      [{ to: [stranger.id] }, /^to: Somebody who was chosen is not one of theirs/],
      [{ message: "Dear {name}, hello" }, /^message: \{name\} stands for nothing/],
    ];
    for (const [what, says] of tries)
      expect(refusal(await placeOrder(h.desk("ines"), { ...at(order), ...what }))[0]).toMatch(says);
    expect(stateOf(h.db, "purchase_order", order)).toBe("Cleared");
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM mail").get()!.n).toBe(0);
  });
});

describe("a batch", () => {
  const house = (): BatchHouse => ({
    db: h.db,
    folder: h.folder,
    now: () => new Date("2026-11-24T10:00:00.000Z"),
    today: () => TODAY,
    hour: () => 9,
    draw: orderPdf,
    post: () => {},
    onFault: (fault) => {
      throw fault;
    },
  });
  const begin = (what: string, orders: number[], more: object = {}) =>
    must(startBatch(h.desk("ines"), { what, orders, ...more }, "https://buying.example")).batch;

  it("prints many papers into one archive, with prices or without", async () => {
    const orders = [cleared(), draft("BAW", "ANO")];
    const batch = begin("print", orders, { prices: false });
    await runBatch(house(), batch);
    expect(readBatch(h.db, batch)).toMatchObject({ all: 2, done: 2, refused: 0, ended: "2026-11-24T10:00:00.000Z" });
    const papers = unzipSync(readFileSync(papersFile(h.folder, batch)));
    expect(Object.keys(papers)).toEqual(["order-26-1001.pdf", `order-Draft ${orders[1]}.pdf`]);
    const in31Days = new Date(Date.now() + 31 * 86_400_000);
    expect(sweepPapers(h.folder, new Date())).toBe(0);
    expect(sweepPapers(h.folder, in31Days)).toBe(1);
    expect(hasPapers(h.folder, batch)).toBe(false);
    const [words] = await wordsOn(papers["order-26-1001.pdf"]!);
    expect(words).toMatch(/Hydraulic oil/);
    expect(words).not.toMatch(/660\.00/);
  });

  it("places what can be placed, says why the rest was not, and does nothing twice", async () => {
    const orders = [cleared(), draft(), cleared("BAW", "ANO")];
    const batch = begin("place", orders);
    expect(refusal(startBatch(h.desk("ines"), { what: "place", orders }))).toEqual([
      "Your batch before is still being worked through. Wait for it, or stop it.",
    ]);
    await runBatch(house(), batch);
    expect(readBatchOrders(h.db, batch).map((o) => [o.state, o.says])).toEqual([
      ["done", "to orders@ttl.example"],
      ["refused", expect.stringMatching(/is draft: it cannot be placed/)],
      ["done", "to orders@baw.example"],
    ]);
    // The server stopped after the act and before it was noted: taken up again, it finds that it was done.
    sql(h.db, "UPDATE batch SET ended = NULL WHERE id = ?").run(batch);
    sql(h.db, "UPDATE batch_order SET state = 'waiting' WHERE batch = ? AND position = 0").run(batch);
    await runBatch(house(), batch);
    expect(readBatch(h.db, batch)).toMatchObject({ done: 2, refused: 1 });
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM mail").get()!.n).toBe(2);
  });

  it("sends again by e-mail, and stops when it is told to", async () => {
    const orders = [await placed(), await placed(), draft()];
    const batch = begin("mail", orders);
    await runBatch(house(), batch);
    expect(readBatch(h.db, batch)).toMatchObject({ done: 2, refused: 1 });
    const next = begin("mail", orders);
    must(stopBatch(h.desk("ines"), { batch: next }));
    await runBatch(house(), next);
    expect(readBatch(h.db, next)).toMatchObject({
      done: 0,
      refused: 0,
      stopped: expect.any(String),
      ended: expect.any(String),
    });
    expect(refusal(stopBatch(h.desk("ines"), { batch: next }))).toEqual(["This batch has ended already."]);
  });

  it("is not begun with nothing, with too many, with what is gone, or by whoever may not", () => {
    const order = draft();
    const tries: [string, object, string][] = [
      ["ines", { what: "print", orders: [] }, "orders: Tick the orders first."],
      ["ines", { what: "burn", orders: [order] }, "what: Print, send or place them."],
      [
        "ines",
        { what: "print", orders: [order + 99] },
        "orders: One of these orders is not there any more. Load the list again.",
      ],
      [
        "ines",
        { what: "print", orders: Array.from({ length: 501 }, (_, i) => i + 1) },
        "orders: At most 500 orders at once: narrow the list.",
      ],
      ["maud", { what: "place", orders: [order] }, "Your role does not allow this."],
    ];
    for (const [login, what, says] of tries) expect(refusal(startBatch(h.desk(login), what))).toEqual([says]);
  });
});
