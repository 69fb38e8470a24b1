import type { StoreId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { LABEL_KINDS, type LabelKind } from "../../../core/stock/label";
import type { Person } from "../../../server/acts/desk";
import type { Db } from "../../../server/db/open";
import { type LabelSource, storesOfLabels } from "../../../server/queries/stock/labels";
import { idOf, notAllowed } from "../../web/page";

/** What an address says that labels are printed of; null where it says nothing. */
export function labelSource(of: URLSearchParams): LabelSource | null {
  const receipt = of.get("receipt");
  const order = of.get("order");
  const item = of.get("item");
  const bins = of.get("bins");
  const some = (name: string) => (of.get(name) ? idOf(of.get(name)!) : null);
  if (receipt) return { of: "receipt", receipt: idOf(receipt) };
  if (order) return { of: "order", order: idOf(order) };
  if (item) return { of: "item", item: idOf(item), store: some("store"), lot: some("lot") };
  if (bins) return { of: "bins", store: idOf(bins), from: of.get("from") ?? "", to: of.get("to") ?? "" };
  return null;
}

/** The kinds of labels that a source has. */
export const kindsOf = (source: LabelSource): LabelKind[] =>
  source.of === "bins" ? ["bin"] : source.of === "item" ? ["item", "lot"] : LABEL_KINDS.filter((k) => k !== "bin");

/** Somebody of one store prints labels of that store alone; of items, whoever may print any. */
export function mayPrint(db: Db, person: Person, source: LabelSource): void {
  const stores = storesOfLabels(db, source);
  const theirs = person.store === null || stores.length === 0 || stores.includes(person.store as StoreId); // a store’s own id
  const open = source.of !== "order" || may(person.roles, "see orders") || may(person.roles, "see dock");
  if (!theirs || !open) throw notAllowed("These labels are of another store.");
}
