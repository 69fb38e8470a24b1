import { describe, expect, it } from "vitest";
import { ORDER_STATES, refuses, stateAfterReceipt, stateOfRequisition, WITH_SUPPLIER } from "./state";

describe("what may be done to an order", () => {
  it("locks it while it is being signed", () => {
    expect(refuses("In sign-off", "edit", "26-1192")).toBe(
      "26-1192 is being signed off, and nobody can change it meanwhile.",
    );
    expect(refuses("Cleared", "revise", "26-1192")).toBeNull();
  });
  it("deletes drafts and nothing else", () => {
    expect(ORDER_STATES.filter((s) => refuses(s, "delete", "x") === null)).toEqual(["Draft"]);
  });
  it("receives only what is with the supplier", () => {
    expect(ORDER_STATES.filter((s) => refuses(s, "receive", "x") === null)).toEqual([...WITH_SUPPLIER]);
  });
});

describe("states that follow from lines", () => {
  it("of an order", () => {
    expect(stateAfterReceipt([{ ordered: 5, received: 0 }])).toBe("With supplier");
    expect(
      stateAfterReceipt([
        { ordered: 5, received: 5 },
        { ordered: 1, received: 0 },
      ]),
    ).toBe("Part in");
    expect(
      stateAfterReceipt([
        { ordered: 5, received: 5 },
        { ordered: 1, received: 1 },
      ]),
    ).toBe("All in");
  });
  it("of a requisition", () => {
    const open = { dropped: false, ordered: false, met: false };
    const ordered = { ...open, ordered: true };
    const dropped = { ...open, dropped: true };
    expect(stateOfRequisition([open, open])).toBe("Open");
    expect(stateOfRequisition([ordered, open])).toBe("Part ordered");
    expect(stateOfRequisition([ordered, dropped])).toBe("Ordered");
    expect(stateOfRequisition([{ ...ordered, met: true }, dropped])).toBe("Met");
    expect(stateOfRequisition([dropped])).toBe("Declined");
  });
});
