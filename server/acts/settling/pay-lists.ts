import { z } from "zod";
import { showDay } from "../../../core/numbers/format";
import { exchanged, money, moneyText } from "../../../core/numbers/money";
import { mayRelease, type PayListState, propose } from "../../../core/settling/pay-list";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
import { type PayListSheet, readAccounts, readOwed, readPayFrom, readPayList } from "../../queries/settling/pay-lists";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { DayField, Id, Percent, Version } from "../fields";

export const WritePayList = z.object({
  day: DayField,
  dueBy: DayField,
  leastYearly: Percent,
  /** What of the proposal is paid. */
  papers: z.array(Id).min(1, "Tick what is to be paid.").max(2_000),
});

/**
 * Writes a pay list of what is proposed (core/settling/pay-list.ts) and was ticked: one transfer for each supplier and
 * currency. What it pays is spoken for until the bank answers or the list is dropped.
 */
export function writePayList(desk: Desk, raw: unknown): Done<{ list: number; number: string }> {
  const input = checked(WritePayList, raw);
  if (!input.ok) return input;
  const { papers, ...how } = input.value;
  return once(desk, "pay", (tx) => {
    if (how.day < desk.day)
      return refuse("day", `${showDay(how.day, desk.day)} is over: the bank pays today or later.`);
    const from = readPayFrom(tx.db);
    if (!from.iban) return refuse("", "No account of ours is on record: an administrator enters it under Company.");
    const chosen = new Set(papers);
    const { lines } = propose(
      readOwed(tx.db, desk.day).owed.filter((o) => chosen.has(o.id)),
      how,
    );
    if (lines.reduce((a, l) => a + l.parts.length, 0) !== chosen.size)
      return stale(
        "What is owed changed meanwhile, or a credit is more than what is paid with it. Look at the proposal again.",
      );
    const home = theCompany(tx.db).currency;
    let sum = 0;
    for (const l of lines) {
      const rate = rateOn(tx.db, l.currency, home, desk.day);
      if (rate === null) return refuse("day", `No rate for ${l.currency} is known.`);
      sum += exchanged(money(l.total, l.currency), rate, home).minor;
    }
    const number = nextNumber(tx.db, "pay list", desk.day);
    const list = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO pay_list (number, day, state, home, iban, bic, person, at) VALUES (?, ?, 'Written', ?, ?, ?, ?, ?)",
        ).run(number, how.day, sum, from.iban, from.bic, desk.person.id, desk.now),
      ),
    );
    keepLines(tx.db, list, lines);
    tx.record("pay-list.written", `pay list ${list}`, { number, ...how, home: sum, papers });
    return done({ list, number });
  });
}

function keepLines(db: Db, list: number, lines: ReturnType<typeof propose>["lines"]): void {
  const accounts = new Map<number, { iban: string; bic: string; name: string }>(readAccounts(db));
  const line = sql(
    db,
    "INSERT INTO pay_line (list, position, supplier, currency, total, name, iban, bic, state) VALUES (?, ?, ?, ?, ?, ?, ?, ?, 'Listed')",
  );
  const part = sql(db, "INSERT INTO pay_line_part (line, payable, minor, discount) VALUES (?, ?, ?, ?)");
  lines.forEach((l, i) => {
    const { name, iban, bic } = accounts.get(l.supplier)!;
    const id = Number(madeId(line.run(list, i + 1, l.supplier, l.currency, l.total, name, iban, bic)));
    for (const p of l.parts) part.run(id, p.id, p.minor, p.discount);
  });
}

const WhichList = z.object({ list: Id, version: Version });

/** A pay list in one of some states, in the version that the person saw. */
function listIn(
  db: Db,
  { list, version }: z.output<typeof WhichList>,
  states: readonly PayListState[],
): Done<PayListSheet> {
  const sheet = readPayList(db, list);
  if (!sheet) return refuse("", "There is no such pay list.");
  const { head } = sheet;
  if (!states.includes(head.state)) return refuse("", `Pay list ${head.number} is ${head.state.toLowerCase()}.`);
  if (head.version !== version) return stale(`Pay list ${head.number} was changed by somebody else meanwhile.`);
  return done(sheet);
}
const stands = (db: Db, list: number, state: PayListState) =>
  sql(db, "UPDATE pay_list SET state = ?, version = version + 1 WHERE id = ?").run(state, list);

