import type { Language } from "../../core/orders/papers";

/** What a request for prices says, on paper, in its e-mail and on the page where a supplier answers, in one language. */
export interface QuoteWords {
  title: string;
  contact: string;
  answerBy: string;
  pricesIn: (currency: string) => string;
  needed: string;
  yours: string;
  ours: string;
  oneIs: (unit: string, quantity: string) => string;
  fillIn: string;
  foot: (number: string) => string;
  mail: { subject: (number: string, company: string) => string; body: (of: MailOf) => string };
  page: PageText;
  faults: FaultText;
}

interface MailOf {
  greeting: string;
  lines: number;
  by: string;
  link: string;
  note: string;
  asker: string;
  function: string;
}

interface PageText {
  asks: (company: string, supplier: string) => string;
  pleaseBy: string;
  isContact: (name: string) => string;
  neededAt: (day: string, store: string) => string;
  price: (currency: string, unit: string) => string;
  from: (unit: string) => string;
  anyQuantity: string;
  days: string;
  note: string;
  holdFrom: string;
  until: string;
  conditions: string;
  leaveEmpty: (example: string) => string;
  review: string;
  reading: string;
  decline: string;
  understood: string;
  send: string;
  sending: string;
  change: string;
  stands: string;
  declined: string;
  correct: string;
  per: string;
  fromSo: (quantity: string) => string;
  inDays: (n: number) => string;
  noPrice: string;
  answered: (at: string) => string;
  ended: string;
  used: (name: string) => string;
}

interface FaultText {
  look: string;
  number: (typed: string, example: string) => string;
  places: (n: number) => string;
  negative: string;
  large: string;
  days: string;
  none: string;
  foreign: string;
  twice: string;
  backwards: string;
  passed: string;
  far: string;
  changed: string;
}

const en: QuoteWords = {
  title: "Request for quotation",
  contact: "Your contact with us",
  answerBy: "Please answer by",
  pricesIn: (currency) => `Prices in ${currency}, without tax`,
  needed: "Needed, where",
  yours: "yours",
  ours: "ours",
  oneIs: (unit, quantity) => `one ${unit} is ${quantity}`,
  fillIn: "Prices, dates and conditions can be filled in here, without an account:",
  foot: (number) => `This is no order. Please name ${number} in your answer.`,
  mail: {
    subject: (number, company) => `Request for quotation ${number} from ${company}`,
    body: (m) =>
      `${m.greeting}\n\nplease tell us your price and date for ${m.lines === 1 ? "one line" : `${m.lines} lines`} by ${m.by}.\nYou can fill them in here, without an account:\n\n${m.link}\n\n${m.note}The same is attached as a paper. This is no order.\n\nWith kind regards\n${m.asker}\n${m.function}`,
  },
  page: {
    asks: (company, supplier) => `${company} asks ${supplier}`,
    pleaseBy: "Please answer by",
    isContact: (name) => `${name} is your contact.`,
    neededAt: (day, store) => `needed ${day} at ${store}`,
    price: (currency, unit) => `Price in ${currency} per ${unit}`,
    from: (unit) => `From how many (${unit})`,
    anyQuantity: "empty: any quantity",
    days: "Days to deliver",
    note: "A note",
    holdFrom: "Prices hold from",
    until: "until",
    conditions: "Conditions, if any",
    leaveEmpty: (example) => `Write figures like ${example}. Leave a price empty where you cannot supply the line.`,
    review: "Check what we understand",
    reading: "Reading…",
    decline: "We cannot supply any of this",
    understood: "This is how we understand you. Nothing is sent yet.",
    send: "Send it so",
    sending: "Sending…",
    change: "Change it",
    stands: "Thank you. This is your answer; you can correct it until we use it.",
    declined: "You told us that you cannot supply any of this. You can still change that.",
    correct: "Correct it",
    per: "per",
    fromSo: (quantity) => `from ${quantity}`,
    inDays: (n) => (n === 1 ? "in 1 day" : `in ${n} days`),
    noPrice: "no price",
    answered: (at) => `Answered ${at}.`,
    ended: "This request has ended, and takes no answers any more.",
    used: (name) => `We use a price of yours already, so it is fixed. Call ${name} where it must change.`,
  },
  faults: {
    look: "Some fields need another look; they are marked.",
    number: (typed, example) => `“${typed}” is not a number. Write it like ${example}.`,
    places: (n) => `At most ${n} places.`,
    negative: "This cannot be negative.",
    large: "This is surely a slip.",
    days: "Whole days, at most 730.",
    none: "Give a price for one line at least, or say that you cannot supply any of it.",
    foreign: "One of the lines does not belong to this request. Load the page again.",
    twice: "A line stands twice in this answer. Load the page again.",
    backwards: "The last day lies before the first.",
    passed: "This day has passed.",
    far: "At most three years ahead.",
    changed: "What we asked for changed meanwhile. Please look at it once more.",
  },
};

