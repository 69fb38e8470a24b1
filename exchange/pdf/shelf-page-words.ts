import type { Language } from "../../core/orders/papers";

/** What stands on a supplier's private page about their goods on our shelves, in one language. */
export interface ShelfPageWords {
  title: string;
  sub: (company: string, store: string) => string;
  goods: string;
  here: string;
  leastMost: string;
  refills: string;
  asked: (day: string) => string;
  cameOf: (came: string, all: string) => string;
  comes: string;
  remark: string;
  keep: string;
  longer: string;
  ask: (quantity: string, name: string, day: string, days: number) => string;
  yes: string;
  no: string;
  statements: string;
  period: string;
  total: string;
  agree: string;
  notRight: string;
  name: string;
  what: string;
  agreedBy: (name: string) => string;
  paidBy: (day: string) => string;
  youSaid: string;
  done: string;
  nothing: string;
  ended: string;
}

export const SHELF_PAGE_WORDS: Record<Language, ShelfPageWords> = {
  en: {
    title: "Your goods on our shelves",
    sub: (company, store) => `at ${company}, ${store}: yours until they are used`,
    goods: "Goods",
    here: "Here now",
    leastMost: "Least to most",
    refills: "Please refill",
    asked: (day) => `wanted by ${day}`,
    cameOf: (came, all) => `${came} of ${all} came`,
    comes: "It comes on",
    remark: "Remark",
    keep: "Say so",
    longer: "May they stay longer?",
    ask: (q, name, day, days) => `${q} ${name} become ours on ${day}. Will you leave them ${days} days more?`,
    yes: "Yes",
    no: "No",
    statements: "Use statements",
    period: "Period",
    total: "With tax",
    agree: "I agree",
    notRight: "Something is not right",
    name: "Your name",
    what: "What is not right",
    agreedBy: (name) => `agreed by ${name}`,
    paidBy: (day) => `paid by ${day}`,
    youSaid: "You said",
    done: "Thank you. It is kept.",
    nothing: "None at the moment.",
    ended: "This link does not open any more",
  },
  de: {
    title: "Ihre Ware in unseren Regalen",
    sub: (company, store) => `bei ${company}, ${store}: Ihre, bis sie verbraucht ist`,
    goods: "Ware",
    here: "Jetzt hier",
    leastMost: "Mindest- bis Höchstmenge",
    refills: "Bitte nachfüllen",
    asked: (day) => `gewünscht bis ${day}`,
    cameOf: (came, all) => `${came} von ${all} gekommen`,
    comes: "Sie kommt am",
    remark: "Bemerkung",
    keep: "Mitteilen",
    longer: "Darf sie länger bleiben?",
    ask: (q, name, day, days) => `${q} ${name} werden am ${day} unser. Lassen Sie sie ${days} Tage länger?`,
    yes: "Ja",
    no: "Nein",
    statements: "Verbrauchsabrechnungen",
    period: "Zeitraum",
    total: "Mit Steuer",
    agree: "Ich stimme zu",
    notRight: "Etwas stimmt nicht",
    name: "Ihr Name",
    what: "Was nicht stimmt",
    agreedBy: (name) => `zugestimmt von ${name}`,
    paidBy: (day) => `bezahlt bis ${day}`,
    youSaid: "Sie schrieben",
    done: "Danke. Es ist festgehalten.",
    nothing: "Zurzeit keine.",
    ended: "Dieser Link öffnet nicht mehr",
  },
  fr: {
    title: "Vos marchandises sur nos rayons",
    sub: (company, store) => `chez ${company}, ${store} : à vous jusqu’à leur utilisation`,
    goods: "Marchandises",
    here: "Ici",
    leastMost: "Du minimum au maximum",
    refills: "Merci de réapprovisionner",
    asked: (day) => `souhaité d’ici le ${day}`,
    cameOf: (came, all) => `${came} sur ${all} arrivés`,
    comes: "Arrive le",
    remark: "Remarque",
    keep: "Le dire",
    longer: "Peuvent-elles rester plus longtemps ?",
    ask: (q, name, day, days) => `${q} ${name} deviennent nôtres le ${day}. Les laissez-vous ${days} jours de plus ?`,
    yes: "Oui",
    no: "Non",
    statements: "Relevés d’utilisation",
    period: "Période",
    total: "Taxes comprises",
    agree: "Je suis d’accord",
    notRight: "Quelque chose ne va pas",
    name: "Votre nom",
    what: "Ce qui ne va pas",
    agreedBy: (name) => `accepté par ${name}`,
    paidBy: (day) => `payé d’ici le ${day}`,
    youSaid: "Vous avez dit",
    done: "Merci. C’est noté.",
    nothing: "Aucun pour l’instant.",
    ended: "Ce lien n’ouvre plus",
  },
  nl: {
    title: "Uw goederen in onze stellingen",
    sub: (company, store) => `bij ${company}, ${store}: van u tot ze gebruikt zijn`,
    goods: "Goederen",
    here: "Nu hier",
    leastMost: "Minst tot meest",
    refills: "Graag aanvullen",
    asked: (day) => `gewenst vóór ${day}`,
    cameOf: (came, all) => `${came} van ${all} binnen`,
    comes: "Komt op",
    remark: "Opmerking",
    keep: "Melden",
    longer: "Mogen ze langer blijven?",
    ask: (q, name, day, days) => `${q} ${name} worden op ${day} van ons. Laat u ze ${days} dagen langer?`,
    yes: "Ja",
    no: "Nee",
    statements: "Gebruiksoverzichten",
    period: "Periode",
    total: "Met belasting",
    agree: "Ik ga akkoord",
    notRight: "Er klopt iets niet",
    name: "Uw naam",
    what: "Wat er niet klopt",
    agreedBy: (name) => `akkoord: ${name}`,
    paidBy: (day) => `betaald vóór ${day}`,
    youSaid: "U schreef",
    done: "Dank u. Het is vastgelegd.",
    nothing: "Op dit moment geen.",
    ended: "Deze link opent niet meer",
  },
};
