import { hash, verify } from "@node-rs/argon2";
import { dictionary } from "@zxcvbn-ts/language-common";
import { RateLimiterMemory } from "rate-limiter-flexible";

/** So many passwords are hashed at the same time, each in its own thread and 19 MiB; others wait, and not too many. */
const AT_ONCE = 2;
const MOST_WAITING = 30;
/** Of one address so many may be under way. */
const MOST_OF_ONE = 6;
const underWay = new Map<string, number>();
let working = 0;
const waiting: (() => void)[] = [];

/** More is asked for than the house hashes: whoever asks is told to try again. */
export class Crowded extends Error {}

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (working >= AT_ONCE) {
    if (waiting.length >= MOST_WAITING) throw new Crowded("Too many people sign in at this moment.");
    await new Promise<void>((go) => waiting.push(go));
  } else working++;
  try {
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else working--;
  }
}

/** argon2id at the package's defaults, which follow OWASP's recommendation (19 MiB, 2 passes). */
export const hashPassword = (password: string) => inTurn(() => hash(password));

// Checked where nobody has that name, so that the answer takes as long and tells nothing.
let nobody: Promise<string> | null = null;

export async function passwordFits(stored: string | null, typed: string, address: string): Promise<boolean> {
  const under = underWay.get(address) ?? 0;
  if (under >= MOST_OF_ONE) throw new Crowded("Too many sign in from one address at this moment.");
  underWay.set(address, under + 1);
  try {
    nobody ??= hash("nobody has this password");
    const against = stored ?? (await nobody);
    const fits = await inTurn(() => verify(against, typed));
    return fits && stored !== null;
  } finally {
    const left = underWay.get(address)! - 1;
    if (left > 0) underWay.set(address, left);
    else underWay.delete(address);
  }
}

const common = new Set<string>(dictionary["passwords-common"].filter((p: string) => p.length >= 8));
/** A password that stands high in lists of those that leaked, with or without figures and signs around it. */
export function isCommon(password: string): boolean {
  const plain = password.toLowerCase();
  const core = plain.replace(/^[\d\W_]+|[\d\W_]+$/g, "");
  return common.has(plain) || common.has(core) || /^(.{1,4})\1+$/.test(plain) || "01234567890123456789".includes(plain);
}

/**
 * Wrong tries. Strangers who guess a name are stopped after five, and do not stop that person where they signed in
 * before: a device that is known counts by itself. Of one address only wrong tries count, whoever's they are.
 */
const perName = new RateLimiterMemory({ points: 5, duration: 300, blockDuration: 300 });
const perDevice = new RateLimiterMemory({ points: 10, duration: 300, blockDuration: 300 });
const perAddress = new RateLimiterMemory({ points: 40, duration: 300 });

export interface Try {
  login: string;
  address: string;
  /** The device signed in as this person before. */
  known: string | null;
}
const limits = ({ login, address, known }: Try) =>
  [
    known ? ([perDevice, `${login.toLowerCase()}/${known}`] as const) : ([perName, login.toLowerCase()] as const),
    [perAddress, address] as const,
  ] as const;

/** Seconds to wait before the next try; 0 where one may try. */
export async function secondsToWait(who: Try): Promise<number> {
  let wait = 0;
  for (const [limit, name] of limits(who)) {
    const before = await limit.get(name);
    if (before && before.remainingPoints <= 0) wait = Math.max(wait, Math.ceil(before.msBeforeNext / 1000), 1);
  }
  return wait;
}

/** Counts a wrong try. True where it was the last for now. */
export async function countWrong(who: Try): Promise<boolean> {
  let last = false;
  for (const [limit, name] of limits(who)) {
    const left = await limit.consume(name).then(
      (r) => r.remainingPoints,
      () => 0,
    );
    last ||= left === 0;
  }
  return last;
}

/** After a right password the name begins anew. */
export async function forgetWrong(who: Try): Promise<void> {
  const [[limit, name]] = limits(who);
  await limit.delete(name);
}