export const LeaveOut = WhichList.extend({ line: Id });

/** Leaves a transfer out of a list before it is released: what it paid can be proposed again. The last one drops the list. */
export function leaveOut(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(LeaveOut, raw);
  if (!input.ok) return input;
  return once(desk, "pay", (tx) => {
    const sheet = listIn(tx.db, input.value, ["Written"]);
    if (!sheet.ok) return sheet;
    const { head, lines } = sheet.value;
    const line = lines.find((l) => l.id === input.value.line && l.state === "Listed");
    if (!line) return stale("This transfer is not on the list any more.");
    sql(tx.db, "UPDATE pay_line SET state = 'Left out' WHERE id = ?").run(line.id);
    const home = theCompany(tx.db).currency;
    const rate = rateOn(tx.db, line.currency, home, desk.day)!;
    const less = exchanged(money(line.total, line.currency), rate, home).minor;
    const last = lines.filter((l) => l.state === "Listed").length === 1;
    sql(tx.db, "UPDATE pay_list SET home = ?, state = ?, version = version + 1 WHERE id = ?").run(
      last ? 0 : head.home - less,
      last ? "Dropped" : "Written",
      head.id,
    );
    tx.record("pay-list.left-out", `pay list ${head.id}`, { supplier: line.supplier, total: line.total });
    return done({ number: head.number });
  });
}

/** Lets a list go to the bank. Above the company's bound, whoever wrote it does not release it. */
export function releasePayList(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(WhichList, raw);
  if (!input.ok) return input;
  return once(desk, "release payments", (tx) => {
    const sheet = listIn(tx.db, input.value, ["Written"]);
    if (!sheet.ok) return sheet;
    const { head, lines } = sheet.value;
    const { releaseFrom } = readPayFrom(tx.db);
    const home = theCompany(tx.db).currency;
    if (!mayRelease(head.home, releaseFrom, head.writer, desk.person.id))
      return refuse(
        "",
        `Above ${moneyText(money(releaseFrom, home))} ${home} somebody else than ${head.writerName} releases a list.`,
      );
    const gone = accountChanged(tx.db, lines);
    if (gone) return refuse("", `The account of ${gone} was changed since: leave it out, and write it anew.`);
    sql(tx.db, "UPDATE pay_list SET released_by = ?, released = ? WHERE id = ?").run(desk.person.id, desk.now, head.id);
    stands(tx.db, head.id, "Released");
    tx.record("pay-list.released", `pay list ${head.id}`, { number: head.number, home: head.home });
    return done({ number: head.number });
  });
}

/** A supplier whose account is another than the list pays to. */
function accountChanged(db: Db, lines: PayListSheet["lines"]): string | null {
  const accounts = readAccounts(db);
  return lines.find((l) => l.state === "Listed" && accounts.get(l.supplier)?.iban !== l.iban)?.supplierName ?? null;
}

/** Hands a released list to the bank: its file is laid into the bank's folder. */
export function sendPayList(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(WhichList, raw);
  if (!input.ok) return input;
  return once(desk, "pay", (tx) => {
    const sheet = listIn(tx.db, input.value, ["Released"]);
    if (!sheet.ok) return sheet;
    const { head } = sheet.value;
    if (head.day < desk.day)
      return refuse("", `${showDay(head.day, desk.day)} is over: drop this list, and write another one.`);
    sql(tx.db, "UPDATE pay_list SET sent = ? WHERE id = ?").run(desk.now, head.id);
    stands(tx.db, head.id, "With the bank");
    tx.record("pay-list.sent", `pay list ${head.id}`, { number: head.number });
    return done({ number: head.number });
  });
}

/** Drops a list that the bank does not have: what it would have paid can be proposed again. */
export function dropPayList(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(WhichList, raw);
  if (!input.ok) return input;
  return once(desk, "pay", (tx) => {
    const sheet = listIn(tx.db, input.value, ["Written", "Released"]);
    if (!sheet.ok) return sheet;
    const { head } = sheet.value;
    sql(tx.db, "UPDATE pay_line SET state = 'Left out' WHERE list = ? AND state = 'Listed'").run(head.id);
    stands(tx.db, head.id, "Dropped");
    tx.record("pay-list.dropped", `pay list ${head.id}`, { number: head.number });
    return done({ number: head.number });
  });
}
