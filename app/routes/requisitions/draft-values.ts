import type { ItemId, StoreId } from "../../../core/ids";
import { moneyText, parseMoney } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import { newKey } from "../../ui/submission";

/** A line as it is typed. */
export interface RequisitionDraftLine {
  id: string;
  item: ItemId | null;
  text: string;
  unit: string;
  kind: "goods" | "service";
  quantity: string;
  estimate: string;
  account: string;
  budget: string;
}
/** A requisition as it is typed. */
export interface RequisitionDraft {
  store: StoreId;
  department: string;
  neededBy: string;
  reason: string;
  lines: RequisitionDraftLine[];
  watchers: number[];
}

export const emptyLine = (): RequisitionDraftLine => ({
  id: newKey(),
  item: null,
  text: "",
  unit: "",
  kind: "service",
  quantity: "",
  estimate: "",
  account: "",
  budget: "",
});
/** Nothing was typed in it yet: it is not kept. */
export const isBlank = (l: RequisitionDraftLine) =>
  l.item === null && l.text === "" && l.quantity === "" && l.estimate === "";

/** What is kept, as fields. */
export function fromSheet({ head, lines, watchers }: RequisitionSheet, currency: string): RequisitionDraft {
  return {
    store: head.store,
    department: head.department === null ? "" : String(head.department),
    neededBy: head.neededBy ?? "",
    reason: head.reason,
    watchers: watchers.map((p) => p.id),
    lines: lines.map((l) => ({
      id: String(l.id),
      item: l.item,
      text: l.itemName ?? l.words,
      unit: l.item ? l.unit : "",
      kind: l.kind,
      account: l.account ?? "",
      budget: l.budget ? String(l.budget.id) : "",
      quantity: l.quantity === null ? "" : quantityText(l.quantity),
      estimate: l.estimate === null ? "" : moneyText({ minor: l.estimate, currency }),
    })),
  };
}

/** What travels: lines in which something was typed, an item instead of words where one was chosen. */
export const toSend = (d: RequisitionDraft) => ({
  store: d.store,
  department: d.department,
  neededBy: d.neededBy,
  reason: d.reason,
  lines: d.lines
    .filter((l) => !isBlank(l))
    .map((l) => ({
      item: l.item ?? "",
      words: l.item ? "" : l.text,
      kind: l.kind,
      quantity: l.quantity,
      estimate: l.estimate,
      account: l.account,
      budget: l.budget,
    })),
  watchers: d.watchers,
});

/** What is wrong with an amount as it is typed. */
export const wrongMoney = (text: string, currency: string) => {
  if (text === "") return undefined;
  const parsed = parseMoney(text, currency);
  return parsed.ok ? undefined : parsed.says;
};

/** What an item costs is known, or will be once it was kept: only then need nobody estimate it. */
export const costKnown = (sheet: RequisitionSheet, line: RequisitionDraftLine) =>
  sheet.lines.find((l) => l.item === line.item)?.costKnown ?? true;

/** What a line comes to as it is kept; a dash while it was changed since. */
export function keptAbout(
  sheet: RequisitionSheet,
  line: RequisitionDraftLine,
  money: (minor: number) => string,
): string {
  const known = sheet.lines.find(
    (l) => l.item === line.item && l.quantity !== null && quantityText(l.quantity) === line.quantity,
  );
  return known?.about == null ? "–" : money(known.about);
}

/** Where what somebody else kept differs from what stands here. */
export function draftDifferences(
  theirs: RequisitionDraft,
  mine: RequisitionDraft,
  stores: { id: StoreId; name: string }[],
) {
  const store = (id: number) => stores.find((s) => s.id === id)?.name ?? "";
  const line = (l: RequisitionDraftLine | undefined) => (l ? `${l.text} ${l.quantity} ${l.unit}`.trim() : "none");
  const mineLines = mine.lines.filter((l) => !isBlank(l));
  const pairs = [
    { what: "Store", theirs: store(theirs.store), mine: store(mine.store) },
    { what: "Needed by", theirs: theirs.neededBy, mine: mine.neededBy },
    { what: "What for", theirs: theirs.reason, mine: mine.reason },
    ...Array.from({ length: Math.max(theirs.lines.length, mineLines.length) }, (_, i) => ({
      what: `Line ${i + 1}`,
      theirs: line(theirs.lines[i]),
      mine: line(mineLines[i]),
    })),
  ];
  return pairs.filter((p) => p.theirs !== p.mine);
}
