import { expect, it } from "vitest";
import type { JobId, OrderId } from "../../../core/ids";
import { loadFile } from "../../acts/files/load-file";
import { tieDemand } from "../../acts/jobs/tie-demand";
import { writeOrders } from "../../acts/orders/write-orders";
import { sql } from "../../db/open";
import { must, TODAY, testHouse } from "../../testing";
import { readNeeds, usualPlan } from "../needs/needs";
import { papersAroundJob, papersAroundOrder } from "./around";

it("a job and the order that was written for it know each other", () => {
  const h = testHouse();
  const file = "job,name,vessel,item,store,due,quantity\n2300,Refit,Knot,ROP,TQ,2026-12-09,500\n";
  must(loadFile(h.desk("osk"), "jobs", Buffer.from(file), "."));
  const demand = sql<{ id: number; job: JobId }>(
    h.db,
    "SELECT d.id, d.job FROM job_demand d JOIN job j ON j.id = d.job WHERE j.code = '2300'",
  ).get()!;
  must(tieDemand(h.desk("ines"), { demand: demand.id, tie: "yes" }));
  const need = readNeeds(h.db, usualPlan(TODAY)).find((n) => n.code === "ROP" && n.key.startsWith("j"))!;
  const order = must(writeOrders(h.desk("ines"), { picks: [{ need: need.key }] })).orders[0]! as OrderId;
  const seen = (papers: ReturnType<typeof papersAroundOrder>) => papers.map((p) => [p.stop, p.label, p.href]);
  expect(seen(papersAroundOrder(h.db, order))).toEqual([
    ["asked for", "job 2300, Knot", `/jobs/${demand.job}`],
    ["ordered", `Draft ${order}, Tern & Tallow`, `/orders/${order}`],
  ]);
  expect(seen(papersAroundJob(h.db, demand.job)).map((p) => p[2])).toEqual([`/jobs/${demand.job}`, `/orders/${order}`]);
  h.close();
});
