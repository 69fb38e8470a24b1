import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, it } from "vitest";
import { compose } from "../../exchange/mail/message";
import { readOrderResponse } from "../../exchange/ubl/order-response";
import { TODAY } from "../testing";
import { supplierAnswers } from "./supplier-answers";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "wharf-suppliers-"));
  mkdirSync(join(folder, "outbox"));
});
afterEach(() => rmSync(folder, { recursive: true }));

const order = (number: string) => `<?xml version="1.0"?>
<Order xmlns="urn:o" xmlns:cac="urn:a" xmlns:cbc="urn:b"><cbc:ID>${number}</cbc:ID>
  <cac:OrderLine><cac:LineItem><cbc:ID>1</cbc:ID><cbc:Quantity unitCode="C62">50</cbc:Quantity>
    <cac:Delivery><cac:RequestedDeliveryPeriod><cbc:EndDate>2026-12-04</cbc:EndDate></cac:RequestedDeliveryPeriod></cac:Delivery>
    <cac:Price><cbc:PriceAmount currencyID="EUR">18.40</cbc:PriceAmount></cac:Price></cac:LineItem></cac:OrderLine></Order>`;

async function send(number: string, to: string): Promise<void> {
  const { bytes } = await compose({
    from: { name: "Ines", mail: "ines@kelpholm.example", company: { name: "Kelpholm Ferries", mail: "" } },
    to: [{ name: "Dorrit", mail: to }],
    subject: number,
    body: "Please find our order.",
    moment: "2026-11-24T09:00:00Z",
    attachments: [
      { name: "order.pdf", type: "application/pdf", bytes: Buffer.from("%PDF") },
      { name: "order.xml", type: "application/xml", bytes: Buffer.from(order(number)) },
    ],
  });
  writeFileSync(join(folder, "outbox", `${number}.eml`), bytes);
}

it("answers, some seconds later and once, orders that were mailed to its suppliers, each in one of four ways", async () => {
  const book = {
    suppliers: [
      {
        code: "TTL",
        token: "token-of-ttl",
        currency: "EUR",
        delayMs: 0,
        failsEvery: 0,
        hangsEvery: 0,
        mail: "orders@ttl.example",
        answersAfter: 60,
        depots: [],
        articles: {},
      },
    ],
  };
  const inbox = join(folder, "inbox");
  const begun = Date.now() - 1_000;
  const answer = supplierAnswers(book, { outbox: join(folder, "outbox"), inbox, since: begun });
  const numbers = Array.from({ length: 12 }, (_, i) => `26-${1101 + i}`);
  for (const number of numbers) await send(number, "orders@ttl.example");
  await send("26-1900", "orders@else.example");
  expect(answer(Date.now() + 30_000, TODAY)).toEqual([]);
  expect(existsSync(inbox)).toBe(false);
  expect(answer(Date.now() + 61_000, TODAY)).toEqual(numbers);
  expect(answer(Date.now() + 90_000, TODAY)).toEqual([]);
  const ways = new Set<string>();
  for (const file of readdirSync(inbox)) {
    const read = readOrderResponse(readFileSync(join(inbox, file)));
    if (!read.ok) throw new Error(read.says);
    const [line] = read.response.lines;
    expect(read.response).toMatchObject({ account: "TTL", version: "1", whole: "accepted", by: "Order desk" });
    const parts = line!.deliveries.map((d) => `${d.quantity} ${d.day}`).join(", ");
    ways.add(line!.price ? `${parts} at ${line!.price.amount}` : parts);
  }
  expect([...ways].sort()).toEqual([
    "25 2026-12-04, 25 2026-12-14",
    "50 2026-12-04",
    "50 2026-12-04 at 18.95",
    "50 2026-12-11",
  ]);
});
