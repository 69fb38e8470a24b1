import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { readPerson } from "../../auth/sessions";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { readAgreementHead } from "../../queries/consigned/agreement";
import { agreementOfLink } from "../../queries/consigned/link";
import { checked, type Done, done, refuse } from "../desk";
import { text } from "../fields";
import { tell } from "../notices";
import { AnswerLonger, keepLonger } from "./longer";
import { keepPromise, PromiseRefill } from "./refill";
import { AgreeStatement, keepQuestion, QuestionStatement, settleStatement } from "./statement";

const Said = z.discriminatedUnion("do", [
  PromiseRefill.extend({ do: z.literal("promise") }),
  AnswerLonger.extend({ do: z.literal("longer") }),
  AgreeStatement.extend({ do: z.literal("agree"), by: text(80, 2, "Type your name.") }),
  QuestionStatement.extend({ do: z.literal("question"), by: text(80, 2, "Type your name.") }),
]);
type Said = z.output<typeof Said>;

/**
 * What a supplier does on their private link: promises a refill, answers whether goods may stay longer, agrees to a use
 * statement or says what is not right with it. One transaction, one audit row; whoever wrote the agreement is told.
 */
export function sayByLink(
  db: Db,
  link: string,
  raw: unknown,
  at: { now: string; day: Day },
): Done<{ did: Said["do"] }> {
  const of = agreementOfLink(db, link);
  if (of === null) return refuse("", "This link does not lead to goods on our shelves.");
  if (typeof of === "object") return refuse("", of.says);
  const input = checked(Said, raw);
  if (!input.ok) return input;
  const v = input.value;
  const agreement = readAgreementHead(db, of)!;
  if (!belongs(db, of, v)) return refuse("", "This is not about your goods.");
  return db
    .transaction((): Done<{ did: Said["do"] }> => {
      const did = doIt(db, v, { ...at, person: readPerson(db, agreement.writer)! });
      if (!did.ok) return did;
      tell(db, at.now, agreement.writer, `${agreement.supplierName}: ${TOLD[v.do]}`, did.value.about, did.value.href);
      recordAudit(db, at.now, null, `link.${v.do}`, `agreement ${of}`, v);
      return done({ did: v.do });
    })
    .immediate();
}

const TOLD: Record<Said["do"], string> = {
  promise: "says when a refill comes",
  longer: "answers about more time",
  agree: "agrees to a use statement",
  question: "questions a use statement",
};

/** Is what they name their own? */
function belongs(db: Db, agreement: number, v: Said): boolean {
  const of = (table: "refill" | "longer" | "use_statement", id: number) =>
    sql(db, `SELECT 1 FROM ${table} WHERE id = ? AND agreement = ?`).get(id, agreement) !== undefined;
  switch (v.do) {
    case "promise":
      return of("refill", v.refill);
    case "longer":
      return of("longer", v.longer);
    case "agree":
    case "question":
      return of("use_statement", v.statement);
  }
}

type ByWriter = Parameters<typeof settleStatement>[1];

function doIt(db: Db, v: Said, at: ByWriter): Done<{ about: string; href: string }> {
  switch (v.do) {
    case "promise": {
      const kept = keepPromise(db, at.now, at.day, v);
      return kept.ok ? done({ about: `refill ${kept.value.number}`, href: "/refills" }) : kept;
    }
    case "longer": {
      const kept = keepLonger(db, at.now, v);
      return kept.ok ? done({ about: v.answer === "yes" ? "yes" : "no", href: "/consigned" }) : kept;
    }
    case "agree": {
      const kept = settleStatement(db, at, v);
      return kept.ok ? done({ about: `statement ${kept.value.number}`, href: `/statements/${v.statement}` }) : kept;
    }
    case "question": {
      const kept = keepQuestion(db, v);
      return kept.ok ? done({ about: v.said.slice(0, 80), href: `/statements/${v.statement}` }) : kept;
    }
  }
}
