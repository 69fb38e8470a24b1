import { isOneOf } from "../../core/keys";
import { showPercent } from "../../core/numbers/format";
import { LANGUAGE_CODES, type Language, type PaperKind, type PaperTexts } from "../../core/orders/papers";
import type { PayTerms } from "../../core/orders/terms";

/** The words that stand on the paper of an order, in one language. */
export interface PaperWords {
  /** How figures and days are written. */
  locale: string;
  titles: Record<PaperKind, string>;
  draft: string;
  to: string;
  attention: (name: string) => string;
  deliverTo: string;
  contact: string;
  holds: string;
  until: string;
  wanted: string;
  payment: string;
  delivery: string;
  drawnFrom: string;
  references: string;
  ours: string;
  yours: string;
  currency: string;
  taxNumber: string;
  goods: string;
  quantity: string;
  price: string;
  discount: string;
  amount: string;
  tax: string;
  taxOn: (percent: string, base: string) => string;
  taxByUs: string;
  linesTotal: string;
  net: string;
  total: string;
  by: string;
  upTo: (amount: string) => string;
  atLeast: (quantity: string) => string;
  voidAfter: (day: string) => string;
  version: (n: number) => string;
  /** What is said of a line that stood otherwise in the version before, of a new one, and of those that are gone. */
  before: (how: string) => string;
  isNew: string;
  gone: (lines: string) => string;
  lineCount: (n: number) => string;
  /** That some letters are printed as empty boxes, by their code points. */
  missing: (letters: string) => string;
  dear: (name: string) => string;
  goodDay: string;
  terms: (t: PayTerms, locale: string) => string;
  /** What is written where a company has kept no texts of its own. */
  texts: Record<"order" | "blanket", PaperTexts>;
}

const english: PaperWords = {
  locale: "en-GB",
  titles: {
    "one-off": "Purchase order",
    blanket: "Blanket order",
    "call-off": "Call-off order",
    direct: "Purchase order",
  },
  draft: "Draft, not an order",
  to: "To",
  attention: (name) => `for ${name}`,
  deliverTo: "Deliver to",
  contact: "Your contact with us",
  holds: "Holds",
  until: "to",
  wanted: "Wanted by",
  payment: "Payment",
  delivery: "Delivery",
  drawnFrom: "Called off from",
  references: "References",
  ours: "ours",
  yours: "yours",
  currency: "Currency",
  taxNumber: "Our tax number",
  goods: "Goods or service",
  quantity: "Quantity",
  price: "Price",
  discount: "Discount",
  amount: "Amount",
  tax: "Tax",
  taxOn: (percent, base) => `Tax ${percent} on ${base}`,
  taxByUs: "Tax, accounted for by us",
  linesTotal: "Lines",
  net: "Net",
  total: "Total",
  by: "by",
  upTo: (amount) => `up to ${amount}`,
  atLeast: (quantity) => `at least ${quantity} at once`,
  version: (n) => `version ${n}`,
  before: (how) => `changed, before: ${how}`,
  isNew: "new",
  gone: (lines) => `Not ordered any more: ${lines}`,
  voidAfter: (day) => `This order is void if it is not accepted by ${day}.`,
  missing: (letters) => `Letters that this paper cannot print stand as □: ${letters}`,
  lineCount: (n) => (n === 1 ? "1 line" : `${n} lines`),
  dear: (name) => `Dear ${name},`,
  goodDay: "Good day,",
  terms: (t, locale) =>
    `${t.from === "invoice" ? `${t.days} ${t.days === 1 ? "day" : "days"} net` : `end of month + ${t.days} ${t.days === 1 ? "day" : "days"}`}${
      t.earlyPercent
        ? `, ${showPercent(t.earlyPercent, locale)} within ${t.earlyDays} ${t.earlyDays === 1 ? "day" : "days"}`
        : ""
    }`,
  texts: {
    order: {
      above: "",
      below: "",
      foot: "Please name {number} on the delivery note and the invoice. Tell us at once if a date cannot be kept.",
      subject: "{title} from {company}",
      message: `{greeting}

please find our order {number} attached: {lines}, wanted by {wanted} at {place}.

You can always read it as it stands here, without an account: {link}

Please confirm quantities, prices and dates by answering this message, and name the order number on your delivery note and invoice.

With kind regards
{writer}
{function}
{company}`,
    },
    blanket: {
      above: "",
      below: "",
      foot: "We call off from this order as we need the goods. Please name {number} on every delivery note and invoice.",
      subject: "{title} from {company}",
      message: `{greeting}

please find our blanket order {number} attached: {lines}, from {starts} to {ends}. We call off from it as we need the goods.

You can always read it as it stands here, without an account: {link}

Please confirm quantities and prices by answering this message.

With kind regards
{writer}
{function}
{company}`,
    },
  },
};

