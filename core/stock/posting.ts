import { safe } from "../numbers/decimal";

/** What an account is for, whatever the company calls it. */
export const POSTING_ROLES = [
  "stock",
  "expense",
  "received not invoiced",
  "stock difference",
  "opening",
  "used",
  "payable",
  "input tax",
  "exchange difference",
  "price variance",
  "claims",
  "bank",
  "early discount",
  "accrued",
] as const;
export type PostingRole = (typeof POSTING_ROLES)[number];

export const ENTRY_KINDS = [
  "receipt",
  "count",
  "opening",
  "output",
  "issue",
  "undo",
  "write-off",
  "settlement",
  "invoice",
  "claim",
  "payment",
  "accrual",
] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** What an account is called where the company names none. */
export const ROLE_WORDS: Record<PostingRole, string> = {
  stock: "Stock",
  expense: "Expense",
  "received not invoiced": "Received, not invoiced",
  "stock difference": "Stock difference",
  opening: "Opening",
  used: "Used",
  payable: "Payables",
  "input tax": "Input tax",
  "exchange difference": "Exchange difference",
  "price variance": "Price variance",
  claims: "Claims",
  bank: "Bank",
  "early discount": "Early discount",
  accrued: "Accrued",
};
/** What happened. */
export const ENTRY_WORDS: Record<EntryKind, string> = {
  receipt: "goods counted in",
  count: "stock counted",
  opening: "stock opened",
  output: "given back by a job",
  issue: "goods used",
  undo: "receipt undone",
  "write-off": "written off",
  settlement: "use statement agreed",
  invoice: "invoice matched, or taken off",
  claim: "claim made later, or given up",
  payment: "paid, or taken back",
  accrual: "accrued, or turned round",
};

/** One side of an entry, in home currency minor units: debit above zero, credit below. */
export interface Posting {
  role: PostingRole;
  /** The ledger account that a line names; null: the company's own for this role. */
  account: string | null;
  minor: number;
  line: number | null;
}

/** What a receipt brings: goods of the stock, or an expense. */
export interface ReceivedLine {
  line: number;
  minor: number;
  stocked: boolean;
  account: string | null;
}

const worth = (p: Posting) => p.minor !== 0;

/** Debit stock, or the line's expense account; credit what is received and not invoiced (domain-goods §12). */
export const receiptPostings = (lines: readonly ReceivedLine[]): Posting[] =>
  lines
    .flatMap((l): Posting[] => [
      { role: l.stocked ? "stock" : "expense", account: l.stocked ? null : l.account, minor: l.minor, line: l.line },
      { role: "received not invoiced", account: null, minor: -l.minor, line: l.line },
    ])
    .filter(worth);

/** What of a receipt is undone: its value, and what of it leaves the stock; the rest is the stock difference. */
export interface UndoneLine extends ReceivedLine {
  /** Of the value, what the stock gives back. */
  out: number;
}

/** The receipt turned round (domain-goods §12). */
export const undoPostings = (lines: readonly UndoneLine[]): Posting[] =>
  lines
    .flatMap((l): Posting[] => [
      { role: "received not invoiced", account: null, minor: l.minor, line: l.line },
      l.stocked
        ? { role: "stock", account: null, minor: -l.out, line: l.line }
        : { role: "expense", account: l.account, minor: -l.minor, line: l.line },
      { role: "stock difference", account: null, minor: l.stocked ? l.out - l.minor : 0, line: l.line },
    ])
    .filter(worth);

/** Stock that is worth more, or less, by a count, from before the house, or because a job used it or gave it back. */
export const stockPostings = (minor: number, against: "stock difference" | "opening" | "used"): Posting[] =>
  [
    { role: "stock" as const, account: null, minor, line: null },
    { role: against, account: null, minor: -minor, line: null },
  ].filter(worth);

/** A use of a supplier's goods as a statement settles it: home currency, below zero where it was taken back. */
export interface SettledUse {
  line: number;
  homeNet: number;
}

/**
 * A statement that its supplier agreed to: what was received is invoiced now, with its tax, and owed; what the rate of the day
 * makes of it otherwise is an exchange difference. Home currency, minor units.
 */
export function settlementPostings(uses: readonly SettledUse[], tax: number, owed: number): Posting[] {
  const net = uses.reduce((a, u) => safe(a + u.homeNet), 0);
  return [
    ...uses.map((u) => ({ role: "received not invoiced" as const, account: null, minor: u.homeNet, line: u.line })),
    { role: "input tax" as const, account: null, minor: tax, line: null },
    { role: "payable" as const, account: null, minor: -owed, line: null },
    { role: "exchange difference" as const, account: null, minor: owed - net - tax, line: null },
  ].filter(worth);
}

/** An invoice that matches, home currency, minor units. */
export interface MatchedInvoice {
  /** What was received and is invoiced now, at the value of its receipts. */
  met: readonly { line: number; minor: number }[];
  /** Charges and other lines that are an expense. */
  expenses: readonly { line: number | null; account: string | null; minor: number }[];
  tax: number;
  /** What is asked back, with its tax. */
  claim: number;
  /** What the rate of the invoice's day makes of it otherwise than the order's; above zero costs. */
  exchange: number;
  /** What is owed for it: all that they ask. */
  owed: number;
}

/** What is received meets what is invoiced; what prices make of it otherwise is the variance (domain-goods §14). */
export function invoicePostings(i: MatchedInvoice): Posting[] {
  const sides: Posting[] = [
    ...i.met.map((m) => ({ role: "received not invoiced" as const, account: null, minor: m.minor, line: m.line })),
    ...i.expenses.map((e) => ({ role: "expense" as const, account: e.account, minor: e.minor, line: e.line })),
    { role: "input tax", account: null, minor: i.tax, line: null },
    { role: "claims", account: null, minor: i.claim, line: null },
    { role: "exchange difference", account: null, minor: i.exchange, line: null },
    { role: "payable", account: null, minor: -i.owed, line: null },
  ];
  const rest = sides.reduce((a, p) => safe(a + p.minor), 0);
  return [...sides, { role: "price variance" as const, account: null, minor: -rest, line: null }].filter(worth);
}

/** A claim that nobody pays: its goods cost more, its tax is tax. Home currency. */
export const droppedClaimPostings = (home: number, tax: number): Posting[] =>
  [
    { role: "price variance" as const, account: null, minor: home - tax, line: null },
    { role: "input tax" as const, account: null, minor: tax, line: null },
    { role: "claims" as const, account: null, minor: -home, line: null },
  ].filter(worth);

/** A claim that is made once its invoice matched: its goods cost less, their tax is none. Home currency. */
export const laterClaimPostings = (home: number, tax: number): Posting[] =>
  turnedRound(droppedClaimPostings(home, tax));

/** A credit note that meets claims as they were booked: less is owed; another rate is an exchange difference. Home currency. */
export const creditPostings = (booked: number, credited: number): Posting[] =>
  [
    { role: "payable" as const, account: null, minor: credited, line: null },
    { role: "claims" as const, account: null, minor: -booked, line: null },
    { role: "exchange difference" as const, account: null, minor: booked - credited, line: null },
  ].filter(worth);

/** An entry turned round. */
export const turnedRound = (postings: readonly Posting[]): Posting[] =>
  postings.map((p) => ({ ...p, minor: -p.minor }));

/** Every entry balances: its debits are its credits. */
export const balances = (postings: readonly Pick<Posting, "minor">[]): boolean =>
  postings.reduce((a, p) => safe(a + p.minor), 0) === 0;
