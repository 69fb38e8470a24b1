import { electronicFormatIBAN, friendlyFormatIBAN, isValidBIC, isValidIBAN } from "ibantools";

/** An account by ISO 13616, and its bank by ISO 9362 where it is known. */
export interface BankAccount {
  iban: string;
  bic: string;
}

/** Reads an account: spaces aside, its country's length and its check digits (mod 97) hold, or a sentence says what does not. */
export function parseIban(text: string): { ok: true; value: string } | { ok: false; says: string } {
  const iban = electronicFormatIBAN(text.trim())?.toUpperCase() ?? "";
  if (iban === "") return { ok: true, value: "" };
  if (isValidIBAN(iban)) return { ok: true, value: iban };
  return {
    ok: false,
    says: "This is no IBAN: its check digits, its length or its country do not agree. Look for a slip.",
  };
}

export function parseBic(text: string): { ok: true; value: string } | { ok: false; says: string } {
  const bic = text.replace(/\s/g, "").toUpperCase();
  return bic === "" || isValidBIC(bic)
    ? { ok: true, value: bic }
    : { ok: false, says: "A BIC has 8 or 11 letters and digits, such as NORTFR2X." };
}

/** In groups of four, as people read it. */
export const ibanText = (iban: string) => friendlyFormatIBAN(iban) ?? iban;
