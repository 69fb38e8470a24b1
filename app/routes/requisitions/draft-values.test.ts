import { describe, expect, it } from "vitest";
import type { RequisitionSheet } from "../../../server/queries/requisitions/requisition";
import {
  draftDifferences,
  emptyLine,
  fromSheet,
  isBlank,
  keptAbout,
  type RequisitionDraft,
  toSend,
  wrongMoney,
} from "./draft-values";

const sheet = {
  head: { store: 1, department: null, neededBy: "2026-12-10", reason: "Ramp hinge" },
  watchers: [{ id: 7, name: "Maud" }],
  lines: [
    {
      id: 3,
      item: 11,
      itemName: "Hydraulic oil",
      words: "",
      unit: "L",
      kind: "goods",
      account: null,
      budget: { id: 2 },
      quantity: 400_000,
      estimate: null,
      about: 12_400,
      costKnown: true,
    },
    {
      id: 4,
      item: null,
      itemName: null,
      words: "Flush the lines",
      unit: "each",
      kind: "service",
      account: "4620",
      budget: null,
      quantity: null,
      estimate: 30_000,
      about: 30_000,
      costKnown: false,
    },
  ],
} as unknown as RequisitionSheet;
const draft = fromSheet(sheet, "EUR");

describe("a requisition as it is typed", () => {
  it("begins with what is kept", () => {
    expect(draft).toMatchObject({ store: 1, department: "", neededBy: "2026-12-10", watchers: [7] });
    expect(draft.lines.map((l) => [l.text, l.unit, l.quantity, l.estimate, l.budget, l.account])).toEqual([
      ["Hydraulic oil", "L", "40", "", "2", ""],
      ["Flush the lines", "", "", "300.00", "", "4620"],
    ]);
  });
  it("sends words only where no item was chosen, and nothing of a blank line", () => {
    expect(isBlank(emptyLine())).toBe(true);
    expect(isBlank({ ...emptyLine(), quantity: "3" })).toBe(false);
    const { lines } = toSend({ ...draft, lines: [...draft.lines, emptyLine()] });
    expect(lines).toEqual([
      { item: 11, words: "", kind: "goods", quantity: "40", estimate: "", account: "", budget: "2" },
      {
        item: "",
        words: "Flush the lines",
        kind: "service",
        quantity: "",
        estimate: "300.00",
        account: "4620",
        budget: "",
      },
    ]);
  });
  it("says what a line comes to only as it is kept", () => {
    const money = (minor: number) => `${minor}`;
    expect(keptAbout(sheet, draft.lines[0]!, money)).toBe("12400");
    expect(keptAbout(sheet, { ...draft.lines[0]!, quantity: "41" }, money)).toBe("–");
  });
  it("says where somebody else kept something else, line by line", () => {
    const mine: RequisitionDraft = {
      ...draft,
      store: 2,
      lines: [{ ...draft.lines[0]!, quantity: "60" }, emptyLine()],
    };
    const stores = [
      { id: 1, name: "Tarn Quay" },
      { id: 2, name: "Holm Slip" },
    ];
    expect(draftDifferences(draft, mine, stores)).toEqual([
      { what: "Store", theirs: "Tarn Quay", mine: "Holm Slip" },
      { what: "Line 1", theirs: "Hydraulic oil 40 L", mine: "Hydraulic oil 60 L" },
      { what: "Line 2", theirs: "Flush the lines", mine: "none" },
    ]);
    expect(draftDifferences(draft, draft, stores)).toEqual([]);
  });
  it("has a sentence for an amount that is none", () => {
    expect(wrongMoney("", "EUR")).toBeUndefined();
    expect(wrongMoney("300.00", "EUR")).toBeUndefined();
    expect(wrongMoney("3,0,0", "EUR")).toBeTruthy();
  });
});
