import loadHighs from "highs";
import { afterEach, describe, expect, it } from "vitest";
import { madeUp } from "../../../core/placing/made-up";
import { lpText, modelOf } from "../../../core/placing/model";
import { type PlacingProblem, preferredPlacing } from "../../../core/placing/problem";
import { reckonPlacing } from "../../../core/placing/reckon";
import { dismissCrew } from "../crew";
import { beginPlans, readPlans, stopPlans } from "./plans";
import { findHindrances, solve } from "./solve";

afterEach(() => dismissCrew());

let marks = 0;
async function plansOf(problem: PlacingProblem) {
  const mark = `test-${++marks}`;
  beginPlans(marks, mark, problem);
  await expect.poll(() => readPlans(mark)!.working, { timeout: 60_000 }).toBe(false);
  return readPlans(mark)!;
}
const base = () => madeUp({ seed: 3, rows: 4, suppliers: 3, offers: [2, 3] });

describe("plans where something stands in the way", () => {
  it("leave out what nobody sells, what never arrives and what has no rate, each with its sentence", async () => {
    const p = base();
    const [a, b, c] = p.rows as [
      PlacingProblem["rows"][number],
      PlacingProblem["rows"][number],
      PlacingProblem["rows"][number],
    ];
    a.offers = [];
    b.offers = b.offers.map((o) => ({ ...o, arrives: null }));
    const foreign = { ...p.suppliers[0]!, id: 9, name: "Nordic", currency: "ISK", rate: null };
    c.offers = [{ ...c.offers[0]!, supplier: 9 }];
    const plans = await plansOf({ ...p, suppliers: [...p.suppliers, foreign] });
    expect(plans.plans[0]!.left.map((l) => l.says)).toEqual([
      "Need 1 has no supplier.",
      expect.stringMatching(/^Need 2 never arrives from Supplier \d/),
      "Need 3 is only sold in ISK, and no rate is known.",
    ]);
    expect(plans.plans.map((x) => x.state)).toEqual(["proved", "proved", "proved"]);
    for (const plan of plans.plans) expect(Object.keys(plan.placing!)).toEqual(["n:4"]);
  });

  it("count lines late where every offer is late", async () => {
    const p = base();
    for (const row of p.rows) row.offers = row.offers.map((o, i) => ({ ...o, lateBy: i + 2 }));
    const plans = await plansOf(p);
    const inTime = reckonPlacing(p, plans.plans.find((x) => x.aim === "in time")!.placing!);
    expect([inTime.late, inTime.lateDays]).toEqual([4, 8]);
  });

  it("leave out what a minimum keeps out, name it with the minimum, and plan the rest", async () => {
    const p = base();
    p.rows[0]!.offers = p.rows[0]!.offers.slice(0, 1);
    const only = p.rows[0]!.offers[0]!.supplier;
    p.suppliers = p.suppliers.map((s) => ({ ...s, minimum: s.id === only ? 90_000_000 : 0 }));
    const plans = await plansOf(p);
    expect(plans.plans.map((x) => x.state)).toEqual(["proved", "proved", "proved"]);
    for (const plan of plans.plans) {
      expect(Object.keys(plan.placing!)).toEqual(["n:2", "n:3", "n:4"]);
      expect(plan.left).toEqual([
        {
          row: "n:1",
          name: "Need 1",
          says: `Need 1 is left out: what can go to Supplier ${only} does not come to their least order.`,
        },
      ]);
    }
    expect(plans.plans[0]!.why).toEqual([
      expect.stringMatching(
        new RegExp(
          `^Supplier ${only} takes no order under 900000.00 EUR: these needs bring [\\d.]+ EUR there, and Need 1 can go nowhere else\\.`,
        ),
      ),
    ]);
    expect(await findHindrances({ ...p, rows: p.rows.slice(1) })).toEqual([]);
  });

  it("claim nothing where nothing can be placed", async () => {
    const p = base();
    for (const row of p.rows) row.offers = row.offers.map((o) => ({ ...o, levels: [] }));
    const plans = await plansOf(p);
    expect(plans.plans.map((x) => [x.state, x.placing])).toEqual([
      ["none", null],
      ["none", null],
      ["none", null],
    ]);
    expect(plans.plans[0]!.why[0]).toMatch(/^Need 1 has no price at/);
  });

  it("name a locked choice that cannot be kept, and leave it out", async () => {
    const p = base();
    const [row] = p.rows as [PlacingProblem["rows"][number]];
    const [offer] = row.offers as [(typeof row.offers)[number]];
    row.locked = [{ supplier: offer.supplier, buy: 10_000 as never }];
    row.offers = [{ ...offer, levels: [] }, ...row.offers.slice(1)];
    expect(preferredPlacing(p)[row.id]).toBeUndefined();
    const plans = await plansOf(p);
    expect(plans.plans[0]!.left.map((l) => l.says)).toEqual([
      `Need 1 has no price at Supplier ${offer.supplier}. It is locked there.`,
    ]);
    expect(Object.keys(plans.plans[0]!.placing!)).toEqual(["n:2", "n:3", "n:4"]);
  });
});

