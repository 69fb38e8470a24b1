import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { create } from "xmlbuilder2";
import { addDays, type Day, laterOf, parseDay } from "../../core/calendar/day";
import { Big, roundToInteger } from "../../core/numbers/decimal";
import { parsePrice, priceText } from "../../core/numbers/money";
import { ONE, parseQuantity, quantityText } from "../../core/numbers/quantity";
import { readAttached } from "../../exchange/mail/read-text";
import { allAt, type Element, readXml, textAt } from "../../exchange/xml-tree";
import type { SupplierBook } from "./supplier";

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";

interface OrderedLine {
  id: string;
  quantity: string;
  unit: string;
  day: Day;
  price: string | null;
}

/**
 * Answers orders that were sent to suppliers of the book, some seconds after their e-mail was written: reads what lies in
 * the outbox, as a supplier reads their mail, and puts a UBL order response into the inbox. Mail from before `since` is
 * left alone. What it says follows the order's number: as ordered, in two parts, a week later, or dearer.
 */
export function supplierAnswers(
  book: SupplierBook,
  { outbox, inbox, since }: { outbox: string; inbox: string; since: number },
) {
  const seen = new Set<string>();
  return (now: number, today: Day): string[] => {
    if (!existsSync(outbox)) return [];
    const answered: string[] = [];
    for (const name of readdirSync(outbox).filter((n) => n.endsWith(".eml") && !seen.has(n))) {
      const at = statSync(join(outbox, name)).mtimeMs;
      const eml = at < since ? null : readFileSync(join(outbox, name));
      const to = eml && /^To:([\s\S]*?)\r?\n\S/im.exec(eml.toString("latin1"))?.[1]?.toLowerCase();
      const who = to && book.suppliers.find((s) => s.answersAfter !== null && to.includes(s.mail.toLowerCase()));
      if (who && now < at + who.answersAfter! * 1000) continue;
      seen.add(name);
      const order = who && readAttached(eml!, "application/xml").flatMap((xml) => readOrder(xml) ?? [])[0];
      if (!order) continue;
      mkdirSync(inbox, { recursive: true });
      const file = join(inbox, `${who.code}-${order.number}-${order.version}.xml`);
      writeFileSync(`${file}.part`, responseTo(order, who.code, today));
      renameSync(`${file}.part`, file);
      answered.push(order.number);
    }
    return answered;
  };
}

interface ReadOrder {
  number: string;
  version: string;
  lines: OrderedLine[];
}

function readOrder(xml: Buffer): ReadOrder | null {
  const read = readXml(xml);
  if (!read.ok || !["Order", "OrderChange"].includes(read.root.name)) return null;
  const number = textAt(read.root, "OrderReference", "ID") ?? textAt(read.root, "ID");
  if (!number) return null;
  const lines = allAt(read.root, "OrderLine", "LineItem").flatMap((l) => lineOf(l) ?? []);
  return { number, version: textAt(read.root, "SequenceNumberID") ?? "1", lines };
}

function lineOf(l: Element): OrderedLine | null {
  const [id, quantity] = [textAt(l, "ID"), textAt(l, "Quantity")];
  const day = parseDay(textAt(l, "Delivery", "RequestedDeliveryPeriod", "EndDate") ?? "");
  if (!id || !quantity || !day || textAt(l, "LineStatusCode") === "2") return null;
  const unit = allAt(l, "Quantity")[0]?.attributes.unitCode ?? "C62";
  return { id, quantity, unit, day, price: textAt(l, "Price", "PriceAmount") };
}

/** What is said of an order: the same for the same number, so that whoever tries it twice sees it twice. */
function responseTo(order: ReadOrder, code: string, today: Day): string {
  const mood = createHash("sha256").update(order.number).digest()[0]! % 4;
  const [first] = order.lines;
  const said = order.lines.map((l) => {
    const day = laterOf(l.day, today);
    if (mood === 1 && l === first) return halves(l, day);
    const parts = [{ quantity: l.quantity, day: mood === 2 ? addDays(day, 7) : day }];
    return mood === 3 && l === first ? { line: l, parts, price: dearer(l.price) } : { line: l, parts, price: null };
  });
  return create(
    { version: "1.0", encoding: "UTF-8" },
    {
      OrderResponse: {
        "@xmlns": `${UBL}:OrderResponse-2`,
        "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
        "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
        "cbc:ID": `${code}-${order.number}`,
        "cbc:IssueDate": today,
        "cbc:OrderResponseCode": "CA",
        "cac:OrderReference": {
          "cbc:ID": order.number,
          "cac:DocumentReference": { "cbc:ID": order.number, "cbc:VersionID": order.version },
        },
        "cac:SellerSupplierParty": {
          "cbc:CustomerAssignedAccountID": code,
          "cac:Party": { "cac:Contact": { "cbc:Name": "Order desk" } },
        },
        "cac:OrderLine": said.map(({ line, parts, price }) => ({
          "cac:LineItem": {
            "cbc:ID": line.id,
            "cbc:LineStatusCode": "3",
            "cbc:Quantity": { "@unitCode": line.unit, "#": line.quantity },
            "cac:Delivery": parts.map((p) => ({
              "cbc:Quantity": { "@unitCode": line.unit, "#": p.quantity },
              "cac:PromisedDeliveryPeriod": { "cbc:EndDate": p.day },
            })),
            ...(price ? { "cac:Price": { "cbc:PriceAmount": price, "cbc:BaseQuantity": "1" } } : {}),
            "cac:Item": { "cbc:Name": line.id },
          },
        })),
      },
    },
  ).end({ prettyPrint: true });
}

/** Half of a line on its day, the rest ten days later; a line of one unit comes as it was ordered. */
function halves(l: OrderedLine, day: Day): { line: OrderedLine; parts: { quantity: string; day: Day }[]; price: null } {
  const read = parseQuantity(l.quantity);
  const all = read.ok ? read.value : 0;
  const half = Math.ceil(all / (2 * ONE)) * ONE;
  if (half <= 0 || half >= all) return { line: l, parts: [{ quantity: l.quantity, day }], price: null };
  return {
    line: l,
    parts: [
      { quantity: quantityText(half), day },
      { quantity: quantityText(all - half), day: addDays(day, 10) },
    ],
    price: null,
  };
}

/** Three of a hundred more, to two places. */
function dearer(price: string | null): string | null {
  const read = price === null ? null : parsePrice(price);
  return read?.ok ? priceText(roundToInteger(new Big(read.value).times("1.03").div(10_000)) * 10_000) : null;
}
