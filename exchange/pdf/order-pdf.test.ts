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

describe("letters of all suppliers", () => {
  const saying = (words: string, more: Partial<OrderDocument> = {}) =>
    orderPdf({ ...document(1), lines: [{ ...line(1), words }], ...more });
  const said = async (words: string) => (await wordsOn(await saying(words))).join(" ");

  it.each(["Resistor 47 Ω, ≤ 5 % → 2 W ≈ ±", "Ψυκτικό λάδι", "Масло Ёж №", "Dầu thủy lực ặ", "液压油", "Łódź Åse ẞ"])(
    "prints %s as it is",
    async (words) => expect((await said(words)).replaceAll(" ", "")).toContain(words.replaceAll(" ", "")),
  );

  it("sets Hebrew from right to left, with what stands beside it", async () => {
    const text = await said("שמן (3) oil");
    expect(text).toContain("שמן");
    expect(text).toMatch(/oil \(3\)|\(3\) oil/);
  });

  it("shows a letter that nothing of ours has as a box, and says which", async () => {
    const text = await said("Oil 안");
    expect(text).toMatch(/Oil □/);
    expect(text).toMatch(/cannot print stand as □ ?: U\+C548/);
    expect(await said("Oil")).not.toMatch(/cannot print/);
  });

  it("writes thousands as French does, with a space that is one", async () => {
    const d = { ...document(1), locale: "fr-FR", look: { ...lookOf(document(1)), language: "fr" as const } };
    const [words] = await wordsOn(await orderPdf({ ...d, total: 123_456_789 }));
    expect(words).toMatch(/1 234 567,89/);
    expect(words).not.toMatch(/1\/234/);
  });

  it("breaks a word that is wider than its column, and loses no letter of it", async () => {
    const word = Array.from({ length: 160 }, (_, i) => String.fromCharCode(97 + (i % 26))).join("");
    expect((await said(word)).replaceAll(" ", "")).toContain(word);
  });

  it("goes on over sheets with a row that is taller than one", async () => {
    const instalments = Array.from({ length: 120 }, (_, i) => ({
      quantity: 10_000 * (i + 1),
      required: toDay(`2027-0${1 + (i % 9)}-15`),
    }));
    const pdf = await orderPdf({ ...document(1), lines: [{ ...line(1), instalments }] });
    const words = (await wordsOn(pdf)).join(" ");
    expect(pages(pdf)).toBeGreaterThan(1);
    for (const n of [1, 60, 120]) expect(words).toContain(`${n} drum by`);
  });

  it("is the same file whatever was printed before", async () => {
    const first = await saying("Ω oil ≤ 5");
    await saying("Ωμέγα 液 Ж → other letters of the same files");
    expect((await saying("Ω oil ≤ 5")).equals(first)).toBe(true);
  });

  it("is tagged, with its title, language and what it conforms to in XMP", async () => {
    const pdf = (
      await saying("Oil", {
        look: { ...lookOf(document(1)), language: "de" },
        company: { ...document(1).company, name: "Kelp & <Sons>" },
      })
    ).toString("latin1");
    for (const has of [
      /\/MarkInfo/,
      /\/Marked true/,
      /\/StructTreeRoot/,
      /\/Lang \(de-DE\)/,
      /\/DisplayDocTitle true/,
      /<pdfaid:part>2<\/pdfaid:part>/,
      /<dc:title>[\s\S]*Bestellung 26-1192, Kelp &amp; &lt;Sons&gt;</,
    ])
      expect(pdf).toMatch(has);
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
