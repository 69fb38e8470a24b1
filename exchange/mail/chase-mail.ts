import type { Day } from "../../core/calendar/day";
import { showDay, showQuantity } from "../../core/numbers/format";
import type { Language } from "../../core/orders/papers";
import type { ChaseAbout } from "../../core/suppliers/chase";
import { localeOf, paperWords, unitWord } from "../pdf/paper-words";
import { compose, type Message } from "./message";

/** One order, or request for prices, that a letter asks about. */
export interface ChasedOrder {
  number: string;
  about: ChaseAbout;
  lines: readonly { words: string; quantity: number; unit: string; due: Day }[];
  /** The private link on which they can answer; empty for none. */
  link: string;
}

/** All that one supplier is asked at once. */
export interface ChaseLetter {
  language: Language;
  locale: string;
  company: { name: string; mail: string };
  writer: { name: string; title: string; mail: string };
  contacts: readonly { name: string; mail: string }[];
  orders: readonly ChasedOrder[];
}

interface ChaseWords {
  subject: (numbers: string, company: string) => string;
  about: Record<ChaseAbout, string>;
  order: (number: string) => string;
  request: (number: string) => string;
  answer: (link: string) => string;
  close: string;
}

const WORDS: Record<Language, ChaseWords> = {
  en: {
    subject: (numbers, company) => `Our orders ${numbers}: a word, please (${company})`,
    about: {
      overdue: "These were due and are not here yet. When will they come?",
      confirm: "Please confirm quantities, prices and days of these:",
      announce: "These are due soon. Will they come as agreed?",
      prices: "We asked you for prices of these, and have no answer yet:",
    },
    order: (number) => `Order ${number}`,
    request: (number) => `Request ${number}`,
    answer: (link) => `  Answer here: ${link}`,
    close: "Kind regards",
  },
  de: {
    subject: (numbers, company) => `Unsere Bestellungen ${numbers}: bitte um Nachricht (${company})`,
    about: {
      overdue: "Diese waren fällig und sind noch nicht da. Wann kommen sie?",
      confirm: "Bitte bestätigen Sie Mengen, Preise und Termine:",
      announce: "Diese sind bald fällig. Kommen sie wie vereinbart?",
      prices: "Um Preise für diese haben wir gebeten, und noch keine Antwort:",
    },
    order: (number) => `Bestellung ${number}`,
    request: (number) => `Anfrage ${number}`,
    answer: (link) => `  Hier antworten: ${link}`,
    close: "Mit freundlichen Grüßen",
  },
  fr: {
    subject: (numbers, company) => `Nos commandes ${numbers} : un mot, s’il vous plaît (${company})`,
    about: {
      overdue: "Celles-ci étaient dues et ne sont pas arrivées. Quand viendront-elles ?",
      confirm: "Merci de confirmer quantités, prix et dates :",
      announce: "Celles-ci sont dues bientôt. Viendront-elles comme convenu ?",
      prices: "Nous vous avons demandé des prix pour ceux-ci, sans réponse encore :",
    },
    order: (number) => `Commande ${number}`,
    request: (number) => `Demande ${number}`,
    answer: (link) => `  Répondre ici : ${link}`,
    close: "Cordialement",
  },
  nl: {
    subject: (numbers, company) => `Onze bestellingen ${numbers}: graag een bericht (${company})`,
    about: {
      overdue: "Deze hadden er al moeten zijn. Wanneer komen ze?",
      confirm: "Bevestig alstublieft aantallen, prijzen en data:",
      announce: "Deze zijn binnenkort verwacht. Komen ze zoals afgesproken?",
      prices: "Hiervoor vroegen wij u prijzen, nog zonder antwoord:",
    },
    order: (number) => `Bestelling ${number}`,
    request: (number) => `Aanvraag ${number}`,
    answer: (link) => `  Hier antwoorden: ${link}`,
    close: "Met vriendelijke groet",
  },
};

/** Subject and text of a letter, in the supplier's language. */
export function chaseText(l: ChaseLetter): { subject: string; body: string } {
  const words = WORDS[l.language];
  const { dear, goodDay } = paperWords(l.language);
  const locale = localeOf(l.language, l.locale);
  const first = l.contacts[0]?.name;
  const sections = (["overdue", "confirm", "prices", "announce"] as const).flatMap((about) => {
    const orders = l.orders.filter((o) => o.about === about);
    return orders.length === 0
      ? []
      : [
          [
            words.about[about],
            ...orders.map((o) =>
              [
                about === "prices" ? words.request(o.number) : words.order(o.number),
                ...o.lines.map(
                  (x) =>
                    `  ${showQuantity(x.quantity, locale)} ${unitWord(l.language, x.unit)} ${x.words}, ${showDay(x.due, "0000", locale, false)}`,
                ),
                ...(o.link ? [words.answer(o.link)] : []),
              ].join("\n"),
            ),
          ].join("\n\n"),
        ];
  });
  const numbers = l.orders.map((o) => o.number);
  const shown = numbers.length > 3 ? `${numbers.slice(0, 3).join(", ")} …` : numbers.join(", ");
  return {
    subject: words.subject(shown, l.company.name),
    body: `${[
      first ? dear(first) : goodDay,
      ...sections,
      [words.close, l.writer.name, [l.writer.title, l.company.name].filter(Boolean).join(", ")].join("\n"),
    ].join("\n\n")}\n`,
  };
}

/** The letter as an e-mail. */
export function writeChaseMail(l: ChaseLetter, moment: string): Promise<Message> {
  return compose({
    from: { ...l.writer, company: l.company },
    to: [...l.contacts],
    ...chaseText(l),
    moment,
    attachments: [],
  });
}
