import { createHash, randomInt, timingSafeEqual } from "node:crypto";
import { RateLimiterMemory } from "rate-limiter-flexible";
import { z } from "zod";
import type { PersonId } from "../../core/ids";
import { checked, type Done, done, refuse } from "../acts/desk";
import { orNone, text } from "../acts/fields";
import { recordAudit } from "../db/audit";
import { type Db, sql } from "../db/open";
import { hashPassword, isCommon } from "./passwords";

export const Password = z
  .string("A password is missing.")
  .min(10, "At least 10 characters.")
  .max(200, "At most 200 characters.")
  .refine((p) => !isCommon(p), "This password is among the first that anybody tries. Take another.");
export const Login = text(60, 2, "At least 2 characters.").pipe(
  z.string().regex(/^[\p{L}\p{N}._@-]+$/u, "Letters, digits and . _ @ - without spaces."),
);
export const Mail = orNone(z.email("This is not an e-mail address.").max(200, "This address is too long.")).transform(
  (m) => m ?? "",
);

export const FirstRun = z.object({
  company: text(120, 2, "What is the company called?"),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, "Three letters, such as EUR.")
    .refine((c) => Intl.supportedValuesOf("currency").includes(c), "There is no such currency."),
  store: text(80, 2, "Where do goods arrive?"),
  name: text(80, 2, "What is your name?"),
  login: Login,
  password: Password,
});

/** True until somebody can sign in. */
export const isFirstRun = (db: Db) => sql(db, "SELECT 1 FROM person LIMIT 1").get() === undefined;

/** The code that the server prints at its start: whoever finds the page first is not the one who sets the house up. */
export const newSetUpCode = () => randomInt(10 ** 8, 10 ** 9).toString();

const wrongCodes = new RateLimiterMemory({ points: 10, duration: 300 });

/** Sets the company up with its first store and its administrator; only once, only while there is nobody, with the code. */
export async function firstRun(db: Db, raw: unknown, code: string, now: Date): Promise<Done<{ person: PersonId }>> {
  const typed = checked(z.object({ code: text(80, 1, "The server printed it when it started.") }), raw);
  if (!typed.ok) return typed;
  if (!sameText(typed.value.code, code)) {
    const wait = await wrongCodes.consume("all").then(
      () => false,
      () => true,
    );
    return refuse(
      "code",
      wait ? "Too many tries. Wait five minutes." : "This is not the code that the server printed.",
    );
  }
  const input = checked(FirstRun, raw);
  if (!input.ok) return input;
  const v = input.value;
  const password = await hashPassword(v.password);
  return db
    .transaction((): Done<{ person: PersonId }> => {
      if (!isFirstRun(db)) return refuse("", "This installation has been set up already. Sign in.");
      sql(db, "INSERT INTO company (id, name, currency, valued) VALUES (1, ?, ?, ?)").run(
        v.company,
        v.currency,
        now.toISOString(),
      );
      sql(db, "INSERT INTO store (code, name) VALUES ('MAIN', ?)").run(v.store);
      const person = Number(
        sql(db, "INSERT INTO person (login, name, title, password) VALUES (?, ?, 'Administrator', ?)").run(
          v.login,
          v.name,
          password,
        ).lastInsertRowid,
      );
      sql(db, "INSERT INTO person_role (person, role) VALUES (?, 'administrator')").run(person);
      recordAudit(db, now.toISOString(), person, "company.set-up", "company", {
        company: v.company,
        currency: v.currency,
        store: v.store,
      });
      return done({ person });
    })
    .immediate();
}

/** Takes as long whatever is wrong about the text. */
function sameText(a: string, b: string): boolean {
  const [x, y] = [a, b].map((t) => createHash("sha256").update(t).digest());
  return timingSafeEqual(x!, y!);
}
