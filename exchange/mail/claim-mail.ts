import type { Day } from "../../core/calendar/day";
import { showDay, showMoney, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import type { ClaimReason } from "../../core/settling/claim";
import { localeOf, paperWords, unitWord } from "../pdf/paper-words";
import { compose, type Message } from "./message";

/** What a supplier is asked to credit. */
export interface ClaimLetter {
  language: Language;
  locale: string;
  company: { name: string; mail: string };
  writer: { name: string; title: string; mail: string };
  contacts: readonly { name: string; mail: string }[];
  number: string;
  invoice: { number: string; day: Day };
  words: string;
  reason: ClaimReason;
  /** Purchase units that are missing, or not good. */
  quantity: number;
  /** The paper with which goods went back. */
  returned: string | null;
  unit: string;
  currency: string;
  net: number;
  tax: number;
  /** A word of whoever claimed it. */
  said: string;
}

interface ClaimWords {
  subject: (claim: string, invoice: string, company: string) => string;
  billed: (invoice: string, day: string) => string;
  missing: (much: string, words: string) => string;
  dearer: (words: string) => string;
  faulty: (much: string, words: string) => string;
  agreed: (words: string) => string;
  returned: (number: string) => string;
  asks: (net: string, tax: string, total: string) => string;
  please: (claim: string) => string;
  close: string;
}

const WORDS: Record<Language, ClaimWords> = {
  en: {
    subject: (claim, invoice, company) => `Claim ${claim}: your invoice ${invoice} (${company})`,
    billed: (invoice, day) => `Your invoice ${invoice} of ${day} differs from what we received and ordered:`,
    missing: (much, words) => `  ${much} of ${words} are billed and were not received.`,
    dearer: (words) => `  ${words} is dearer than was ordered.`,
    faulty: (much, words) => `  ${[much, words].filter(Boolean).join(" of ")}: not good.`,
    agreed: (words) => `  ${words}: as was agreed.`,
    returned: (number) => `The goods went back to you with our return ${number}.`,
    asks: (net, tax, total) => `We ask you to credit ${net} and ${tax} tax, ${total} in all.`,
    please: (claim) => `Please name ${claim} on the credit note.`,
    close: "Kind regards",
  },
  de: {
    subject: (claim, invoice, company) => `Reklamation ${claim}: Ihre Rechnung ${invoice} (${company})`,
    billed: (invoice, day) =>
      `Ihre Rechnung ${invoice} vom ${day} weicht von dem ab, was wir erhalten und bestellt haben:`,
    missing: (much, words) => `  ${much} ${words} sind berechnet und nicht eingetroffen.`,
    dearer: (words) => `  ${words} ist teurer als bestellt.`,
    faulty: (much, words) => `  ${[much, words].filter(Boolean).join(" ")}: mangelhaft.`,
    agreed: (words) => `  ${words}: wie vereinbart.`,
    returned: (number) => `Die Ware ging mit unserer Rücksendung ${number} an Sie zurück.`,
    asks: (net, tax, total) => `Wir bitten um eine Gutschrift über ${net} und ${tax} Steuer, zusammen ${total}.`,
    please: (claim) => `Bitte nennen Sie ${claim} auf der Gutschrift.`,
    close: "Mit freundlichen Grüßen",
  },
  fr: {
    subject: (claim, invoice, company) => `Réclamation ${claim} : votre facture ${invoice} (${company})`,
    billed: (invoice, day) => `Votre facture ${invoice} du ${day} diffère de ce que nous avons reçu et commandé :`,
    missing: (much, words) => `  ${much} de ${words} sont facturés et n’ont pas été reçus.`,
    dearer: (words) => `  ${words} est plus cher que commandé.`,
    faulty: (much, words) => `  ${[much, words].filter(Boolean).join(" de ")} : défectueux.`,
    agreed: (words) => `  ${words} : comme convenu.`,
    returned: (number) => `La marchandise vous a été renvoyée avec notre retour ${number}.`,
    asks: (net, tax, total) => `Nous vous demandons un avoir de ${net} et ${tax} de taxe, soit ${total}.`,
    please: (claim) => `Merci d’indiquer ${claim} sur l’avoir.`,
    close: "Cordialement",
  },
  nl: {
    subject: (claim, invoice, company) => `Reclamatie ${claim}: uw factuur ${invoice} (${company})`,
    billed: (invoice, day) => `Uw factuur ${invoice} van ${day} wijkt af van wat wij hebben ontvangen en besteld:`,
    missing: (much, words) => `  ${much} ${words} zijn gefactureerd en niet ontvangen.`,
    dearer: (words) => `  ${words} is duurder dan besteld.`,
    faulty: (much, words) => `  ${[much, words].filter(Boolean).join(" ")}: niet goed.`,
    agreed: (words) => `  ${words}: zoals afgesproken.`,
    returned: (number) => `De goederen gingen met onze retour ${number} naar u terug.`,
    asks: (net, tax, total) => `Wij vragen u een creditnota van ${net} en ${tax} belasting, samen ${total}.`,
    please: (claim) => `Vermeld ${claim} alstublieft op de creditnota.`,
    close: "Met vriendelijke groet",
  },
};

/** What it is about, in a line. */
function aboutOf(words: ClaimWords, l: ClaimLetter, much: string): string {
  if (l.reason === "quantity") return words.missing(much, l.words);
  if (l.reason === "faulty") return words.faulty(much, l.words);
  return l.reason === "agreed" ? words.agreed(l.words) : words.dearer(l.words);
}

/** Subject and text of the letter, in the supplier's language. */
export function claimText(l: ClaimLetter): { subject: string; body: string } {
  const words = WORDS[l.language];
  const { dear, goodDay } = paperWords(l.language);
  const locale = localeOf(l.language, l.locale);
  const amount = (minor: number) => `${showMoney(minor, l.currency, locale)} ${l.currency}`;
  const first = l.contacts[0]?.name;
  const much = l.quantity ? `${showQuantity(l.quantity, locale)} ${unitWord(l.language, l.unit)}` : "";
  return {
    subject: words.subject(l.number, l.invoice.number, l.company.name),
    body: `${[
      first ? dear(first) : goodDay,
      [
        words.billed(l.invoice.number, showDay(l.invoice.day, "0000", locale, false)),
        aboutOf(words, l, much),
        ...(l.returned ? [words.returned(l.returned)] : []),
      ].join("\n"),
      `${words.asks(amount(l.net), amount(l.tax), amount(l.net + l.tax))} ${words.please(l.number)}`,
      ...(l.said ? [l.said] : []),
      [words.close, l.writer.name, [l.writer.title, l.company.name].filter(Boolean).join(", ")].join("\n"),
    ].join("\n\n")}\n`,
  };
}

/** The letter as an e-mail. */
export const writeClaimMail = (l: ClaimLetter, moment: string): Promise<Message> =>
  compose({
    from: { ...l.writer, company: l.company },
    to: [...l.contacts],
    ...claimText(l),
    moment,
    attachments: [],
  });
