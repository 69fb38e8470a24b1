import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import type { Scanned } from "../../../exchange/gs1/scan";
import { gtinForms } from "../../../exchange/gs1/scan";
import type { ToRegister } from "../../../server/queries/consigned/to-register";

/** What is typed of one part of a delivery. */
export interface DeliveryPart {
  item: number;
  quantity: string;
  lot: string;
  expires: string;
  bin: string;
}
/** A delivery as it is typed: kept on the device until it is registered. */
export interface TypedDelivery {
  note: string;
  parts: DeliveryPart[];
}

const EMPTY = { quantity: "", lot: "", expires: "", bin: "" };

/** A part for each item, empty until somebody types or scans. */
export const newDelivery = (items: readonly ToRegister[]): TypedDelivery => ({
  note: "",
  parts: items.map((i) => ({ item: i.item, ...EMPTY })),
});

/** Each item has a part, whatever was kept before; parts of items that are not there any more are gone. */
export const fitted = (d: TypedDelivery, items: readonly ToRegister[]): TypedDelivery => ({
  ...d,
  parts: items.flatMap((i) => {
    const own = d.parts.filter((p) => p.item === i.item);
    return own.length ? own : [{ item: i.item, ...EMPTY }];
  }),
});

/** One more part of an item, for another lot, after its last. */
export function anotherLot(d: TypedDelivery, item: number): TypedDelivery {
  const at = d.parts.findLastIndex((p) => p.item === item);
  return { ...d, parts: d.parts.toSpliced(at + 1, 0, { item, ...EMPTY }) };
}

export const setPart = (d: TypedDelivery, at: number, part: Partial<DeliveryPart>): TypedDelivery => ({
  ...d,
  parts: d.parts.map((p, i) => (i === at ? { ...p, ...part } : p)),
});

/** What a scan counts: one of an item, or as many as the code says, in its lot. Null where it is nothing of this agreement. */
export function scanPart(
  d: TypedDelivery,
  items: readonly ToRegister[],
  s: Scanned,
): { next: TypedDelivery; name: string } | null {
  const forms = s.gtin === null ? [] : gtinForms(s.gtin);
  const code = s.code.toLowerCase();
  const item = items.find((i) =>
    s.gtin === null
      ? code !== "" && [i.code, i.theirCode, i.gtin ?? ""].some((c) => c.toLowerCase() === code)
      : i.gtin !== null && forms.includes(i.gtin),
  );
  if (!item) return null;
  const lot = s.serial ?? s.lot ?? "";
  const same = (p: DeliveryPart) =>
    p.item === item.item && (lot === "" || p.lot === "" || p.lot.toLowerCase() === lot.toLowerCase());
  const wide = d.parts.some(same) ? d : anotherLot(d, item.item);
  const at = Math.max(
    wide.parts.findIndex((p) => p.item === item.item && lot !== "" && p.lot.toLowerCase() === lot.toLowerCase()),
    wide.parts.findIndex(same),
  );
  const now = parseQuantity(wide.parts[at]!.quantity);
  const sum = (now.ok ? now.value : 0) + (s.count ?? 10_000);
  return {
    next: setPart(wide, at, {
      quantity: quantityText(sum),
      lot: lot || wide.parts[at]!.lot,
      expires: s.expires ?? wide.parts[at]!.expires,
    }),
    name: item.name,
  };
}

/** What is sent: parts of which something was typed. */
export const partsToSend = (d: TypedDelivery): DeliveryPart[] => d.parts.filter((p) => p.quantity.trim() !== "");

/** Where in what is sent a part stands; -1 where it is not sent. */
export const sentAt = (d: TypedDelivery, at: number): number =>
  d.parts[at]!.quantity.trim() === "" ? -1 : partsToSend({ ...d, parts: d.parts.slice(0, at) }).length;