describe("plans that do not come to their end", () => {
  const large = () => madeUp({ seed: 5, rows: 1_000, suppliers: 40, offers: [4, 10], minimums: true, stores: 3 });

  it("keep the best so far when they are stopped, and say how far it is from the best there is", async () => {
    const mark = `test-${++marks}`;
    beginPlans(marks, mark, large());
    await expect.poll(() => readPlans(mark)!.plans[0]!.placing, { timeout: 60_000 }).not.toBeNull();
    stopPlans(mark);
    await expect.poll(() => readPlans(mark)!.working, { timeout: 30_000 }).toBe(false);
    const { plans } = readPlans(mark)!;
    expect(plans.map((x) => x.state)).toEqual(["stopped", "stopped", "stopped"]);
    expect(plans[0]!.placing).not.toBeNull();
    // Nobody begins them again but who wants them.
    expect(beginPlans(marks, mark, base()).working).toBe(false);
    expect(beginPlans(marks, mark, base(), { again: true }).working).toBe(true);
    await expect.poll(() => readPlans(mark)!.working, { timeout: 60_000 }).toBe(false);
  });

  it("say so when the solver is killed, and the next one begins anew", async () => {
    const mark = `test-${++marks}`;
    beginPlans(marks, mark, large());
    await expect.poll(() => readPlans(mark)!.plans[0]!.state, { timeout: 30_000 }).toBe("working");
    await dismissCrew();
    await expect.poll(() => readPlans(mark)!.plans[0]!.state, { timeout: 30_000 }).toMatch(/stopped|none/);
    stopPlans(mark);
    await expect.poll(() => readPlans(mark)!.working, { timeout: 60_000 }).toBe(false);
    expect((await plansOf(base())).plans[0]!.state).toBe("proved");
  });

  it("end when their time is up", async () => {
    const plan = await solve(large(), ["cost"], { seconds: 1.5 });
    expect(plan?.proved).toBe(false);
  });
});

describe("the model as a file", () => {
  it("is read by another reader of the format, and has the same best cost", async () => {
    const highs = await loadHighs();
    for (let seed = 1; seed <= 12; seed++) {
      const p = madeUp({
        seed,
        rows: 12,
        suppliers: 5,
        items: 8,
        stores: 2,
        offers: [2, 5],
        minimums: true,
        splits: 20,
        locks: 10,
        joins: seed % 2 === 0,
      });
      const model = modelOf(p);
      const read = highs.solve(lpText(model, "cost"), { output_flag: false, mip_rel_gap: 0 });
      const ours = await solve(p, ["cost"], { seconds: 60 });
      const whole = ours !== null && reckonPlacing(p, ours.placing).open.length === 0;
      expect(read.Status === "Optimal", `seed ${seed}`).toBe(whole);
      if (whole) {
        const { cost, holding } = reckonPlacing(p, ours.placing);
        expect(Math.round(read.ObjectiveValue) + model.offset).toBe(cost + holding);
      }
    }
  });
});
