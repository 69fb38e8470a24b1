import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import type { AgreementHead, AgreementItem } from "../../../server/queries/consigned/agreement";

/** A price as it is typed: from a day, or from the first day on. */
export interface PriceText {
  day: string;
  price: string;
}
export interface ItemText {
  key: number;
  item: number | null;
  text: string;
  unit: string;
  least: string;
  most: string;
  pack: string;
  refillDays: string;
  prices: PriceText[];
}
/** A draft agreement as it is typed: kept on the device until it is kept in the house. */
export interface DraftText {
  starts: string;
  ends: string;
  oursAfter: string;
  first: string;
  settles: string;
  bears: string;
  place: string;
  binsFrom: string;
  binsTo: string;
  note: string;
  items: ItemText[];
}

/** The draft as the house has it. The first price that holds from the first day on needs no day. */
export const draftText = (a: AgreementHead, items: readonly AgreementItem[]): DraftText => ({
  starts: a.starts,
  ends: a.ends,
  oursAfter: a.oursAfter === null ? "" : String(a.oursAfter),
  first: a.first,
  settles: a.settles,
  bears: a.bears,
  place: a.place,
  binsFrom: a.binsFrom,
  binsTo: a.binsTo,
  note: a.note,
  items: items.map((i, key) => ({
    key,
    item: i.item,
    text: i.name,
    unit: i.unit,
    least: quantityText(i.least),
    most: quantityText(i.most),
    pack: quantityText(i.pack),
    refillDays: String(i.refillDays),
    prices: i.prices.map((p) => ({ day: p.day === a.starts ? "" : p.day, price: priceText(p.price) })),
  })),
});

export const newItem = (d: DraftText): ItemText => ({
  key: Math.max(-1, ...d.items.map((i) => i.key)) + 1,
  item: null,
  text: "",
  unit: "",
  least: "0",
  most: "",
  pack: "1",
  refillDays: "7",
  prices: [{ day: "", price: "" }],
});

export const setItem = (d: DraftText, key: number, part: Partial<ItemText>): DraftText => ({
  ...d,
  items: d.items.map((i) => (i.key === key ? { ...i, ...part } : i)),
});

export const setPrice = (d: DraftText, key: number, at: number, part: Partial<PriceText>): DraftText =>
  setItem(d, key, {
    prices: d.items.find((i) => i.key === key)!.prices.map((p, n) => (n === at ? { ...p, ...part } : p)),
  });

/** What is sent: rows of which nothing was typed are left out. */
export const sentDraft = (d: DraftText) => ({
  ...d,
  items: d.items
    .filter((i) => i.item !== null || i.text.trim() !== "")
    .map(({ key: _, text: __, unit: ___, ...i }) => ({
      ...i,
      item: i.item ?? 0,
      prices: i.prices.filter((p) => p.price.trim() !== ""),
    })),
});

/** Where in what is sent a row stands. */
export const sentRow = (d: DraftText, key: number): number =>
  d.items.filter((i) => i.item !== null || i.text.trim() !== "").findIndex((i) => i.key === key);