const german: PaperWords = {
  locale: "de-DE",
  titles: { "one-off": "Bestellung", blanket: "Rahmenbestellung", "call-off": "Abruf", direct: "Bestellung" },
  draft: "Entwurf, keine Bestellung",
  to: "An",
  attention: (name) => `z. Hd. ${name}`,
  deliverTo: "Lieferung an",
  contact: "Bei uns zuständig",
  holds: "Gültig",
  until: "bis",
  wanted: "Gewünscht bis",
  payment: "Zahlung",
  delivery: "Lieferbedingung",
  drawnFrom: "Abgerufen von",
  references: "Zeichen",
  ours: "unser",
  yours: "Ihr",
  currency: "Währung",
  taxNumber: "Unsere Steuernummer",
  goods: "Ware oder Leistung",
  quantity: "Menge",
  price: "Preis",
  discount: "Rabatt",
  amount: "Betrag",
  tax: "Steuer",
  taxOn: (percent, base) => `Steuer ${percent} auf ${base}`,
  taxByUs: "Steuer, von uns geschuldet",
  linesTotal: "Positionen",
  net: "Netto",
  total: "Gesamt",
  by: "bis",
  upTo: (amount) => `bis zu ${amount}`,
  atLeast: (quantity) => `mindestens ${quantity} je Abruf`,
  version: (n) => `Fassung ${n}`,
  before: (how) => `geändert, bisher: ${how}`,
  isNew: "neu",
  gone: (lines) => `Nicht mehr bestellt: ${lines}`,
  voidAfter: (day) => `Diese Bestellung verfällt, wenn sie nicht bis zum ${day} angenommen wird.`,
  missing: (letters) => `Zeichen, die dieses Papier nicht drucken kann, stehen als □: ${letters}`,
  lineCount: (n) => (n === 1 ? "1 Position" : `${n} Positionen`),
  dear: (name) => `Guten Tag ${name},`,
  goodDay: "Guten Tag,",
  terms: (t, locale) =>
    `${t.from === "invoice" ? `${t.days} ${t.days === 1 ? "Tag" : "Tage"} netto` : `Monatsende + ${t.days} ${t.days === 1 ? "Tag" : "Tage"}`}${
      t.earlyPercent
        ? `, ${showPercent(t.earlyPercent, locale)} Skonto bei Zahlung in ${t.earlyDays} ${t.earlyDays === 1 ? "Tag" : "Tagen"}`
        : ""
    }`,
  texts: {
    order: {
      above: "",
      below: "",
      foot: "Bitte nennen Sie {number} auf Lieferschein und Rechnung. Sagen Sie uns sofort, wenn ein Termin nicht zu halten ist.",
      subject: "{title} von {company}",
      message: `{greeting}

anbei unsere Bestellung {number}: {lines}, gewünscht bis {wanted} an {place}.

Hier können Sie den Stand jederzeit lesen, ohne Anmeldung: {link}

Bitte bestätigen Sie Mengen, Preise und Termine, indem Sie auf diese Nachricht antworten, und nennen Sie die Nummer auf Lieferschein und Rechnung.

Mit freundlichen Grüßen
{writer}
{function}
{company}`,
    },
    blanket: {
      above: "",
      below: "",
      foot: "Wir rufen nach Bedarf ab. Bitte nennen Sie {number} auf jedem Lieferschein und jeder Rechnung.",
      subject: "{title} von {company}",
      message: `{greeting}

anbei unsere Rahmenbestellung {number}: {lines}, gültig von {starts} bis {ends}. Wir rufen nach Bedarf ab.

Hier können Sie den Stand jederzeit lesen, ohne Anmeldung: {link}

Bitte bestätigen Sie Mengen und Preise, indem Sie auf diese Nachricht antworten.

Mit freundlichen Grüßen
{writer}
{function}
{company}`,
    },
  },
};

