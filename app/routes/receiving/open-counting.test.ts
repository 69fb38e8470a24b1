import { describe, expect, it } from "vitest";
import type { Day } from "../../../core/calendar/day";
import { ONE } from "../../../core/numbers/quantity";
import { NO_TOLERANCE, toleranceInForce } from "../../../core/receiving/tolerance";
import { readScan } from "../../../exchange/gs1/scan";
import type { OpenLine } from "../../../server/queries/receiving/open-count";
import { partsCounted } from "./counting";
import { changedMeanwhile, heardOpen, NOTHING_OPEN, type OpenCount, sentOrders, withLines } from "./open-counting";

const TODAY = "2026-11-24" as Day;
const line = (n: number, order: number, code: string, left: number, more: Partial<OpenLine> = {}): OpenLine => ({
  line: n as OpenLine["line"],
  position: 1,
  item: code.length as OpenLine["item"],
  code,
  name: `Thing ${code}`,
  theirCode: "",
  gtin: null,
  unit: "each",
  unitCode: "C62",
  stockUnit: "each",
  factor: ONE,
  ordered: left * ONE,
  received: 0,
  due: `2026-12-0${n}` as Day,
  bin: "",
  forWhom: null,
  counted: {
    schedule: [{ quantity: left * ONE, required: TODAY, promised: null, received: 0, closedShort: 0 }],
    letOff: 0,
    whole: true,
    tolerance: toleranceInForce([{ scope: "house", ...NO_TOLERANCE }]),
  },
  lots: null,
  weighed: false,
  weight: null,
  order: order as OpenLine["order"],
  number: `26-100${order}`,
  version: order,
  supplierName: "Brannock",
  buyer: "Ines",
  ...more,
});
const scan = (code: string) => {
  const s = readScan(code);
  if (!s.ok) throw new Error(s.says);
  return s.value;
};
const hear = (open: OpenCount, code: string, how: { asked: boolean; chosen?: number | null } = { asked: false }) =>
  heardOpen(open, scan(code), TODAY, how);
const counted = (answer: ReturnType<typeof hear>): OpenCount => {
  if (answer.kind !== "counted") throw new Error(JSON.stringify(answer));
  return answer.open;
};

describe("an open count", () => {
  const two = withLines(NOTHING_OPEN, [line(2, 2, "A", 1), line(1, 1, "A", 2)]);
  it("asks for what it does not know, and counts for the order that is due first", () => {
    expect(hear(NOTHING_OPEN, "A")).toEqual({ kind: "ask" });
    expect(hear(NOTHING_OPEN, "A", { asked: true })).toEqual({
      kind: "refused",
      says: "“A” is not on any order that is to come.",
    });
    let open = two;
    for (const expected of [1, 1, 2]) {
      const answer = hear(open, "a");
      expect(answer).toMatchObject({ kind: "counted", line: expected });
      open = counted(answer);
    }
    // All that is known is counted full: another order may want it; else it is over on the first.
    expect(hear(open, "A")).toEqual({ kind: "ask" });
    expect(hear(open, "A", { asked: true })).toMatchObject({ kind: "counted", line: 1 });
    expect(sentOrders(open).map((o) => [o.order, o.version, o.parts.map((p) => [p.line, p.count])])).toEqual([
      [2, 2, [[2, "1"]]],
      [1, 1, [[1, "2"]]],
    ]);
  });
  it("asks which one is meant where several items have one code", () => {
    const open = withLines(NOTHING_OPEN, [
      line(1, 1, "A", 2, { theirCode: "X-1" }),
      line(2, 2, "BB", 2, { theirCode: "X-1" }),
      line(3, 3, "CCC", 2, { theirCode: "X-1" }),
    ]);
    expect(hear(open, "x-1")).toEqual({ kind: "ask" });
    const which = hear(open, "x-1", { asked: true });
    expect(which.kind === "which" && which.lines.map((l) => l.code)).toEqual(["A", "BB", "CCC"]);
    expect(hear(open, "x-1", { asked: true, chosen: 2 })).toMatchObject({ kind: "counted", line: 2 });
  });
  it("says what changed of what was counted, and keeps the count", () => {
    const open = counted(hear(two, "A"));
    expect(changedMeanwhile(open, [line(1, 1, "A", 2), line(2, 2, "A", 1)])).toEqual([]);
    expect(changedMeanwhile(open, [line(1, 1, "A", 1)])).toEqual([
      "Thing A of 26-1001 was counted or changed by somebody else.",
    ]);
    expect(changedMeanwhile(open, [])).toEqual(["Thing A of 26-1001 is not to come any more."]);
    const now = withLines(open, [line(1, 1, "A", 1, { version: 9 })]);
    expect(now.lines.find((l) => l.line === 1)?.version).toBe(9);
    expect(partsCounted(now.count, now.lines[1]!.line)[0]?.count).toBe("1");
  });
});
