import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readJob, readJobs } from "../../queries/jobs/jobs";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { giveBack } from "./give-back";
import { closeJob, keepJob } from "./keep-job";
import { tieJob } from "./tie-demand";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});
const line = (code: string, quantity: string, due: string, store = "TQ", id: number | "" = "") => ({
  id,
  item: h.id("item", code),
  store: h.id("store", store),
  due,
  quantity,
});
const keep = (part: object, who = "ines") =>
  keepJob(h.desk(who), {
    job: "",
    code: "2400",
    name: "Refit",
    vessel: "Knot",
    kind: "job",
    lines: [],
    outputs: [],
    ...part,
  });
const rope = () => readNeeds(h.db, PLAN).find((n) => n.code === "ROP" && n.key.startsWith("s:"));

describe("a job", () => {
  it("is entered by line, and what it lacks is a need of its own kind", () => {
    const { job } = must(keep({ lines: [line("ROP", "500", "2026-12-04")] }));
    expect(rope()).toMatchObject({ source: "job", forJob: "job 2400, Knot", neededOn: "2026-12-04" });
    expect(readJobs(h.db, PLAN).map((j) => [j.code, j.open, j.short])).toEqual([
      ["2291", 1, 0],
      ["2400", 1, 1],
    ]);
    expect(readJob(h.db, job, PLAN)!.lines[0]!.cover).toMatchObject({ fromShelf: 4_400_000, lacking: 600_000 });
    must(closeJob(h.desk("ines"), { job, closed: "yes" }));
    expect(rope()).toBeUndefined();
    must(closeJob(h.desk("ines"), { job, closed: "no" }));
    expect(rope()).toBeDefined();
    expect(refusal(closeJob(h.desk("ines"), { job, closed: "no" }))).toEqual(["This job is open already."]);
  });
  it("serves the earlier one first, whichever was entered first", () => {
    const late = must(keep({ lines: [line("ROP", "300", "2026-12-20")] })).job;
    const early = must(keep({ code: "2401", lines: [line("ROP", "300", "2026-12-01")] })).job;
    const cover = (job: number) => readJob(h.db, job, PLAN)!.lines[0]!.cover;
    expect([cover(early)!.lacking, cover(late)!.lacking]).toEqual([0, 1_600_000]);
  });
  it("lacks what is already overdue", () => {
    must(keep({ lines: [line("ROP", "500", "2026-11-01")] }));
    expect(rope()).toMatchObject({ neededOn: TODAY, forJob: "job 2400, Knot" });
  });
  it.each([
    [{ code: "" }, ["code: A job needs a code."]],
    [{ code: "22 91" }, ["code: A code has no spaces."]],
    [{ code: "2291" }, ["code: Another job has this code."]],
    [{ lines: [{ id: "", item: "", store: 1, due: "2026-12-01", quantity: "1" }] }, ["lines.0.item: Choose an item."]],
    [
      { lines: [{ id: "", item: 1, store: 99, due: "2026-12-01", quantity: "1" }] },
      ["lines.0.store: There is no such store."],
    ],
    [
      { lines: [{ id: "", item: 1, store: 1, due: "2026-02-30", quantity: "0" }] },
      ["lines.0.due: There is no such date.", "lines.0.quantity: A quantity must be above zero."],
    ],
    [
      { outputs: [1, 2].map(() => ({ id: "", item: 1, store: 1, due: "2026-12-01", quantity: "1" })) },
      ["outputs.1.due: This item stands here twice for the same day."],
    ],
  ])("refuses %j where it stands, and keeps nothing of it", (part, says) => {
    expect(refusal(keep(part))).toEqual(says);
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM job").get()!.n).toBe(1);
  });
  it("keeps lines of which something was ordered, and is kept by buyers", () => {
    const { job } = must(keep({ lines: [line("ROP", "500", "2026-12-04")] }));
    must(tieJob(h.desk("ines"), { job }));
    expect(refusal(tieJob(h.desk("ines"), { job }))).toEqual([
      "This job lacks nothing that is not tied to it already.",
    ]);
    expect(refusal(keep({ code: "2402" }, "joss"))).toEqual(["Your role does not allow this."]);
    const { id } = readJob(h.db, job, PLAN)!.lines[0]!;
    must(keep({ job, lines: [line("ROP", "520", "2026-12-10", "TQ", id)] }));
    expect(readJob(h.db, job, PLAN)!.lines[0]).toMatchObject({ quantity: 5_200_000, due: "2026-12-10" });
  });
});

describe("what a job gives back", () => {
  it("counts as supply only where the company says so, and comes into stock with its movement", () => {
    const { job } = must(
      keep({ lines: [line("ROP", "500", "2026-12-04")], outputs: [line("ROP", "60", "2026-12-01")] }),
    );
    expect(rope()!.stock!.onOrder).toBe(0);
    sql(h.db, "UPDATE company SET count_output = 1").run();
    expect(rope()!.stock!.onOrder).toBe(600_000);
    const { outputs } = readJob(h.db, job, PLAN)!;
    expect(refusal(giveBack(h.desk("tobias"), { output: outputs[0]!.id, quantity: "61" }))).toEqual([
      "quantity: Only 60 is still to come from this job.",
    ]);
    must(giveBack(h.desk("tobias"), { output: outputs[0]!.id, quantity: "60" }));
    expect(rope()!.stock).toMatchObject({ onHand: 5_000_000, onOrder: 0 });
    expect(sql(h.db, "SELECT kind, quantity, job FROM movement WHERE kind = 'output'").all()).toEqual([
      { kind: "output", quantity: 600_000, job },
    ]);
  });
});
