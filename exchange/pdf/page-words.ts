import type { Language } from "../../core/orders/papers";

/** What the private page of an order says beside what stands on its paper. */
export interface PageWords {
  states: Record<string, string>;
  fromTo: (from: string, to: string, day: string) => string;
  lines: string;
  pdf: string;
  ubl: string;
  files: string;
}

export const PAGE_WORDS: Record<Language, PageWords> = {
  en: {
    states: {
      "Part in": "a part of it has arrived",
      "All in": "all of it has arrived",
      "Closed short": "closed: nothing more is expected",
      Cancelled: "cancelled",
    },
    fromTo: (from, to, day) => `${from} to ${to}, ${day}`,
    lines: "Lines",
    pdf: "The order as PDF",
    ubl: "UBL file",
    files: "Sent with it",
  },
  de: {
    states: {
      "Part in": "ein Teil ist eingetroffen",
      "All in": "alles ist eingetroffen",
      "Closed short": "abgeschlossen: nichts mehr wird erwartet",
      Cancelled: "storniert",
    },
    fromTo: (from, to, day) => `${from} an ${to}, ${day}`,
    lines: "Positionen",
    pdf: "Die Bestellung als PDF",
    ubl: "UBL-Datei",
    files: "Mitgesandt",
  },
  fr: {
    states: {
      "Part in": "une partie est arrivée",
      "All in": "tout est arrivé",
      "Closed short": "close : plus rien n’est attendu",
      Cancelled: "annulée",
    },
    fromTo: (from, to, day) => `${from} à ${to}, ${day}`,
    lines: "Lignes",
    pdf: "La commande en PDF",
    ubl: "Fichier UBL",
    files: "Envoyé avec",
  },
  nl: {
    states: {
      "Part in": "een deel is aangekomen",
      "All in": "alles is aangekomen",
      "Closed short": "afgesloten: er wordt niets meer verwacht",
      Cancelled: "geannuleerd",
    },
    fromTo: (from, to, day) => `${from} aan ${to}, ${day}`,
    lines: "Regels",
    pdf: "De bestelling als PDF",
    ubl: "UBL-bestand",
    files: "Meegestuurd",
  },
};
