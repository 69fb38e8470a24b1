import type { UsedAs } from "../../core/consigned/use";
import type { Language } from "../../core/orders/papers";

/** What stands on papers and letters about a supplier's goods on our shelves, in one language. */
export interface ConsignedWords {
  agreement: string;
  refill: string;
  statement: string;
  draft: string;
  store: string;
  holds: string;
  passes: (days: number | null) => string;
  ours: string;
  first: Record<"theirs" | "ours", string>;
  firstTitle: string;
  settles: Record<"use" | "week" | "month", string>;
  settlesTitle: string;
  bears: Record<"us" | "them", string>;
  bearsTitle: string;
  leastMost: string;
  from: (day: string) => string;
  wanted: string;
  underAgreement: string;
  noPurchase: string;
  used: Record<UsedAs, string>;
  what: string;
  period: string;
  selfBilled: string;
  letter: {
    refillSubject: (number: string, company: string) => string;
    refillBody: (day: string, store: string) => string;
    statementSubject: (number: string, company: string) => string;
    statementBody: (from: string, to: string) => string;
    longerSubject: (company: string) => string;
    longerBody: (lines: string, days: number) => string;
    answer: (link: string) => string;
    close: string;
  };
}

const WORDS: Record<Language, ConsignedWords> = {
  en: {
    agreement: "Consignment agreement",
    refill: "Refill",
    statement: "Use statement",
    draft: "draft",
    store: "Store",
    holds: "Holds",
    passes: (d) => (d === null ? "at use" : `at use, or after ${d} days`),
    ours: "Becomes ours",
    first: { theirs: "yours before ours", ours: "ours before yours" },
    firstTitle: "Used first",
    settles: { use: "each use", week: "weekly", month: "monthly" },
    settlesTitle: "Settled",
    bears: { us: "we", them: "you" },
    bearsTitle: "Loss is borne by",
    leastMost: "Least to most",
    from: (d) => `from ${d}`,
    wanted: "Wanted on",
    underAgreement: "Agreement",
    noPurchase: "A refill of your own stock on our shelf: no purchase. It is paid for as it is used.",
    used: {
      used: "used",
      "became ours": "became ours",
      lost: "lost",
      "bought at the end": "bought at the end",
      "taken back": "taken back",
    },
    what: "What for",
    period: "Period",
    selfBilled: "This statement is the invoice (self-billing), once you have agreed to it.",
    letter: {
      refillSubject: (n, c) => `Refill ${n} (${c})`,
      refillBody: (day, store) => `Please refill your goods on our shelves at ${store} by ${day}, as attached.`,
      statementSubject: (n, c) => `Use statement ${n} (${c})`,
      statementBody: (a, b) =>
        `Attached is what we used of your goods from ${a} to ${b}. Please say whether you agree.`,
      longerSubject: (c) => `More time for your goods on our shelves (${c})`,
      longerBody: (lines, days) =>
        `These would become ours soon. Would you leave them with us for ${days} more days?\n\n${lines}`,
      answer: (link) => `Here you can see your goods on our shelves, and answer: ${link}`,
      close: "Kind regards",
    },
  },
  de: {
    agreement: "Konsignationsvereinbarung",
    refill: "Nachfüllung",
    statement: "Verbrauchsabrechnung",
    draft: "Entwurf",
    store: "Lager",
    holds: "Gilt",
    passes: (d) => (d === null ? "mit dem Verbrauch" : `mit dem Verbrauch oder nach ${d} Tagen`),
    ours: "Wird unser",
    first: { theirs: "Ihre Ware vor unserer", ours: "unsere Ware vor Ihrer" },
    firstTitle: "Zuerst verbraucht",
    settles: { use: "je Verbrauch", week: "wöchentlich", month: "monatlich" },
    settlesTitle: "Abgerechnet",
    bears: { us: "wir", them: "Sie" },
    bearsTitle: "Verlust trägt",
    leastMost: "Mindest- bis Höchstmenge",
    from: (d) => `ab ${d}`,
    wanted: "Gewünscht am",
    underAgreement: "Vereinbarung",
    noPurchase: "Nachfüllung Ihrer eigenen Ware in unserem Regal: kein Kauf. Bezahlt wird, was verbraucht wird.",
    used: {
      used: "verbraucht",
      "became ours": "unser geworden",
      lost: "verloren",
      "bought at the end": "am Ende gekauft",
      "taken back": "zurückgenommen",
    },
    what: "Wofür",
    period: "Zeitraum",
    selfBilled: "Diese Abrechnung ist die Rechnung (Gutschriftverfahren), sobald Sie zugestimmt haben.",
    letter: {
      refillSubject: (n, c) => `Nachfüllung ${n} (${c})`,
      refillBody: (day, store) =>
        `Bitte füllen Sie Ihre Ware in unseren Regalen in ${store} bis ${day} nach, wie beigefügt.`,
      statementSubject: (n, c) => `Verbrauchsabrechnung ${n} (${c})`,
      statementBody: (a, b) =>
        `Beigefügt ist, was wir vom ${a} bis ${b} von Ihrer Ware verbraucht haben. Bitte sagen Sie, ob Sie zustimmen.`,
      longerSubject: (c) => `Mehr Zeit für Ihre Ware in unseren Regalen (${c})`,
      longerBody: (lines, days) =>
        `Diese würde bald unser werden. Lassen Sie sie ${days} Tage länger bei uns?\n\n${lines}`,
      answer: (link) => `Hier sehen Sie Ihre Ware in unseren Regalen und können antworten: ${link}`,
      close: "Mit freundlichen Grüßen",
    },
  },
  fr: {
    agreement: "Accord de consignation",
    refill: "Réapprovisionnement",
    statement: "Relevé d’utilisation",
    draft: "projet",
    store: "Magasin",
    holds: "Valable",
    passes: (d) => (d === null ? "à l’utilisation" : `à l’utilisation, ou après ${d} jours`),
    ours: "Devient nôtre",
    first: { theirs: "la vôtre avant la nôtre", ours: "la nôtre avant la vôtre" },
    firstTitle: "Utilisée d’abord",
    settles: { use: "à chaque utilisation", week: "chaque semaine", month: "chaque mois" },
    settlesTitle: "Réglé",
    bears: { us: "nous", them: "vous" },
    bearsTitle: "Perte à la charge de",
    leastMost: "Du minimum au maximum",
    from: (d) => `à partir du ${d}`,
    wanted: "Souhaité le",
    underAgreement: "Accord",
    noPurchase:
      "Réapprovisionnement de votre propre stock sur nos rayons : pas d’achat. Il est payé au fur et à mesure de l’utilisation.",
    used: {
      used: "utilisé",
      "became ours": "devenu nôtre",
      lost: "perdu",
      "bought at the end": "acheté à la fin",
      "taken back": "repris",
    },
    what: "Pour quoi",
    period: "Période",
    selfBilled: "Ce relevé vaut facture (autofacturation) dès que vous l’avez accepté.",
    letter: {
      refillSubject: (n, c) => `Réapprovisionnement ${n} (${c})`,
      refillBody: (day, store) =>
        `Merci de réapprovisionner vos marchandises sur nos rayons à ${store} d’ici le ${day}, comme ci-joint.`,
      statementSubject: (n, c) => `Relevé d’utilisation ${n} (${c})`,
      statementBody: (a, b) =>
        `Ci-joint ce que nous avons utilisé de vos marchandises du ${a} au ${b}. Merci de nous dire si vous êtes d’accord.`,
      longerSubject: (c) => `Plus de temps pour vos marchandises sur nos rayons (${c})`,
      longerBody: (lines, days) =>
        `Celles-ci deviendraient bientôt nôtres. Nous les laisseriez-vous ${days} jours de plus ?\n\n${lines}`,
      answer: (link) => `Ici vous voyez vos marchandises sur nos rayons et pouvez répondre : ${link}`,
      close: "Cordialement",
    },
  },
  nl: {
    agreement: "Consignatieovereenkomst",
    refill: "Aanvulling",
    statement: "Gebruiksoverzicht",
    draft: "concept",
    store: "Magazijn",
    holds: "Geldt",
    passes: (d) => (d === null ? "bij gebruik" : `bij gebruik, of na ${d} dagen`),
    ours: "Wordt van ons",
    first: { theirs: "de uwe vóór de onze", ours: "de onze vóór de uwe" },
    firstTitle: "Eerst gebruikt",
    settles: { use: "per gebruik", week: "wekelijks", month: "maandelijks" },
    settlesTitle: "Afgerekend",
    bears: { us: "wij", them: "u" },
    bearsTitle: "Verlies draagt",
    leastMost: "Minst tot meest",
    from: (d) => `vanaf ${d}`,
    wanted: "Gewenst op",
    underAgreement: "Overeenkomst",
    noPurchase: "Een aanvulling van uw eigen voorraad in onze stelling: geen aankoop. Betaald wordt wat gebruikt is.",
    used: {
      used: "gebruikt",
      "became ours": "van ons geworden",
      lost: "verloren",
      "bought at the end": "aan het eind gekocht",
      "taken back": "teruggenomen",
    },
    what: "Waarvoor",
    period: "Periode",
    selfBilled: "Dit overzicht is de factuur (zelffacturering), zodra u ermee akkoord bent.",
    letter: {
      refillSubject: (n, c) => `Aanvulling ${n} (${c})`,
      refillBody: (day, store) => `Vul uw goederen in onze stellingen in ${store} aan vóór ${day}, zoals bijgevoegd.`,
      statementSubject: (n, c) => `Gebruiksoverzicht ${n} (${c})`,
      statementBody: (a, b) =>
        `Bijgevoegd is wat wij van ${a} tot ${b} van uw goederen gebruikten. Laat ons weten of u akkoord bent.`,
      longerSubject: (c) => `Meer tijd voor uw goederen in onze stellingen (${c})`,
      longerBody: (lines, days) =>
        `Deze zouden binnenkort van ons worden. Laat u ze ${days} dagen langer bij ons?\n\n${lines}`,
      answer: (link) => `Hier ziet u uw goederen in onze stellingen, en kunt u antwoorden: ${link}`,
      close: "Met vriendelijke groet",
    },
  },
};

export const consignedWords = (language: Language): ConsignedWords => WORDS[language];
