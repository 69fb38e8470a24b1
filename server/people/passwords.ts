import { hash, verify } from "@node-rs/argon2";
import { RateLimiterMemory, type RateLimiterRes } from "rate-limiter-flexible";

/** argon2id at the package's defaults, which follow OWASP's recommendation (19 MiB, 2 passes). */
export const hashPassword = (password: string) => hash(password);

const perName = new RateLimiterMemory({ points: 5, duration: 300, blockDuration: 300 });
const perAddress = new RateLimiterMemory({ points: 40, duration: 300 });
// Checked where nobody has that name, so that the answer takes as long and tells nothing.
const nobody = hash("nobody has this password");

/** Seconds to wait, where a name or an address has tried too often; 0 otherwise. */
export async function triesLeft(login: string, address: string): Promise<number> {
  try {
    await perName.consume(login.toLowerCase());
    await perAddress.consume(address);
    return 0;
  } catch (e) {
    return Math.ceil((e as RateLimiterRes).msBeforeNext / 1000) || 1;
  }
}

export const forgetTries = (login: string) => perName.delete(login.toLowerCase());

export async function passwordFits(stored: string | null, typed: string): Promise<boolean> {
  const fits = await verify(stored ?? (await nobody), typed);
  return fits && stored !== null;
}
