import { createHash, timingSafeEqual } from "node:crypto";
import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { setTimeout as wait } from "node:timers/promises";
import { z } from "zod";
import { addDays, type Day } from "../../core/calendar/day";
import { parseQuantity, quantityText } from "../../core/numbers/quantity";

/**
 * What a stand-in for suppliers' systems knows: its own stock and prices, how slow it is and how often it fails. It reads
 * nothing of ours but this, and what is sent to it.
 */
export const SupplierBook = z.object({
  suppliers: z.array(
    z.object({
      /** What we call them; the last part of the address at which they answer. */
      code: z.string().regex(/^\w{1,20}$/),
      token: z.string().min(8),
      currency: z.string().length(3),
      delayMs: z.number().int().min(0),
      /** Every so many questions it answers with a fault, or never comes to an end; 0: never. */
      failsEvery: z.number().int().min(0),
      hangsEvery: z.number().int().min(0),
      /** Where orders are sent to, and after how many seconds they are answered; null: never. */
      mail: z.string(),
      answersAfter: z.number().int().min(0).nullable(),
      depots: z.array(z.object({ depot: z.string(), name: z.string(), days: z.number().int().min(0) })),
      articles: z.record(
        z.string(),
        z.object({
          price: z.string(),
          stock: z.record(z.string(), z.string()),
          /** What its first depot expects, and in how many days it would be at ours. */
          next: z.object({ quantity: z.string(), days: z.number().int() }).optional(),
        }),
      ),
    }),
  ),
});
export type SupplierBook = z.output<typeof SupplierBook>;
type Simulated = SupplierBook["suppliers"][number];

const Question = z.object({ lines: z.array(z.object({ line: z.string(), item: z.string(), quantity: z.string() })) });

const MOST_ASKED_BYTES = 500_000;

/** Answers questions about stock on loopback, as suppliers would; each of the book under `/stock/<its code>`. */
export async function standInSuppliers(
  book: SupplierBook,
  today: () => Day,
  port = 0,
): Promise<{ origin: string; close: () => Promise<void> }> {
  const asked = new Map<string, number>();
  const answer = async (req: IncomingMessage, res: ServerResponse) => {
    const say = (status: number, body: object) =>
      res.writeHead(status, { "content-type": "application/json" }).end(JSON.stringify(body));
    const who = book.suppliers.find((s) => req.url === `/stock/${s.code}`);
    if (!who || req.method !== "POST") return say(404, { says: "Nobody answers here." });
    if (!isToken(req.headers.authorization ?? "", who.token)) return say(401, { says: "Who asks?" });
    const n = (asked.get(who.code) ?? 0) + 1;
    asked.set(who.code, n);
    if (who.hangsEvery && n % who.hangsEvery === 0) return; // the other side gives up
    await wait(who.delayMs);
    if (who.failsEvery && n % who.failsEvery === 0) return say(503, { says: "Stocktaking." });
    const question = Question.safeParse(await readJson(req));
    return question.success ? say(200, replyOf(who, question.data, today())) : say(400, { says: "Not understood." });
  };
  const server = createServer((req, res) => {
    answer(req, res).catch(() => res.destroy());
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", resolve);
  });
  const { port: at } = server.address() as AddressInfo; // it listens on a port
  return {
    origin: `http://127.0.0.1:${at}`,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

function isToken(given: string, token: string): boolean {
  const hash = (text: string) => createHash("sha256").update(text).digest();
  return timingSafeEqual(hash(given), hash(`Bearer ${token}`));
}

async function readJson(req: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of req) {
    size += part.length;
    if (size > MOST_ASKED_BYTES) return null;
    parts.push(part);
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString("utf8"));
  } catch {
    return null;
  }
}

/** What a supplier of the book says to a question. */
function replyOf(who: Simulated, { lines }: z.output<typeof Question>, today: Day): object {
  return {
    format: "wharf-tally/availability-reply/1",
    currency: who.currency,
    depots: who.depots.map(({ depot, name }) => ({ depot, name })),
    lines: lines.map(({ line, item }) => {
      const article = who.articles[item];
      if (!article) return { line, status: "unknown" };
      return {
        line,
        status: "offered",
        price: article.price,
        stock: who.depots.map((d, i) => ({
          depot: d.depot,
          onHand: plain(article.stock[d.depot] ?? "0"),
          arrivesOn: addDays(today, d.days),
          ...(i === 0 && article.next
            ? { more: [{ quantity: plain(article.next.quantity), arrivesOn: addDays(today, article.next.days) }] }
            : {}),
        })),
      };
    }),
  };
}

function plain(text: string): string {
  const read = parseQuantity(text, ".", "zero allowed");
  return read.ok ? quantityText(read.value) : "0";
}
