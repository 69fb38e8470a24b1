import type { BenchId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { candidatesFor, type FillUp, fillUpModel, type Target, targetsOf, weigh } from "../../../core/placing/fill-up";
import { ofOrderKey } from "../../../core/placing/problem";
import type { Db } from "../../db/open";
import { theCompany } from "../../queries/company";
import type { PlanFor } from "../../queries/needs/need";
import { readAhead } from "../../queries/placing/ahead";
import { readBench } from "../../queries/placing/bench";
import { solveForCost } from "./solve";

/** How an order could be filled up best, and whether that pays. Null where the bench or the gap is not there any more. */
export async function fillUp(
  db: Db,
  bench: BenchId,
  name: { order: string; kind: string; item: string },
  today: PlanFor["today"],
  hour: number,
): Promise<FillUp | null> {
  const sheet = readBench(db, bench, today, hour);
  if (!sheet) return null;
  const { problem } = sheet;
  const placing = placingFrom(problem.rows, sheet.choices);
  const target = targetsOf(problem, placing).find((t) => targetName(t) === `${name.order}|${name.kind}|${name.item}`);
  if (!target) return null;
  const { supplier, store } = ofOrderKey(target.order);
  const ahead = readAhead(db, sheet, { supplier, store }, today, hour);
  const candidates = candidatesFor(problem, target, ahead, theCompany(db).holdingRate);
  const all = candidates.reduce((n, c) => n + c.counts, 0);
  const closes = all >= target.gap;
  const chosen = closes ? await solveForCost(fillUpModel(target, candidates)) : null;
  const brought = candidates.filter((_, i) => (closes ? chosen![i]! > 0.5 : true));
  return weigh(problem, placing, target, ahead, brought, closes);
}

export const targetName = (t: Target) => `${t.order}|${t.kind}|${t.kind === "break" ? t.item : ""}`;
