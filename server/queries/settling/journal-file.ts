import { addDays, type Day } from "../../../core/calendar/day";
import { moneyText } from "../../../core/numbers/money";
import { ENTRY_WORDS, ROLE_WORDS } from "../../../core/stock/posting";
import { auditFileParts } from "../../../exchange/saft/audit-file";
import type { Db } from "../../db/open";
import { theCompany } from "../company";
import type { FileColumn } from "../file-columns";
import { readTrialBalance, type TrialRow } from "../stock/values";
import { type JournalLine, journalLines, journalSums } from "./books";

/** The journal as CSV: a row for each side of an entry. */
export const journalColumns = (currency: string): readonly FileColumn<JournalLine>[] => [
  { name: "entry", width: 8, as: "number", cell: (l) => l.entry },
  { name: "day", width: 12, as: "day", cell: (l) => l.day },
  { name: "what", width: 20, cell: (l) => ENTRY_WORDS[l.kind] },
  { name: "account_for", width: 24, cell: (l) => ROLE_WORDS[l.role] },
  { name: "account", width: 12, cell: (l) => l.account ?? "" },
  { name: "account_name", width: 24, cell: (l) => l.accountName ?? "" },
  { name: "debit", width: 14, as: "number", cell: (l) => (l.minor > 0 ? moneyText({ minor: l.minor, currency }) : "") },
  {
    name: "credit",
    width: 14,
    as: "number",
    cell: (l) => (l.minor < 0 ? moneyText({ minor: -l.minor, currency }) : ""),
  },
  { name: "currency", width: 6, cell: () => currency },
  { name: "order", width: 12, cell: (l) => l.order ?? "" },
  { name: "supplier", width: 10, cell: (l) => l.supplier ?? "" },
  { name: "supplier_name", width: 24, cell: (l) => l.supplierName ?? "" },
  { name: "about", width: 32, cell: (l) => l.about ?? "" },
  { name: "receipt", width: 12, cell: (l) => l.receipt ?? "" },
  { name: "entered_by", width: 20, cell: (l) => l.person ?? "" },
  { name: "entered_at", width: 22, cell: (l) => l.at },
];

/** What an account is called where it leaves the house: the company's code, or what it is for. */
const accountId = (a: Pick<TrialRow, "role" | "account">) => a.account ?? ROLE_WORDS[a.role];

/** The journal of some days as an audit file, in parts. */
export function auditFile(db: Db, { from, until, made }: { from: Day; until: Day; made: Day }): Generator<string> {
  const company = theCompany(db);
  const accounts = new Map<string, { id: string; name: string; opening: number; closing: number }>();
  for (const [when, day] of [
    ["opening", addDays(from, -1)],
    ["closing", until],
  ] as const)
    for (const r of readTrialBalance(db, day)) {
      const id = accountId(r);
      const a = accounts.get(id) ?? { id, name: r.accountName ?? ROLE_WORDS[r.role], opening: 0, closing: 0 };
      a[when] += r.debit - r.credit;
      accounts.set(id, a);
    }
  function* lines() {
    for (const part of journalLines(db, from, until))
      yield part.map((l) => ({
        entry: l.entry,
        day: l.day,
        about: [ENTRY_WORDS[l.kind], l.receipt].filter(Boolean).join(" "),
        entered: l.at,
        account: accountId(l),
        minor: l.minor,
        words: [l.supplierName, l.order, l.about].filter(Boolean).join(", ") || ROLE_WORDS[l.role],
      }));
  }
  return auditFileParts(
    { from, until, made, company, sums: journalSums(db, from, until) },
    [...accounts.values()],
    lines(),
  );
}
