import type { Language } from "../../core/orders/papers";

/** What the private page of an order says where its supplier answers, in one language, and what is wrong with an answer. */
export interface AnswerWords {
  title: string;
  /** For the one act that confirms everything. */
  all: string;
  differs: string;
  name: string;
  remark: string;
  asOrdered: string;
  change: string;
  leave: string;
  quantity: (unit: string) => string;
  day: string;
  another: string;
  price: (currency: string, unit: string) => string;
  instead: string;
  charge: (currency: string) => string;
  chargeFor: string;
  lineRemark: string;
  cannot: string;
  send: string;
  sending: string;
  thanks: string;
  said: (at: string) => string;
  states: Record<"waits" | "taken" | "refused" | "countered" | "replaced", string>;
  /** What we propose in the place of what they said, and the button that agrees to it. */
  propose: (what: string) => string;
  agree: string;
  so: (quantity: string, day: string) => string;
  at: (price: string) => string;
  insteadOf: (words: string) => string;
  chargeOf: (amount: string, words: string) => string;
  faults: AnswerFaults;
}

/** Why an answer cannot be taken as it is typed. */
export interface AnswerFaults {
  look: string;
  number: string;
  negative: string;
  nothing: string;
  noDay: string;
  chargeFor: string;
  passed: string;
  sameDay: string;
  tooMuch: (open: string) => string;
  notOpen: string;
  notWaiting: string;
  version: (theirs: number, ours: number | null) => string;
  twice: string;
  empty: string;
  already: string;
  tooMany: string;
}

const en: AnswerWords = {
  title: "Your answer",
  all: "Confirm all as ordered",
  differs: "Something differs",
  name: "Your name",
  remark: "A remark on all of it",
  asOrdered: "as ordered",
  change: "Change",
  leave: "Leave it as ordered",
  quantity: (unit) => `How many (${unit})`,
  day: "On which day",
  another: "Split: another part",
  price: (currency, unit) => `Price in ${currency} per ${unit}`,
  instead: "Another item in its place",
  charge: (currency) => `An added charge, in ${currency}`,
  chargeFor: "What it is for",
  lineRemark: "A remark",
  cannot: "We cannot supply this",
  send: "Send the answer",
  sending: "Sending…",
  thanks: "Thank you. We have your answer.",
  said: (at) => `You answered ${at}`,
  states: {
    waits: "we are looking at it",
    taken: "agreed",
    refused: "not agreed",
    countered: "we propose something else",
    replaced: "you said something else since",
  },
  propose: (what) => `Our proposal: ${what}`,
  agree: "Agree to it",
  so: (quantity, day) => `${quantity} on ${day}`,
  at: (price) => `at ${price}`,
  insteadOf: (words) => `instead: ${words}`,
  chargeOf: (amount, words) => `a charge of ${amount} for ${words}`,
  faults: {
    look: "Some fields need another look; they are marked.",
    number: "This is not a number.",
    negative: "This cannot be below zero.",
    nothing: "A part of a delivery is above zero.",
    noDay: "Say on which day; write it as a date that exists.",
    chargeFor: "Say what the charge is for.",
    passed: "This day has passed.",
    sameDay: "Two parts come on the same day: write them as one.",
    tooMuch: (open) => `This is more than twice the ${open} that are open.`,
    notOpen: "Nothing of this line is to come any more.",
    notWaiting: "This order does not wait for an answer any more.",
    version: (theirs, ours) =>
      `This speaks of version ${theirs}; version ${ours ?? "–"} holds now. Look at that one first.`,
    twice: "A line stands here twice.",
    empty: "This says nothing of any line.",
    already: "We have this answer already.",
    tooMany: "You have answered very often today. Please call us.",
  },
};