const de: QuoteWords = {
  title: "Preisanfrage",
  contact: "Ihr Kontakt bei uns",
  answerBy: "Bitte antworten Sie bis",
  pricesIn: (currency) => `Preise in ${currency}, ohne Steuer`,
  needed: "Benötigt, wo",
  yours: "Ihre Nr.",
  ours: "unsere Nr.",
  oneIs: (unit, quantity) => `1 ${unit} = ${quantity}`,
  fillIn: "Preise, Termine und Bedingungen können Sie hier ohne Konto eintragen:",
  foot: (number) => `Dies ist keine Bestellung. Bitte nennen Sie ${number} in Ihrer Antwort.`,
  mail: {
    subject: (number, company) => `Preisanfrage ${number} von ${company}`,
    body: (m) =>
      `${m.greeting}\n\nbitte nennen Sie uns bis ${m.by} Preis und Termin für ${m.lines === 1 ? "eine Position" : `${m.lines} Positionen`}.\nSie können beides hier ohne Konto eintragen:\n\n${m.link}\n\n${m.note}Dasselbe liegt als Papier bei. Dies ist keine Bestellung.\n\nMit freundlichen Grüßen\n${m.asker}\n${m.function}`,
  },
  page: {
    asks: (company, supplier) => `${company} fragt ${supplier}`,
    pleaseBy: "Bitte antworten Sie bis",
    isContact: (name) => `${name} ist Ihr Kontakt.`,
    neededAt: (day, store) => `benötigt ${day} in ${store}`,
    price: (currency, unit) => `Preis in ${currency} je ${unit}`,
    from: (unit) => `Ab Menge (${unit})`,
    anyQuantity: "leer: jede Menge",
    days: "Liefertage",
    note: "Bemerkung",
    holdFrom: "Preise gelten ab",
    until: "bis",
    conditions: "Bedingungen, falls nötig",
    leaveEmpty: (example) =>
      `Schreiben Sie Zahlen wie ${example}. Lassen Sie den Preis leer, wo Sie nicht liefern können.`,
    review: "Prüfen, was wir verstehen",
    reading: "Wird gelesen…",
    decline: "Wir können nichts davon liefern",
    understood: "So verstehen wir Sie. Noch ist nichts gesendet.",
    send: "So senden",
    sending: "Wird gesendet…",
    change: "Ändern",
    stands: "Danke. Das ist Ihre Antwort; bis wir sie verwenden, können Sie sie berichtigen.",
    declined: "Sie haben uns gesagt, dass Sie nichts davon liefern können. Das können Sie noch ändern.",
    correct: "Berichtigen",
    per: "je",
    fromSo: (quantity) => `ab ${quantity}`,
    inDays: (n) => (n === 1 ? "in 1 Tag" : `in ${n} Tagen`),
    noPrice: "kein Preis",
    answered: (at) => `Beantwortet ${at}.`,
    ended: "Diese Anfrage ist beendet und nimmt keine Antworten mehr an.",
    used: (name) =>
      `Wir verwenden bereits einen Ihrer Preise; er steht fest. Rufen Sie ${name} an, wenn sich etwas ändern muss.`,
  },
  faults: {
    look: "Einige Felder müssen Sie noch einmal ansehen; sie sind markiert.",
    number: (typed, example) => `„${typed}“ ist keine Zahl. Schreiben Sie sie wie ${example}.`,
    places: (n) => `Höchstens ${n} Stellen.`,
    negative: "Das darf nicht negativ sein.",
    large: "Das ist sicher ein Versehen.",
    days: "Ganze Tage, höchstens 730.",
    none: "Nennen Sie für mindestens eine Position einen Preis, oder sagen Sie, dass Sie nichts liefern können.",
    foreign: "Eine Position gehört nicht zu dieser Anfrage. Laden Sie die Seite neu.",
    twice: "Eine Position steht zweimal in dieser Antwort. Laden Sie die Seite neu.",
    backwards: "Der letzte Tag liegt vor dem ersten.",
    passed: "Dieser Tag ist vorbei.",
    far: "Höchstens drei Jahre voraus.",
    changed: "Unsere Anfrage hat sich inzwischen geändert. Bitte sehen Sie sie noch einmal an.",
  },
};

