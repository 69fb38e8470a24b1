import { describe, expect, it } from "vitest";
import { toDay } from "../../core/calendar/day";
import { writeMail } from "../mail/message";
import { readText } from "../mail/read-text";
import type { OrderDocument } from "./order-document";
import { orderPdf } from "./order-pdf";

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

describe("the e-mail that brings it", () => {
  it("goes to the contacts, names the order, and can be read again", async () => {
    const d = document(2);
    const { subject, bytes } = await writeMail(d, await orderPdf(d), "2026-11-24T13:05:00.000Z");
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
    const head = (await writeMail(d, Buffer.from("x"), "2026-11-24T13:05:00.000Z")).bytes
      .toString("latin1")
      .split("\r\n\r\n")[0]!;
    expect(head).not.toMatch(/^Bcc:/m);
  });
});
