import type { Language } from "../../core/orders/papers";
import type { StockPaper } from "../../core/stock/paper";

/** What stands on papers of the stock, in one language. */
interface StockWords {
  titles: Record<StockPaper | "stow list", string>;
  store: string;
  by: string;
  job: string;
  from: string;
  to: string;
  dock: string;
  receivedBy: string;
}

const WORDS: Record<Language, StockWords> = {
  en: {
    titles: {
      "stow list": "Stow list",
      stow: "Stowed",
      move: "Moved",
      issue: "Issue of goods",
      "from job": "Goods given back",
      "write-off": "Written off",
      count: "Stock count",
      "theirs out": "Returned to its owner",
      "theirs lost": "Loss of consigned goods",
      "theirs found": "Find of consigned goods",
    },
    store: "Store",
    by: "By",
    job: "For",
    from: "From bin",
    to: "Into bin",
    dock: "dock",
    receivedBy: "Received by",
  },
  de: {
    titles: {
      "stow list": "Einlagerliste",
      stow: "Eingelagert",
      move: "Umgelagert",
      issue: "Warenausgabe",
      "from job": "Rückgabe",
      "write-off": "Ausgebucht",
      count: "Bestandszählung",
      "theirs out": "Rückgabe an den Eigentümer",
      "theirs lost": "Verlust von Konsignationsware",
      "theirs found": "Fund von Konsignationsware",
    },
    store: "Lager",
    by: "Von",
    job: "Für",
    from: "Von Platz",
    to: "Auf Platz",
    dock: "Rampe",
    receivedBy: "Erhalten",
  },
  fr: {
    titles: {
      "stow list": "Liste de rangement",
      stow: "Rangé",
      move: "Déplacé",
      issue: "Sortie de marchandises",
      "from job": "Marchandises rendues",
      "write-off": "Sorti des stocks",
      count: "Comptage du stock",
      "theirs out": "Retour au propriétaire",
      "theirs lost": "Perte de marchandises en consignation",
      "theirs found": "Marchandises en consignation retrouvées",
    },
    store: "Magasin",
    by: "Par",
    job: "Pour",
    from: "De la place",
    to: "À la place",
    dock: "quai",
    receivedBy: "Reçu par",
  },
  nl: {
    titles: {
      "stow list": "Opberglijst",
      stow: "Opgeborgen",
      move: "Verplaatst",
      issue: "Uitgifte",
      "from job": "Teruggegeven",
      "write-off": "Afgeschreven",
      count: "Voorraadtelling",
      "theirs out": "Terug naar de eigenaar",
      "theirs lost": "Verlies van consignatiegoederen",
      "theirs found": "Gevonden consignatiegoederen",
    },
    store: "Magazijn",
    by: "Door",
    job: "Voor",
    from: "Van plaats",
    to: "Naar plaats",
    dock: "kade",
    receivedBy: "Ontvangen door",
  },
};
export const stockWords = (language: Language): StockWords => WORDS[language];
