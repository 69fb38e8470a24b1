import type { Day } from "../../core/calendar/day";
import { type AvailabilityRequest, readReply, type SaidReply } from "../../exchange/availability/availability";

/** Where a supplier answers, and the token that goes with a question. */
export interface StockService {
  address: string;
  token: string;
}

/** How long a supplier's system may take, and how much it may say. */
export const LONGEST_MS = 4_000;
const MOST_BYTES = 500_000;

export type ServiceAnswer = { ok: true; reply: SaidReply } | { ok: false; says: string };

/** A service's address is taken where nobody between can read the token: https, or this machine itself. */
export function wrongAddress(text: string): string | null {
  if (!URL.canParse(text)) return "This is not an address, such as https://stock.example/ask.";
  const { protocol, hostname, username, password } = new URL(text);
  if (username || password) return "The token has a field of its own: leave it out of the address.";
  const here = hostname === "localhost" || hostname === "127.0.0.1" || hostname === "[::1]";
  if (protocol === "https:" || (protocol === "http:" && here)) return null;
  return "An address begins with https://, so that nobody on the way reads the token.";
}

/**
 * Asks a supplier's system what they have and at what price (docs/exchange.md). Whatever becomes of it is an answer: a
 * system that is down, slow or wrong is told with a sentence, and holds nothing up for longer than `within`.
 */
export async function askService(
  service: StockService,
  request: AvailabilityRequest,
  today: Day,
  within = LONGEST_MS,
): Promise<ServiceAnswer> {
  const no = (says: string): ServiceAnswer => ({ ok: false, says });
  const late = AbortSignal.timeout(within);
  let text: string | null;
  try {
    const answer = await fetch(service.address, {
      method: "POST",
      redirect: "error",
      signal: late,
      headers: {
        "content-type": "application/json",
        accept: "application/json",
        ...(service.token ? { authorization: `Bearer ${service.token}` } : {}),
      },
      body: JSON.stringify(request),
    });
    if (answer.status === 401 || answer.status === 403) return no("They do not take our token.");
    if (!answer.ok) return no(`Their system answers with a fault (${answer.status}).`);
    text = await readAll(answer);
  } catch {
    // The deadline also holds while the answer comes in.
    return no(late.aborted ? `Their system took longer than ${within / 1000} s.` : "Their system cannot be reached.");
  }
  return text === null ? no("They send more than 500 kB.") : readReply(text, request, today);
}

/** The text of an answer, read no further than a reply can be long. */
async function readAll(answer: Response): Promise<string | null> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of answer.body ?? []) {
    size += part.byteLength;
    if (size > MOST_BYTES) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString("utf8");
}
