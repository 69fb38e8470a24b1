import { describe, expect, it } from "vitest";
import { toDay } from "../../core/calendar/day";
import { LANGUAGE_CODES, PAPER_KINDS, type PaperColumn, unknownPlaceholders } from "../../core/orders/papers";
import { writeMail } from "../mail/message";
import { readText } from "../mail/read-text";
import { lookOf, type OrderDocument } from "./order-document";
import { orderPdf } from "./order-pdf";
import { usualTexts } from "./paper-words";
import { wordsOn } from "./testing";

const line = (position: number): OrderDocument["lines"][number] => ({
  position,
  ours: "HYD-046",
  theirs: "TT-46",
  words: "Hydraulic oil, grade 46",
  quantity: 80_000,
  unit: "drum",
  price: 624_000_000,
  discount: 0,
  standing: 300,
  required: toDay("2026-12-07"),
  net: 484_224,
});
const document = (lines: number): OrderDocument => ({
  number: "26-1192",
  day: toDay("2026-11-24"),
  company: {
    name: "Kelpholm Ferries",
    address: "1 Tarn Quay\nKelpholm",
    taxNumber: "KF 1",
    mail: "buy@kelpholm.example",
  },
  supplier: { name: "Łódź & Åse Oils <b>", address: "Oil Wharf 7", code: "LAO" },
  contacts: [{ name: "Dorrit Pell", mail: "orders@lao.example" }],
  deliverTo: { name: "Tarn Quay", address: "Gate 2" },
  writer: { name: "Ines Rathmore", title: "Buyer", mail: "ines@kelpholm.example" },
  currency: "EUR",
  locale: "en-GB",
  required: toDay("2026-12-07"),
  termsDays: 30,
  note: "",
  lines: Array.from({ length: lines }, (_, i) => line(i + 1)),
  discountRate: 0,
  linesNet: 484_224,
  discount: 0,
  net: 484_224,
  taxes: [{ rate: 2000, base: 484_224, tax: 96_845 }],
  taxed: true,
  total: 581_069,
});

/** Pages of a PDF, counted in its own objects. */
const pages = (pdf: Buffer) => (pdf.toString("latin1").match(/\/Type \/Page\b/g) ?? []).length;

describe("the order on paper", () => {
  it("is a PDF that grows with its lines and titles itself", async () => {
    const one = await orderPdf(document(2));
    expect(one.subarray(0, 5).toString()).toBe("%PDF-");
    expect(pages(one)).toBe(1);
    expect(pages(await orderPdf(document(60)))).toBeGreaterThan(2);
  });

  it("carries fonts of its own, so that names print everywhere", async () => {
    const pdf = (await orderPdf(document(1))).toString("latin1");
    expect(pdf).toMatch(/\/FontFile[23]/);
    expect(pdf).toMatch(/Commissioner/);
  });
});

describe("the look of a paper", () => {
  const look = {
    ...lookOf(document(1)),
    language: "de" as const,
    columns: ["theirs", "wanted", "price", "amount", "tax"] as PaperColumn[],
    above: "Lieferung frei {place}.",
    foot: "Seite zu {number}",
  };
  const taxed = { ...line(1), taxRate: 2000 };

  it("speaks its language, writes figures its way, and shows the columns that were chosen", async () => {
    const d = {
      ...document(1),
      lines: [taxed],
      look,
      terms: { days: 30, from: "invoice", earlyPercent: 200, earlyDays: 10 } as const,
    };
    const [words] = await wordsOn(await orderPdf(d));
    expect(words).toMatch(/Bestellung 26-1192/);
    expect(words).toMatch(/30 Tage netto, 2 % Skonto bei Zahlung in 10 Tagen/);
    expect(words).toMatch(/Lieferung frei Tarn Quay store\./);
    expect(words).toMatch(/Ihr TT-46/);
    expect(words).not.toMatch(/HYD-046/); // our code was not chosen
    expect(words).toMatch(/20 %\s+624,00\s+4\.842,24/);
    expect(words).toMatch(/Gesamt EUR\s+5\.810,69/);
    expect(words).toMatch(/Seite zu 26-1192/);
  });

  it("says nothing of what it costs where it goes out without prices", async () => {
    const d = { ...document(1), lines: [taxed], look: { ...look, prices: false } };
    const [words] = await wordsOn(await orderPdf(d));
    expect(words).toMatch(/Hydraulic oil, grade 46/);
    expect(words).not.toMatch(/624|4\.842|5\.810|EUR|Zahlung|Gesamt/);
  });

  it("prints an order that was kept before papers had looks as it was", async () => {
    const [words] = await wordsOn(await orderPdf({ ...document(1), payment: "30 days net" }));
    expect(words).toMatch(/Purchase order 26-1192[\s\S]*30 days net[\s\S]*Total EUR\s+5,810\.69/);
    expect(words).toMatch(/Please name 26-1192 on the delivery note/);
  });

  it("has every text in every language, for goods and for blanket orders", () => {
    for (const language of LANGUAGE_CODES)
      for (const kind of PAPER_KINDS)
        for (const text of Object.values(usualTexts(kind, language))) expect(unknownPlaceholders(text)).toEqual([]);
  });
});

describe("the e-mail that brings it", () => {
  it("goes to the contacts, names the order, and can be read again", async () => {
    const d = document(2);
    const { subject, bytes } = await writeMail(
      d,
      usualTexts("one-off", "en"),
      await orderPdf(d),
      "2026-11-24T13:05:00.000Z",
    );
    expect(subject).toBe("Purchase order 26-1192 from Kelpholm Ferries");
    const raw = bytes.toString("latin1");
    expect(raw).toMatch(/^To: Dorrit Pell <orders@lao\.example>$/m);
    expect(raw).toMatch(/^Date: Tue, 24 Nov 2026 13:05:00 \+0000$/m);
    expect(raw).toMatch(/filename=order-26-1192\.pdf/);
    expect(readText(bytes)).toMatch(
      /^Dear Dorrit Pell,[\s\S]*order 26-1192 attached: 2 lines, wanted by Mon 7 Dec 2026[\s\S]*Ines Rathmore/,
    );
  });

  it("cannot be given a second header by a name", async () => {
    const d = document(1);
    d.contacts = [{ name: "A\r\nBcc: all@evil.example", mail: "orders@lao.example" }];
    const head = (await writeMail(d, usualTexts("one-off", "en"), Buffer.from("x"), "2026-11-24T13:05:00.000Z")).bytes
      .toString("latin1")
      .split("\r\n\r\n")[0]!;
    expect(head).not.toMatch(/^Bcc:/m);
  });
});