const french: PaperWords = {
  locale: "fr-FR",
  titles: {
    "one-off": "Bon de commande",
    blanket: "Commande cadre",
    "call-off": "Appel de commande",
    direct: "Bon de commande",
  },
  draft: "Projet, sans valeur de commande",
  to: "À",
  attention: (name) => `à l’attention de ${name}`,
  deliverTo: "Livrer à",
  contact: "Votre interlocuteur",
  holds: "Valable",
  until: "au",
  wanted: "Souhaité pour le",
  payment: "Paiement",
  delivery: "Livraison",
  drawnFrom: "Appelé sur",
  references: "Références",
  ours: "la nôtre",
  yours: "la vôtre",
  currency: "Devise",
  taxNumber: "Notre numéro fiscal",
  goods: "Article ou prestation",
  quantity: "Quantité",
  price: "Prix",
  discount: "Remise",
  amount: "Montant",
  tax: "Taxe",
  taxOn: (percent, base) => `Taxe ${percent} sur ${base}`,
  taxByUs: "Taxe due par nos soins",
  linesTotal: "Lignes",
  net: "Net",
  total: "Total",
  by: "pour le",
  upTo: (amount) => `jusqu’à ${amount}`,
  atLeast: (quantity) => `au moins ${quantity} par appel`,
  version: (n) => `version ${n}`,
  before: (how) => `modifié, avant : ${how}`,
  isNew: "nouveau",
  gone: (lines) => `N’est plus commandé : ${lines}`,
  voidAfter: (day) => `Cette commande devient caduque si elle n’est pas acceptée au plus tard le ${day}.`,
  missing: (letters) => `Les caractères que ce document ne peut imprimer figurent comme □ : ${letters}`,
  lineCount: (n) => (n === 1 ? "1 ligne" : `${n} lignes`),
  dear: (name) => `Bonjour ${name},`,
  goodDay: "Bonjour,",
  terms: (t, locale) =>
    `${t.from === "invoice" ? `${t.days} ${t.days === 1 ? "jour" : "jours"} net` : `fin de mois + ${t.days} ${t.days === 1 ? "jour" : "jours"}`}${
      t.earlyPercent
        ? `, ${showPercent(t.earlyPercent, locale)} d’escompte sous ${t.earlyDays} ${t.earlyDays === 1 ? "jour" : "jours"}`
        : ""
    }`,
  texts: {
    order: {
      above: "",
      below: "",
      foot: "Merci d’indiquer {number} sur le bon de livraison et la facture. Prévenez-nous aussitôt si une date ne peut être tenue.",
      subject: "{title} de {company}",
      message: `{greeting}

veuillez trouver ci-joint notre commande {number} : {lines}, souhaitée pour le {wanted} à {place}.

Vous pouvez la lire ici à tout moment, sans compte : {link}

Merci de confirmer quantités, prix et dates en répondant à ce message, et d’indiquer le numéro sur le bon de livraison et la facture.

Cordialement
{writer}
{function}
{company}`,
    },
    blanket: {
      above: "",
      below: "",
      foot: "Nous appelons selon nos besoins. Merci d’indiquer {number} sur chaque bon de livraison et chaque facture.",
      subject: "{title} de {company}",
      message: `{greeting}

veuillez trouver ci-joint notre commande cadre {number} : {lines}, valable du {starts} au {ends}. Nous appelons selon nos besoins.

Vous pouvez la lire ici à tout moment, sans compte : {link}

Merci de confirmer quantités et prix en répondant à ce message.

Cordialement
{writer}
{function}
{company}`,
    },
  },
};

