import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { contactsFor } from "../../queries/records/contacts";
import { PRICE_COLUMNS, priceRows } from "../../queries/records/price-list";
import { readSupplier } from "../../queries/records/supplier";
import { csvOf, must, refusal, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { loadFile } from "../files/load-file";
import { addLines } from "../orders/add-lines";
import { changeOrder } from "../orders/change-order";
import { startOrder } from "../orders/start-order";
import {
  attachToSupplier,
  detachFromSupplier,
  dropContact,
  keepContact,
  keepPayAndShip,
  keepSupplier,
  keepSupplierText,
} from "./keep-supplier";
import { changeCurrency, makeSupplier } from "./make-supplier";

let h: TestHouse;
let ttl: number;
beforeEach(() => {
  h = testHouse();
  ttl = h.id("supplier", "TTL");
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const record = () => readSupplier(h.db, ttl, TODAY)!;
const contact = (more: object, login = "ines") =>
  keepContact(h.desk(login), { supplier: ttl, name: "", title: "", phone: "", mail: "x@ttl.example", ...more });

describe("a new supplier", () => {
  const made = {
    code: "NEW",
    name: "Newhaven Pumps",
    address: "Quay 1",
    currency: "EUR",
    contact: "Ada",
    mail: "ada@new.example",
  };

  it("is made with who gets the orders, and all else as usual", () => {
    const { supplier } = must(makeSupplier(h.desk("ines"), made));
    expect(readSupplier(h.db, supplier, TODAY)).toMatchObject({
      code: "NEW",
      currency: "EUR",
      language: "",
      taxed: true,
    });
    expect(contactsFor(h.db, supplier, "orders")).toEqual([{ name: "Ada", mail: "ada@new.example" }]);
  });

  it("is refused with a code that is taken, a currency without a rate, or an address that is none", () => {
    expect(refusal(makeSupplier(h.desk("ines"), { ...made, code: "ttl", currency: "JPY" }))).toEqual([
      "code: Another supplier has this code.",
      "currency: No rate for JPY is known. An administrator loads rates under Files.",
    ]);
    expect(refusal(makeSupplier(h.desk("ines"), { ...made, code: "A B", mail: "ada" }))).toEqual([
      "code: A code has letters, digits and . _ / + - without spaces.",
      "mail: This is not an e-mail address.",
    ]);
    expect(refusal(makeSupplier(h.desk("joss"), made))).toEqual(["Your role does not allow this."]);
  });

  it("takes another currency only while nothing of theirs is written in the one before", () => {
    sql(h.db, "INSERT INTO rate (currency, day, rate) VALUES ('GBP', '2026-01-01', 1154000)").run();
    const { supplier } = must(makeSupplier(h.desk("ines"), made));
    must(changeCurrency(h.desk("ines"), { supplier, currency: "GBP" }));
    expect(readSupplier(h.db, supplier, TODAY)!.currency).toBe("GBP");
    expect(refusal(changeCurrency(h.desk("ines"), { supplier: ttl, currency: "GBP" }))[0]).toMatch(
      /^currency: Their prices are in EUR\. Take that off first/,
    );
    expect(refusal(changeCurrency(h.desk("ines"), { supplier, currency: "GBP" }))).toEqual([
      "currency: They are paid in GBP already.",
    ]);
  });
});

describe("a supplier's record", () => {
  it("says who they are, and refuses what cannot be", () => {
    const base = {
      supplier: ttl,
      name: "Tern & Tallow",
      address: "Oil Wharf 7",
      returnAddress: "Gate 3",
      payAddress: "",
      language: "de",
    };
    must(keepSupplier(h.desk("ines"), { ...base, taxNumber: "KE 1", taxed: "no", notes: "Drums are lent." }));
    expect(record()).toMatchObject({
      returnAddress: "Gate 3",
      language: "de",
      taxNumber: "KE 1",
      taxed: false,
      notes: "Drums are lent.",
    });
    expect(
      refusal(keepSupplier(h.desk("ines"), { ...base, name: "", taxNumber: "", taxed: "yes", notes: "" })),
    ).toEqual(["name: What are they called?"]);
    expect(
      refusal(keepSupplier(h.desk("ines"), { ...base, taxNumber: "", taxed: "yes", notes: "", language: "xx" })),
    ).toEqual(["language: Papers are not written in this language."]);
    expect(refusal(keepSupplier(h.desk("joss"), { ...base, taxNumber: "", taxed: "yes", notes: "" }))).toEqual([
      "Your role does not allow this.",
    ]);
  });

  it("sends each paper to the people it is for", () => {
    must(contact({ name: "Pell", mail: "prices@ttl.example", forQuotes: "on" }));
    expect(contactsFor(h.db, ttl, "orders").map((c) => c.mail)).toEqual(["orders@ttl.example"]);
    expect(contactsFor(h.db, ttl, "quotes").map((c) => c.mail)).toEqual(["prices@ttl.example"]);
    // Where nobody is named for prices, whoever takes orders is asked.
    expect(contactsFor(h.db, h.id("supplier", "BAW"), "quotes").map((c) => c.mail)).toEqual(["orders@baw.example"]);
    expect(refusal(contact({ mail: "ORDERS@ttl.example" }))[0]).toMatch(/this address already/);
    expect(refusal(contact({ mail: "nobody" }))).toEqual(["mail: This is not an e-mail address."]);
  });

  it("keeps a person whom an order names, though nothing goes to them any more", () => {
    const { contact: id } = must(contact({ name: "Pell", forOrders: "on" }));
    const { order } = must(startOrder(h.desk("ines"), { supplier: ttl, store: h.id("store", "TQ") }));
    const at = () => ({ order, version: versionOf(h.db, "purchase_order", order) });
    must(addLines(h.desk("ines"), { ...at(), add: [{ code: "OIL" }] }));
    must(changeOrder(h.desk("ines"), { ...at(), contact: String(id) }));
    must(dropContact(h.desk("ines"), { supplier: ttl, contact: id }));
    expect(record().people.find((p) => p.id === id)).toMatchObject({ forOrders: false });
    // The suppliers file says who takes orders; a person on an order is not lost by it.
    must(
      loadFile(
        h.desk("osk"),
        "suppliers",
        Buffer.from(
          "code,name,currency,delivers,contact,order_mails\nTTL,Tern & Tallow,EUR,mon,Dorrit,new@ttl.example\n",
        ),
        ".",
      ) as never,
    );
    expect(contactsFor(h.db, ttl, "orders").map((c) => c.mail)).toEqual(["new@ttl.example"]);
  });

  it("gives new orders its terms, delivery, carrier and text", () => {
    const pay = {
      supplier: ttl,
      days: "45",
      from: "end of month",
      earlyPercent: "2",
      earlyDays: "10",
      carrier: "Inter Isle",
    };
    expect(refusal(keepPayAndShip(h.desk("ines"), { ...pay, rule: "FCA", place: "" }))[0]).toMatch(
      /agreed with a place/,
    );
    must(keepPayAndShip(h.desk("ines"), { ...pay, rule: "FCA", place: "Port Ellery" }));
    must(keepSupplierText(h.desk("ines"), { supplier: ttl, text: "Empty drums go back." }));
    expect(record()).toMatchObject({
      terms: { days: 45, from: "end of month", earlyPercent: 200 },
      deliveryTerms: "FCA",
      carrier: "Inter Isle",
      text: "Empty drums go back.",
    });
  });

  it("holds files, and gives them back", () => {
    const { file } = must(attachToSupplier(h.desk("ines"), ttl, "frame agreement.pdf", Buffer.from("%PDF-1.7")));
    expect(record().files).toMatchObject([{ name: "frame agreement.pdf" }]);
    expect(refusal(attachToSupplier(h.desk("ines"), ttl, "a.exe", Buffer.from("MZ")))[0]).toMatch(/A PDF/);
    must(detachFromSupplier(h.desk("ines"), { supplier: ttl, attachment: file }));
    expect(record().files).toEqual([]);
  });

  it("saves its price list as the file that loads it", () => {
    const saved = () => csvOf(PRICE_COLUMNS, priceRows(h.db, ttl));
    const csv = saved();
    expect(csv).toContain("OIL,TTL,5,624.00,,");
    sql(h.db, "UPDATE price_break SET price = 1").run();
    must(loadFile(h.desk("osk"), "prices", Buffer.from(csv), ".") as never);
    expect(saved()).toBe(csv);
  });
});