const de: AnswerWords = {
  title: "Ihre Antwort",
  all: "Alles wie bestellt bestätigen",
  differs: "Etwas weicht ab",
  name: "Ihr Name",
  remark: "Eine Bemerkung zum Ganzen",
  asOrdered: "wie bestellt",
  change: "Ändern",
  leave: "Wie bestellt lassen",
  quantity: (unit) => `Wie viele (${unit})`,
  day: "An welchem Tag",
  another: "Teilen: ein weiterer Teil",
  price: (currency, unit) => `Preis in ${currency} je ${unit}`,
  instead: "Ein anderer Artikel an seiner Stelle",
  charge: (currency) => `Ein Zuschlag, in ${currency}`,
  chargeFor: "Wofür er ist",
  lineRemark: "Eine Bemerkung",
  cannot: "Das können wir nicht liefern",
  send: "Antwort senden",
  sending: "Wird gesendet…",
  thanks: "Danke. Ihre Antwort ist da.",
  said: (at) => `Sie haben ${at} geantwortet`,
  states: {
    waits: "wird angesehen",
    taken: "vereinbart",
    refused: "nicht vereinbart",
    countered: "wir schlagen etwas anderes vor",
    replaced: "Sie haben seither etwas anderes gesagt",
  },
  propose: (what) => `Unser Vorschlag: ${what}`,
  agree: "Zustimmen",
  so: (quantity, day) => `${quantity} am ${day}`,
  at: (price) => `zu ${price}`,
  insteadOf: (words) => `stattdessen: ${words}`,
  chargeOf: (amount, words) => `ein Zuschlag von ${amount} für ${words}`,
  faults: {
    look: "Einige Felder sind noch einmal anzusehen; sie sind bezeichnet.",
    number: "Das ist keine Zahl.",
    negative: "Das kann nicht unter null sein.",
    nothing: "Ein Teil einer Lieferung ist größer als null.",
    noDay: "Bitte den Tag angeben, als Datum, das es gibt.",
    chargeFor: "Bitte sagen, wofür der Zuschlag ist.",
    passed: "Dieser Tag ist vorbei.",
    sameDay: "Zwei Teile kommen am selben Tag: bitte als einen schreiben.",
    tooMuch: (open) => `Das ist mehr als das Doppelte der offenen ${open}.`,
    notOpen: "Von dieser Position ist nichts mehr zu liefern.",
    notWaiting: "Diese Bestellung wartet auf keine Antwort mehr.",
    version: (theirs, ours) =>
      `Das betrifft Fassung ${theirs}; jetzt gilt Fassung ${ours ?? "–"}. Bitte zuerst diese ansehen.`,
    twice: "Eine Position steht hier zweimal.",
    empty: "Das sagt zu keiner Position etwas.",
    already: "Diese Antwort haben wir schon.",
    tooMany: "Sie haben heute sehr oft geantwortet. Bitte rufen Sie uns an.",
  },
};

const fr: AnswerWords = {
  title: "Votre réponse",
  all: "Tout confirmer comme commandé",
  differs: "Quelque chose diffère",
  name: "Votre nom",
  remark: "Une remarque sur l’ensemble",
  asOrdered: "comme commandé",
  change: "Modifier",
  leave: "Laisser comme commandé",
  quantity: (unit) => `Combien (${unit})`,
  day: "Quel jour",
  another: "Partager : une autre partie",
  price: (currency, unit) => `Prix en ${currency} par ${unit}`,
  instead: "Un autre article à sa place",
  charge: (currency) => `Un supplément, en ${currency}`,
  chargeFor: "Pour quoi",
  lineRemark: "Une remarque",
  cannot: "Nous ne pouvons pas le livrer",
  send: "Envoyer la réponse",
  sending: "Envoi…",
  thanks: "Merci. Nous avons votre réponse.",
  said: (at) => `Vous avez répondu ${at}`,
  states: {
    waits: "nous l’examinons",
    taken: "convenu",
    refused: "pas convenu",
    countered: "nous proposons autre chose",
    replaced: "vous avez dit autre chose depuis",
  },
  propose: (what) => `Notre proposition : ${what}`,
  agree: "Accepter",
  so: (quantity, day) => `${quantity} le ${day}`,
  at: (price) => `à ${price}`,
  insteadOf: (words) => `à la place : ${words}`,
  chargeOf: (amount, words) => `un supplément de ${amount} pour ${words}`,
  faults: {
    look: "Quelques champs sont à revoir ; ils sont marqués.",
    number: "Ce n’est pas un nombre.",
    negative: "Cela ne peut pas être négatif.",
    nothing: "Une partie de livraison est supérieure à zéro.",
    noDay: "Dites quel jour, par une date qui existe.",
    chargeFor: "Dites pour quoi est le supplément.",
    passed: "Ce jour est passé.",
    sameDay: "Deux parties arrivent le même jour : écrivez-en une seule.",
    tooMuch: (open) => `C’est plus du double des ${open} qui restent à livrer.`,
    notOpen: "De cette ligne, plus rien n’est à livrer.",
    notWaiting: "Cette commande n’attend plus de réponse.",
    version: (theirs, ours) =>
      `Cela concerne la version ${theirs} ; la version ${ours ?? "–"} vaut maintenant. Regardez-la d’abord.`,
    twice: "Une ligne figure ici deux fois.",
    empty: "Cela ne dit rien d’aucune ligne.",
    already: "Nous avons déjà cette réponse.",
    tooMany: "Vous avez répondu très souvent aujourd’hui. Appelez-nous.",
  },
};