const fr: QuoteWords = {
  title: "Demande de prix",
  contact: "Votre contact chez nous",
  answerBy: "Réponse souhaitée pour le",
  pricesIn: (currency) => `Prix en ${currency}, hors taxes`,
  needed: "Besoin, lieu",
  yours: "votre réf.",
  ours: "notre réf.",
  oneIs: (unit, quantity) => `1 ${unit} = ${quantity}`,
  fillIn: "Prix, dates et conditions peuvent être saisis ici, sans compte :",
  foot: (number) => `Ceci n’est pas une commande. Merci de rappeler ${number} dans votre réponse.`,
  mail: {
    subject: (number, company) => `Demande de prix ${number} de ${company}`,
    body: (m) =>
      `${m.greeting}\n\nmerci de nous indiquer pour le ${m.by} votre prix et votre délai pour ${m.lines === 1 ? "une ligne" : `${m.lines} lignes`}.\nVous pouvez les saisir ici, sans compte :\n\n${m.link}\n\n${m.note}La même demande est jointe en document. Ceci n’est pas une commande.\n\nCordialement\n${m.asker}\n${m.function}`,
  },
  page: {
    asks: (company, supplier) => `${company} demande à ${supplier}`,
    pleaseBy: "Merci de répondre pour le",
    isContact: (name) => `${name} est votre contact.`,
    neededAt: (day, store) => `besoin le ${day} à ${store}`,
    price: (currency, unit) => `Prix en ${currency} par ${unit}`,
    from: (unit) => `À partir de (${unit})`,
    anyQuantity: "vide : toute quantité",
    days: "Délai en jours",
    note: "Remarque",
    holdFrom: "Prix valables du",
    until: "au",
    conditions: "Conditions éventuelles",
    leaveEmpty: (example) =>
      `Écrivez les nombres ainsi : ${example}. Laissez le prix vide si vous ne pouvez pas livrer.`,
    review: "Vérifier ce que nous comprenons",
    reading: "Lecture…",
    decline: "Nous ne pouvons rien livrer de tout cela",
    understood: "Voici comment nous vous comprenons. Rien n’est encore envoyé.",
    send: "Envoyer ainsi",
    sending: "Envoi…",
    change: "Modifier",
    stands: "Merci. Voici votre réponse ; vous pouvez la corriger tant que nous ne l’utilisons pas.",
    declined: "Vous nous avez dit ne rien pouvoir livrer de tout cela. Vous pouvez encore changer d’avis.",
    correct: "Corriger",
    per: "par",
    fromSo: (quantity) => `à partir de ${quantity}`,
    inDays: (n) => (n === 1 ? "en 1 jour" : `en ${n} jours`),
    noPrice: "pas de prix",
    answered: (at) => `Répondu ${at}.`,
    ended: "Cette demande est close et n’accepte plus de réponses.",
    used: (name) => `Nous utilisons déjà un de vos prix, il est donc fixé. Appelez ${name} s’il doit changer.`,
  },
  faults: {
    look: "Certains champs sont à revoir ; ils sont marqués.",
    number: (typed, example) => `« ${typed} » n’est pas un nombre. Écrivez-le ainsi : ${example}.`,
    places: (n) => `Au plus ${n} décimales.`,
    negative: "Cela ne peut pas être négatif.",
    large: "C’est sûrement une erreur.",
    days: "Jours entiers, au plus 730.",
    none: "Indiquez un prix pour une ligne au moins, ou dites que vous ne pouvez rien livrer.",
    foreign: "Une ligne n’appartient pas à cette demande. Rechargez la page.",
    twice: "Une ligne figure deux fois dans cette réponse. Rechargez la page.",
    backwards: "Le dernier jour précède le premier.",
    passed: "Ce jour est passé.",
    far: "Au plus trois ans à l’avance.",
    changed: "Notre demande a changé entre-temps. Merci de la revoir.",
  },
};

