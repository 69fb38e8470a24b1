import type { Language } from "../../core/orders/papers";
import type { AsideReason, Awaits } from "../../core/receiving/set-aside";

/** What stands on papers that go with goods, in one language. */
export interface GoodsWords {
  receipt: string;
  goodsReturn: string;
  order: string;
  from: string;
  counted: string;
  deliveryNote: string;
  intoStock: string;
  rack: string;
  why: string;
  lot: (code: string) => string;
  keepsUntil: (day: string) => string;
  over: (quantity: string) => string;
  ours: string;
  yours: string;
  setAside: string;
  reasons: Record<AsideReason, string>;
  awaits: Record<Awaits, string>;
  foot: (number: string) => string;
}

const english: GoodsWords = {
  receipt: "Goods receipt",
  goodsReturn: "Return of goods",
  order: "Order",
  from: "From",
  counted: "Counted by",
  deliveryNote: "Delivery note",
  intoStock: "Into stock",
  rack: "Bin",
  why: "Why",
  lot: (code) => `lot ${code}`,
  keepsUntil: (day) => `keeps until ${day}`,
  over: (quantity) => `${quantity} over`,
  ours: "ours",
  yours: "yours",
  setAside: "Set aside, not taken in",
  reasons: {
    over: "more than was ordered",
    early: "before its day",
    damaged: "damaged",
    "wrong goods": "wrong goods",
    "spoilt or expired": "spoilt or expired",
    "papers missing": "papers missing",
  },
  awaits: {
    replacement: "We await goods instead.",
    credit: "We await your credit note.",
    nothing: "Nothing is awaited for it.",
  },
  foot: (number) => `Please name ${number} in your answer.`,
};

const german: GoodsWords = {
  receipt: "Wareneingang",
  goodsReturn: "Rücksendung",
  order: "Bestellung",
  from: "Von",
  counted: "Gezählt von",
  deliveryNote: "Lieferschein",
  intoStock: "Ins Lager",
  rack: "Platz",
  why: "Grund",
  lot: (code) => `Charge ${code}`,
  keepsUntil: (day) => `haltbar bis ${day}`,
  over: (quantity) => `${quantity} mehr`,
  ours: "unsere",
  yours: "Ihre",
  setAside: "Zurückgestellt, nicht übernommen",
  reasons: {
    over: "mehr als bestellt",
    early: "vor der Zeit",
    damaged: "beschädigt",
    "wrong goods": "falsche Ware",
    "spoilt or expired": "verdorben oder abgelaufen",
    "papers missing": "Papiere fehlen",
  },
  awaits: {
    replacement: "Wir erwarten Ersatz.",
    credit: "Wir erwarten Ihre Gutschrift.",
    nothing: "Dafür wird nichts erwartet.",
  },
  foot: (number) => `Bitte nennen Sie ${number} in Ihrer Antwort.`,
};

const french: GoodsWords = {
  receipt: "Réception de marchandises",
  goodsReturn: "Retour de marchandises",
  order: "Commande",
  from: "De",
  counted: "Compté par",
  deliveryNote: "Bon de livraison",
  intoStock: "En stock",
  rack: "Place",
  why: "Motif",
  lot: (code) => `lot ${code}`,
  keepsUntil: (day) => `se garde jusqu’au ${day}`,
  over: (quantity) => `${quantity} de plus`,
  ours: "la nôtre",
  yours: "la vôtre",
  setAside: "Mis de côté, non repris",
  reasons: {
    over: "plus que commandé",
    early: "avant la date",
    damaged: "endommagé",
    "wrong goods": "mauvaise marchandise",
    "spoilt or expired": "avarié ou périmé",
    "papers missing": "papiers manquants",
  },
  awaits: {
    replacement: "Nous attendons un remplacement.",
    credit: "Nous attendons votre avoir.",
    nothing: "Rien n’est attendu en échange.",
  },
  foot: (number) => `Merci de rappeler ${number} dans votre réponse.`,
};

const dutch: GoodsWords = {
  receipt: "Goederenontvangst",
  goodsReturn: "Retourzending",
  order: "Bestelling",
  from: "Van",
  counted: "Geteld door",
  deliveryNote: "Pakbon",
  intoStock: "In voorraad",
  rack: "Plaats",
  why: "Reden",
  lot: (code) => `partij ${code}`,
  keepsUntil: (day) => `houdbaar tot ${day}`,
  over: (quantity) => `${quantity} meer`,
  ours: "ons",
  yours: "uw",
  setAside: "Apart gezet, niet overgenomen",
  reasons: {
    over: "meer dan besteld",
    early: "voor de dag",
    damaged: "beschadigd",
    "wrong goods": "verkeerde goederen",
    "spoilt or expired": "bedorven of verlopen",
    "papers missing": "papieren ontbreken",
  },
  awaits: {
    replacement: "Wij verwachten vervanging.",
    credit: "Wij verwachten uw creditnota.",
    nothing: "Er wordt niets voor verwacht.",
  },
  foot: (number) => `Vermeld ${number} in uw antwoord.`,
};

const WORDS: Record<Language, GoodsWords> = { en: english, de: german, fr: french, nl: dutch };
export const goodsWords = (language: Language): GoodsWords => WORDS[language];
