import { fragment } from "xmlbuilder2";
import type { Day } from "../../core/calendar/day";
import { moneyText } from "../../core/numbers/money";

/** The company whose journal it is. */
export interface AuditCompany {
  name: string;
  address: string;
  country: string;
  taxNumber: string;
  currency: string;
}
/** An account, and where it stood before the first of the days and after the last; debit above zero, minor units. */
export interface AuditAccount {
  id: string;
  name: string;
  opening: number;
  closing: number;
}
export interface AuditLine {
  entry: number;
  day: Day;
  about: string;
  entered: string;
  account: string;
  minor: number;
  words: string;
}

const escaped = (text: string) =>
  text
    .replace(/[^\P{Cc}\t\n]/gu, " ")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");

/**
 * The journal of some days as OECD Standard Audit File for Tax, version 2.00
 * (https://www.oecd.org/tax/administration/45045602.pdf): header, accounts with their balances, and every entry. In parts,
 * so that a year of it is never whole in memory; entries come with all their lines together.
 */
export function* auditFileParts(
  of: { from: Day; until: Day; made: Day; company: AuditCompany; sums: { entries: number; debit: number } },
  accounts: readonly AuditAccount[],
  parts: Iterable<readonly AuditLine[]>,
): Generator<string> {
  const { from, until, made, company, sums } = of;
  const amount = (minor: number) => moneyText({ minor, currency: company.currency });
  const node = (object: object) => fragment(object).end({ prettyPrint: true });
  const balance = (which: "Opening" | "Closing", minor: number) => ({
    [`${which}${minor < 0 ? "Credit" : "Debit"}Balance`]: amount(Math.abs(minor)),
  });
  yield '<?xml version="1.0" encoding="UTF-8"?>\n<AuditFile xmlns="urn:OECD:StandardAuditFile-Tax:2.00">\n';
  yield node({
    Header: {
      AuditFileVersion: "2.00",
      ...(company.country ? { AuditFileCountry: company.country } : {}),
      AuditFileDateCreated: made,
      SoftwareCompanyName: "Wharf Tally",
      SoftwareID: "Wharf Tally",
      SoftwareVersion: "1",
      Company: {
        ...(company.taxNumber ? { RegistrationNumber: company.taxNumber } : {}),
        Name: company.name,
        Address: { StreetName: company.address.replaceAll("\n", ", ") || "-" },
      },
      DefaultCurrencyCode: company.currency,
      SelectionCriteria: { SelectionStartDate: from, SelectionEndDate: until },
      TaxAccountingBasis: "Invoice Accounting",
    },
    MasterFiles: {
      GeneralLedgerAccounts: {
        Account: accounts.map((a) => ({
          AccountID: a.id,
          AccountDescription: a.name,
          AccountType: "GL",
          ...balance("Opening", a.opening),
          ...balance("Closing", a.closing),
        })),
      },
    },
  });
  yield `\n<GeneralLedgerEntries>\n<NumberOfEntries>${sums.entries}</NumberOfEntries>\n<TotalDebit>${amount(sums.debit)}</TotalDebit>\n<TotalCredit>${amount(sums.debit)}</TotalCredit>\n<Journal>\n<JournalID>purchasing</JournalID>\n<Description>Purchasing</Description>\n<Type>GL</Type>\n`;
  let open: number | null = null;
  let line = 0;
  for (const part of parts) {
    let text = "";
    for (const l of part) {
      if (l.entry !== open) {
        if (open !== null) text += "</Transaction>\n";
        open = l.entry;
        line = 0;
        text += `<Transaction><TransactionID>${l.entry}</TransactionID><Period>${Number(l.day.slice(5, 7))}</Period><PeriodYear>${l.day.slice(0, 4)}</PeriodYear><TransactionDate>${l.day}</TransactionDate><Description>${escaped(l.about)}</Description><SystemEntryDate>${l.entered.slice(0, 10)}</SystemEntryDate><GLPostingDate>${l.day}</GLPostingDate>\n`;
      }
      const side = l.minor < 0 ? "CreditAmount" : "DebitAmount";
      text += `<Line><RecordID>${++line}</RecordID><AccountID>${escaped(l.account)}</AccountID><Description>${escaped(l.words)}</Description><${side}><Amount>${amount(Math.abs(l.minor))}</Amount></${side}></Line>\n`;
    }
    yield text;
  }
  yield `${open === null ? "" : "</Transaction>\n"}</Journal>\n</GeneralLedgerEntries>\n</AuditFile>\n`;
}