const dutch: PaperWords = {
  locale: "nl-NL",
  titles: { "one-off": "Bestelling", blanket: "Raamorder", "call-off": "Afroep", direct: "Bestelling" },
  draft: "Concept, geen bestelling",
  to: "Aan",
  attention: (name) => `t.a.v. ${name}`,
  deliverTo: "Leveren aan",
  contact: "Uw contact bij ons",
  holds: "Geldig",
  until: "tot",
  wanted: "Gewenst op",
  payment: "Betaling",
  delivery: "Levering",
  drawnFrom: "Afgeroepen van",
  references: "Kenmerken",
  ours: "ons",
  yours: "uw",
  currency: "Valuta",
  taxNumber: "Ons btw-nummer",
  goods: "Goed of dienst",
  quantity: "Aantal",
  price: "Prijs",
  discount: "Korting",
  amount: "Bedrag",
  tax: "Btw",
  taxOn: (percent, base) => `Btw ${percent} over ${base}`,
  taxByUs: "Btw verlegd naar ons",
  linesTotal: "Regels",
  net: "Netto",
  total: "Totaal",
  by: "op",
  upTo: (amount) => `tot ${amount}`,
  atLeast: (quantity) => `minstens ${quantity} per afroep`,
  version: (n) => `versie ${n}`,
  before: (how) => `gewijzigd, voorheen: ${how}`,
  isNew: "nieuw",
  gone: (lines) => `Niet meer besteld: ${lines}`,
  voidAfter: (day) => `Deze bestelling vervalt als zij niet uiterlijk ${day} is aanvaard.`,
  missing: (letters) => `Tekens die dit papier niet kan drukken, staan als □: ${letters}`,
  lineCount: (n) => (n === 1 ? "1 regel" : `${n} regels`),
  dear: (name) => `Beste ${name},`,
  goodDay: "Goedendag,",
  terms: (t, locale) =>
    `${t.from === "invoice" ? `${t.days} ${t.days === 1 ? "dag" : "dagen"} netto` : `einde maand + ${t.days} ${t.days === 1 ? "dag" : "dagen"}`}${
      t.earlyPercent
        ? `, ${showPercent(t.earlyPercent, locale)} bij betaling binnen ${t.earlyDays} ${t.earlyDays === 1 ? "dag" : "dagen"}`
        : ""
    }`,
  texts: {
    order: {
      above: "",
      below: "",
      foot: "Vermeld {number} op pakbon en factuur. Laat het ons meteen weten als een datum niet haalbaar is.",
      subject: "{title} van {company}",
      message: `{greeting}

bijgaand onze bestelling {number}: {lines}, gewenst op {wanted} bij {place}.

U kunt haar hier altijd lezen, zonder account: {link}

Wilt u aantallen, prijzen en data bevestigen door dit bericht te beantwoorden, en het nummer op pakbon en factuur vermelden?

Met vriendelijke groet
{writer}
{function}
{company}`,
    },
    blanket: {
      above: "",
      below: "",
      foot: "Wij roepen af naar behoefte. Vermeld {number} op elke pakbon en factuur.",
      subject: "{title} van {company}",
      message: `{greeting}

bijgaand onze raamorder {number}: {lines}, geldig van {starts} tot {ends}. Wij roepen af naar behoefte.

U kunt haar hier altijd lezen, zonder account: {link}

Wilt u aantallen en prijzen bevestigen door dit bericht te beantwoorden?

Met vriendelijke groet
{writer}
{function}
{company}`,
    },
  },
};

const WORDS: Record<Language, PaperWords> = { en: english, de: german, fr: french, nl: dutch };

export const paperWords = (language: Language): PaperWords => WORDS[language];

/** The locale of a paper: the company's own where it speaks the language, else the usual one of the language. */
export const localeOf = (language: Language, own: string): string =>
  own.split("-")[0] === language ? own : WORDS[language].locale;

/** The language that a company's locale speaks; English where papers cannot be written in it. */
export function languageOf(locale: string): Language {
  const code = locale.split("-")[0] ?? "";
  return isOneOf(LANGUAGE_CODES, code) ? code : "en";
}

/** The texts of a kind of paper where the company has kept none. */
export const usualTexts = (kind: PaperKind, language: Language): PaperTexts =>
  WORDS[language].texts[kind === "blanket" ? "blanket" : "order"];

/** What we count and measure in, as suppliers call it; symbols of measures are the same everywhere. */
const UNITS: Record<Exclude<Language, "en">, Record<string, string>> = {
  de: {
    each: "Stück",
    hour: "Stunde",
    day: "Tag",
    drum: "Fass",
    coil: "Ring",
    box: "Schachtel",
    pack: "Packung",
    keg: "Fässchen",
    pair: "Paar",
    set: "Satz",
    case: "Kiste",
    can: "Kanister",
    bag: "Beutel",
    roll: "Rolle",
    tonne: "Tonne",
    visit: "Besuch",
    pail: "Eimer",
    carton: "Karton",
    sheet: "Tafel",
    length: "Stange",
    tube: "Tube",
    bottle: "Flasche",
  },
  fr: {
    each: "pièce",
    hour: "heure",
    day: "jour",
    drum: "fût",
    coil: "bobine",
    box: "boîte",
    pack: "paquet",
    keg: "tonnelet",
    pair: "paire",
    set: "jeu",
    case: "caisse",
    can: "bidon",
    bag: "sac",
    roll: "rouleau",
    tonne: "tonne",
    visit: "visite",
    pail: "seau",
    carton: "carton",
    sheet: "feuille",
    length: "longueur",
    tube: "tube",
    bottle: "bouteille",
  },
  nl: {
    each: "stuk",
    hour: "uur",
    day: "dag",
    drum: "vat",
    coil: "bundel",
    box: "doos",
    pack: "pak",
    keg: "fust",
    pair: "paar",
    set: "set",
    case: "kist",
    can: "bus",
    bag: "zak",
    roll: "rol",
    tonne: "ton",
    visit: "bezoek",
    pail: "emmer",
    carton: "karton",
    sheet: "plaat",
    length: "lengte",
    tube: "tube",
    bottle: "fles",
  },
};
export const unitWord = (language: Language, unit: string): string =>
  language === "en" ? unit : (UNITS[language][unit] ?? unit);
