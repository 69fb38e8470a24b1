import { expect, it } from "vitest";
import { stateOfRequisition } from "./state";

it("the state of a requisition follows from its lines", () => {
  const open = { dropped: false, ordered: false, met: false };
  const ordered = { ...open, ordered: true };
  const dropped = { ...open, dropped: true };
  expect(stateOfRequisition([open, open])).toBe("Open");
  expect(stateOfRequisition([ordered, open])).toBe("Part ordered");
  expect(stateOfRequisition([ordered, dropped])).toBe("Ordered");
  expect(stateOfRequisition([{ ...ordered, met: true }, dropped])).toBe("Met");
  expect(stateOfRequisition([dropped])).toBe("Declined");
});