const nl: AnswerWords = {
  title: "Uw antwoord",
  all: "Alles bevestigen zoals besteld",
  differs: "Er wijkt iets af",
  name: "Uw naam",
  remark: "Een opmerking bij het geheel",
  asOrdered: "zoals besteld",
  change: "Wijzigen",
  leave: "Laten zoals besteld",
  quantity: (unit) => `Hoeveel (${unit})`,
  day: "Op welke dag",
  another: "Splitsen: nog een deel",
  price: (currency, unit) => `Prijs in ${currency} per ${unit}`,
  instead: "Een ander artikel in plaats ervan",
  charge: (currency) => `Een toeslag, in ${currency}`,
  chargeFor: "Waarvoor die is",
  lineRemark: "Een opmerking",
  cannot: "Dit kunnen wij niet leveren",
  send: "Antwoord versturen",
  sending: "Wordt verstuurd…",
  thanks: "Dank u. Wij hebben uw antwoord.",
  said: (at) => `U hebt ${at} geantwoord`,
  states: {
    waits: "wij bekijken het",
    taken: "afgesproken",
    refused: "niet afgesproken",
    countered: "wij stellen iets anders voor",
    replaced: "u hebt sindsdien iets anders gezegd",
  },
  propose: (what) => `Ons voorstel: ${what}`,
  agree: "Akkoord",
  so: (quantity, day) => `${quantity} op ${day}`,
  at: (price) => `voor ${price}`,
  insteadOf: (words) => `in plaats ervan: ${words}`,
  chargeOf: (amount, words) => `een toeslag van ${amount} voor ${words}`,
  faults: {
    look: "Enkele velden moeten nog eens worden bekeken; ze zijn gemerkt.",
    number: "Dit is geen getal.",
    negative: "Dit kan niet onder nul zijn.",
    nothing: "Een deel van een levering is meer dan nul.",
    noDay: "Zeg op welke dag, als een datum die bestaat.",
    chargeFor: "Zeg waarvoor de toeslag is.",
    passed: "Deze dag is voorbij.",
    sameDay: "Twee delen komen op dezelfde dag: schrijf ze als één.",
    tooMuch: (open) => `Dit is meer dan het dubbele van de ${open} die openstaan.`,
    notOpen: "Van deze regel komt niets meer.",
    notWaiting: "Deze bestelling wacht niet meer op een antwoord.",
    version: (theirs, ours) => `Dit gaat over versie ${theirs}; nu geldt versie ${ours ?? "–"}. Bekijk die eerst.`,
    twice: "Een regel staat hier tweemaal.",
    empty: "Dit zegt niets over een regel.",
    already: "Dit antwoord hebben wij al.",
    tooMany: "U hebt vandaag heel vaak geantwoord. Bel ons.",
  },
};

const WORDS: Record<Language, AnswerWords> = { en, de, fr, nl };
export const answerWords = (language: Language): AnswerWords => WORDS[language];