const nl: QuoteWords = {
  title: "Prijsaanvraag",
  contact: "Uw contact bij ons",
  answerBy: "Graag antwoord uiterlijk",
  pricesIn: (currency) => `Prijzen in ${currency}, zonder btw`,
  needed: "Nodig, waar",
  yours: "uw nr.",
  ours: "ons nr.",
  oneIs: (unit, quantity) => `1 ${unit} = ${quantity}`,
  fillIn: "Prijzen, data en voorwaarden kunt u hier zonder account invullen:",
  foot: (number) => `Dit is geen bestelling. Vermeld ${number} in uw antwoord.`,
  mail: {
    subject: (number, company) => `Prijsaanvraag ${number} van ${company}`,
    body: (m) =>
      `${m.greeting}\n\nwilt u ons vóór ${m.by} prijs en levertijd geven voor ${m.lines === 1 ? "één regel" : `${m.lines} regels`}?\nU kunt ze hier zonder account invullen:\n\n${m.link}\n\n${m.note}Hetzelfde is als papier bijgevoegd. Dit is geen bestelling.\n\nMet vriendelijke groet\n${m.asker}\n${m.function}`,
  },
  page: {
    asks: (company, supplier) => `${company} vraagt ${supplier}`,
    pleaseBy: "Graag antwoord uiterlijk",
    isContact: (name) => `${name} is uw contact.`,
    neededAt: (day, store) => `nodig ${day} in ${store}`,
    price: (currency, unit) => `Prijs in ${currency} per ${unit}`,
    from: (unit) => `Vanaf aantal (${unit})`,
    anyQuantity: "leeg: elk aantal",
    days: "Levertijd in dagen",
    note: "Opmerking",
    holdFrom: "Prijzen gelden van",
    until: "tot en met",
    conditions: "Eventuele voorwaarden",
    leaveEmpty: (example) => `Schrijf getallen als ${example}. Laat de prijs leeg waar u niet kunt leveren.`,
    review: "Nakijken wat wij begrijpen",
    reading: "Lezen…",
    decline: "Wij kunnen hier niets van leveren",
    understood: "Zo begrijpen wij u. Er is nog niets verzonden.",
    send: "Zo versturen",
    sending: "Versturen…",
    change: "Wijzigen",
    stands: "Dank u. Dit is uw antwoord; u kunt het verbeteren tot wij het gebruiken.",
    declined: "U liet weten dat u hier niets van kunt leveren. Dat kunt u nog wijzigen.",
    correct: "Verbeteren",
    per: "per",
    fromSo: (quantity) => `vanaf ${quantity}`,
    inDays: (n) => (n === 1 ? "in 1 dag" : `in ${n} dagen`),
    noPrice: "geen prijs",
    answered: (at) => `Beantwoord ${at}.`,
    ended: "Deze aanvraag is gesloten en neemt geen antwoorden meer aan.",
    used: (name) => `Wij gebruiken al een prijs van u; die staat vast. Bel ${name} als er iets moet veranderen.`,
  },
  faults: {
    look: "Enkele velden moeten nog eens bekeken worden; ze zijn gemarkeerd.",
    number: (typed, example) => `“${typed}” is geen getal. Schrijf het als ${example}.`,
    places: (n) => `Hoogstens ${n} decimalen.`,
    negative: "Dit kan niet negatief zijn.",
    large: "Dit is vast een vergissing.",
    days: "Hele dagen, hoogstens 730.",
    none: "Geef voor minstens één regel een prijs, of zeg dat u niets kunt leveren.",
    foreign: "Een regel hoort niet bij deze aanvraag. Laad de pagina opnieuw.",
    twice: "Een regel staat twee keer in dit antwoord. Laad de pagina opnieuw.",
    backwards: "De laatste dag ligt vóór de eerste.",
    passed: "Deze dag is voorbij.",
    far: "Hoogstens drie jaar vooruit.",
    changed: "Onze aanvraag is intussen gewijzigd. Kijk er nog eens naar.",
  },
};

const WORDS: Record<Language, QuoteWords> = { en, de, fr, nl };

export const quoteWords = (language: Language): QuoteWords => WORDS[language];
