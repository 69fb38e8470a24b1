import { z } from "zod";
import { addDays } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { accrualPostings } from "../../../core/settling/books";
import { turnedRound } from "../../../core/stock/posting";
import { madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { journalSums, readClosable, readUnbilled } from "../../queries/settling/books";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { DayField } from "../fields";
import { openEntry, post } from "../stock/post";

export const CloseBooks = z.object({ until: DayField });

/**
 * Closes the journal up to the end of a month: what was used and not billed by then is accrued, and turned round on the day
 * after; what is in it is numbered and never added to again. What happens on one of its days later on is booked on the first
 * day after it.
 */
export function closeBooks(desk: Desk, raw: unknown): Done<{ close: number; number: string }> {
  const input = checked(CloseBooks, raw);
  if (!input.ok) return input;
  const { until } = input.value;
  return once(desk, "close books", (tx) => {
    const { from, ends } = readClosable(tx.db, desk.day);
    if (from === null) return refuse("until", "The journal is empty: there is nothing to close.");
    if (!ends.includes(until))
      return refuse(
        "until",
        until < from
          ? `${showDay(until, desk.day)} lies in a period that is closed.`
          : "A period ends with a month that is over.",
      );
    const unbilled = readUnbilled(tx.db, until);
    const postings = accrualPostings(unbilled);
    let accrual: number | null = null;
    if (postings.length > 0) {
      accrual = openEntry(tx.db, { ...desk, day: until }, "accrual");
      post(tx.db, accrual, postings);
    }
    const sums = journalSums(tx.db, from, until);
    const number = nextNumber(tx.db, "journal", until);
    const close = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO book_close (number, starts, until, entries, debit, accrual, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        ).run(number, from, until, sums.entries, sums.debit, accrual, desk.person.id, desk.now),
      ),
    );
    if (accrual !== null)
      post(
        tx.db,
        openEntry(tx.db, { ...desk, day: addDays(until, 1) }, "accrual", null, accrual),
        turnedRound(postings),
      );
    tx.record("books.closed", `books ${close}`, { number, from, until, ...sums, accrued: unbilled });
    return done({ close, number });
  });
}
