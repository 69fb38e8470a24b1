import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import type { Scanned } from "../../../exchange/gs1/scan";
import { gtinForms } from "../../../exchange/gs1/scan";
import type { Stowable } from "../../../server/queries/stock/shelves";

/** What somebody changed of a row of the stow list: whether it is put away, how much of it, and where. */
export interface StowTexts {
  done?: boolean;
  quantity?: string;
  into?: string;
}
export type Stowing = Readonly<Record<string, StowTexts>>;

export const stowKey = (r: Pick<Stowable, "item" | "lot" | "owner">): string =>
  `${r.item}/${r.lot ?? 0}/${r.owner ?? 0}`;

/** How a row stands as it is typed: all of it into the bin that is proposed, where nobody says otherwise. */
export function stowRow(r: Stowable, typed: StowTexts = {}) {
  const quantity = typed.quantity ?? quantityText(r.quantity);
  const parsed = parseQuantity(quantity);
  const into = typed.into ?? r.into;
  const much = parsed.ok ? parsed.value : 0;
  const wrong = !parsed.ok
    ? parsed.says
    : much > r.quantity
      ? `Only ${quantityText(r.quantity)} lie on the dock.`
      : into.trim() === ""
        ? "Which bin?"
        : null;
  return { done: typed.done ?? false, quantity, into, wrong };
}

/** What is sent: the rows that are ticked, in the order of the list. */
export const stowedRows = (rows: readonly Stowable[], typed: Stowing) =>
  rows
    .map((r) => ({ r, ...stowRow(r, typed[stowKey(r)]) }))
    .filter((x) => x.done)
    .map(({ r, quantity, into }) => ({
      item: r.item,
      lot: r.lot,
      owner: r.owner,
      from: "",
      to: into.trim(),
      quantity,
    }));

/** The row that a scan means, the first that is not put away yet; or null. */
export function scannedRow(rows: readonly Stowable[], typed: Stowing, scanned: Scanned): Stowable | null {
  const forms = scanned.gtin === null ? [] : gtinForms(scanned.gtin);
  const code = scanned.code.toLowerCase();
  const lot = (scanned.serial ?? scanned.lot)?.toLowerCase();
  const meant = rows.filter(
    (r) =>
      (scanned.gtin === null
        ? r.code.toLowerCase() === code || r.lotCode?.toLowerCase() === code
        : r.gtin !== null && forms.includes(r.gtin)) &&
      (lot === undefined || r.lotCode?.toLowerCase() === lot),
  );
  return meant.find((r) => !typed[stowKey(r)]?.done) ?? meant[0] ?? null;
}
