import type { Day } from "../calendar/day";
import { priceText } from "../numbers/money";
import { quantityText } from "../numbers/quantity";
import type { Bears, DatedPrice, First, Settles, TheirPlace } from "./agreement";

/** An agreement as it was signed: what its paper is drawn from, whatever becomes of the records. */
export interface AgreementDocument {
  number: string;
  revision: number;
  supplier: string;
  store: string;
  currency: string;
  starts: Day;
  ends: Day;
  oursAfter: number | null;
  first: First;
  settles: Settles;
  bears: Bears;
  place: TheirPlace;
  binsFrom: string;
  binsTo: string;
  note: string;
  items: {
    code: string;
    name: string;
    unit: string;
    least: number;
    most: number;
    pack: number;
    refillDays: number;
    prices: DatedPrice[];
  }[];
}

/** What a version says otherwise than the one before, in short sentences. */
export function agreementDifferences(before: AgreementDocument, now: AgreementDocument): string[] {
  const found: string[] = [];
  const told = (what: string, a: string, b: string) => {
    if (a !== b) found.push(`${what}: ${b}, before ${a}`);
  };
  told("from", before.starts, now.starts);
  told("until", before.ends, now.ends);
  const ours = (d: AgreementDocument) => (d.oursAfter === null ? "at use" : `after ${d.oursAfter} days`);
  told("becomes ours", ours(before), ours(now));
  told("used first", before.first, now.first);
  told("settled by", before.settles, now.settles);
  told("losses borne by", before.bears, now.bears);
  const place = (d: AgreementDocument) => [d.place || "nothing", d.binsFrom, d.binsTo].filter(Boolean).join(" ");
  told("kept for them", place(before), place(now));
  if (before.note !== now.note) found.push("the note");
  const was = new Map(before.items.map((i) => [i.code, i]));
  const prices = (i: AgreementDocument["items"][number]) =>
    i.prices.map((p) => `${priceText(p.price)} from ${p.day}`).join(", ");
  for (const i of now.items) {
    const old = was.get(i.code);
    was.delete(i.code);
    if (!old) {
      found.push(`${i.name}: new`);
      continue;
    }
    told(`${i.name}, least`, quantityText(old.least), quantityText(i.least));
    told(`${i.name}, most`, quantityText(old.most), quantityText(i.most));
    told(`${i.name}, packs of`, quantityText(old.pack), quantityText(i.pack));
    told(`${i.name}, refill days`, String(old.refillDays), String(i.refillDays));
    told(`${i.name}, price`, prices(old), prices(i));
  }
  for (const i of was.values()) found.push(`${i.name}: not in it any more`);
  return found;
}
