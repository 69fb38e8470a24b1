import loadHighs, { type Highs, type Model as HighsModel } from "highs";
import { isOneOf } from "../../../core/keys";
import { componentsOf, orderSets, within } from "../../../core/placing/fewest";
import { hindrancesOf } from "../../../core/placing/hinder";
import { columnsOf, type Measure, type Model, modelOf, placingOf } from "../../../core/placing/model";
import type { Placing, PlacingProblem } from "../../../core/placing/problem";
import { reckonPlacing } from "../../../core/placing/reckon";

/** How far a solver is: the best found so far, and below what nothing exists. */
export interface Standing {
  measure: Measure;
  /** In the measure's own unit; null while nothing is found. */
  best: number | null;
  bound: number;
  seconds: number;
}

export interface Solved {
  placing: Placing;
  /** Proved: nothing better exists. Else the measure in which it stopped, and below what nothing exists there. */
  proved: boolean;
  stopped: Standing | null;
  seconds: number;
}

export interface Solving {
  /** The solver gives up after so many seconds, with the best found until then. */
  seconds: number;
  /** Asked now and then: true ends it with the best found until then. */
  stop?: () => boolean;
  onStanding?: (s: Standing) => void;
  onBetter?: (placing: Placing) => void;
  /** A placing that keeps every rule, to begin from. */
  from?: Placing | null;
}

let solver: Promise<Highs> | null = null;
const theSolver = () => (solver ??= loadHighs());

/**
 * Solves a problem for each measure in turn, never giving up what was won before. Where no placing of all needs keeps every
 * rule, as few needs as can be are left out. Null where nothing can be placed at all.
 */
export async function solve(
  problem: PlacingProblem,
  measures: readonly Measure[],
  how: Solving,
): Promise<Solved | null> {
  const highs = await theSolver();
  const solved =
    (measures[0] === "orders" ? solveFewest(highs, problem, how) : null) ??
    solveModel(highs, modelOf(problem), problem, measures, how) ??
    solveModel(highs, modelOf(problem, { leaving: true }), problem, ["left out", ...measures], how);
  return solved && Object.keys(solved.placing).length === 0 && !solved.stopped ? null : solved;
}

/** So many sets of orders are looked at, and so many of them planned, before the whole is left to the solver. */
const MOST_SETS = 60_000;
const MOST_PLANNED = 200;

/**
 * Fewest orders, then least cost. Which orders are written is looked at set by set: few sets can carry all needs, and most
 * of those cannot cost less than the best found, so that the solver only plans the rest. Null where there are too many sets, or
 * no set of any size keeps every rule.
 */
function solveFewest(highs: Highs, problem: PlacingProblem, how: Solving): Solved | null {
  const began = performance.now();
  const since = () => (performance.now() - began) / 1000;
  const placing: Record<string, Placing[string]> = {};
  let known = 0;
  for (const part of componentsOf(problem)) {
    const model = modelOf(part);
    if (model.columns.length === 0) continue;
    const best = fewestOf(highs, part, model, {
      ...how,
      seconds: how.seconds - since(),
      onStanding: (s) =>
        how.onStanding?.({
          ...s,
          best: s.best === null ? null : s.best + known,
          bound: s.bound + known,
          seconds: since(),
        }),
      onBetter: undefined,
    });
    if (!best) return null;
    Object.assign(placing, best);
    const { cost, holding } = reckonPlacing(part, best);
    known += cost + holding;
  }
  how.onBetter?.(placing);
  return { placing, proved: true, stopped: null, seconds: since() };
}

function fewestOf(highs: Highs, part: PlacingProblem, model: Model, how: Solving): Placing | null {
  const began = performance.now();
  const left = () => how.seconds - (performance.now() - began) / 1000;
  let planned = 0;
  for (let size = 0; size <= part.suppliers.length * Object.keys(part.stores).length; size++) {
    const sets = orderSets(part, model, size, MOST_SETS);
    if (!sets) return null;
    let best: Placing | null = null;
    let cost = Number.POSITIVE_INFINITY;
    for (const set of sets) {
      const bound = set.bound + model.offset;
      if (bound >= cost) break;
      how.onStanding?.({ measure: "cost", best: best && cost, bound, seconds: 0 });
      if (++planned > MOST_PLANNED || left() <= 0 || how.stop?.()) return null;
      const only = within(part, set);
      const solved = solveModel(highs, modelOf(only), only, ["cost"], { seconds: left(), stop: how.stop });
      if (!solved) continue;
      if (!solved.proved) return null;
      const r = reckonPlacing(part, solved.placing);
      if (r.cost + r.holding >= cost) continue;
      cost = r.cost + r.holding;
      best = solved.placing;
    }
    if (best) return best;
  }
  return null;
}

/** Which needs or rules stand in the way of a plan, in sentences; empty where none does. */
export async function findHindrances(problem: PlacingProblem): Promise<string[]> {
  const relaxed = modelOf(problem, { breaking: true });
  const found = solveModel(await theSolver(), relaxed, problem, ["minimums broken", "cost"], { seconds: 20 });
  return hindrancesOf(problem, found?.placing ?? null);
}

/** The columns that a small model chooses for the least cost; null where it has no solution. */
export async function solveForCost(model: Model): Promise<Float64Array | null> {
  const highs = await theSolver();
  return highs.withModel(asArrays(highs, model), (m) => {
    m.options.set({ output_flag: false, mip_rel_gap: 0, mip_abs_gap: 0.99, time_limit: 5 });
    m.changeColsCost(
      { kind: "range", from: 0, to: model.columns.length - 1 },
      model.columns.map((c) => c.adds.cost ?? 0),
    );
    m.run();
    const { optimal, timeLimit } = highs.constants.modelStatus;
    return isOneOf([optimal, timeLimit], m.getModelStatus()) ? m.getSolution().colValue : null;
  });
}

function solveModel(
  highs: Highs,
  model: Model,
  problem: PlacingProblem,
  measures: readonly Measure[],
  how: Solving,
): Solved | null {
  const began = performance.now();
  const since = () => (performance.now() - began) / 1000;
  if (model.columns.length === 0) return { placing: {}, proved: true, stopped: null, seconds: 0 };
  return highs.withModel(asArrays(highs, model), (m) => {
    m.options.set({ output_flag: false, mip_rel_gap: 0, mip_abs_gap: 0.99, random_seed: 7 }); // every measure is whole
    let solution = how.from ? columnsOf(model, problem, how.from) : null;
    for (const measure of measures) {
      m.changeColsCost(
        { kind: "range", from: 0, to: model.columns.length - 1 },
        model.columns.map((c) => c.adds[measure] ?? 0),
      );
      m.options.set("time_limit", Math.max(0.1, how.seconds - since()));
      if (solution) m.setSolution({ colValue: solution });
      const ended = run(highs, m, model, measure, how, since);
      if (ended.solution) solution = ended.solution;
      if (ended.status === highs.constants.modelStatus.infeasible) return null;
      if (!solution) return { placing: {}, proved: false, stopped: ended.standing, seconds: since() };
      if (ended.status !== highs.constants.modelStatus.optimal)
        return { placing: placingOf(model, solution), proved: false, stopped: ended.standing, seconds: since() };
      hold(highs, m, model, measure, solution);
    }
    return { placing: placingOf(model, solution!), proved: true, stopped: null, seconds: since() };
  });
}

function run(highs: Highs, m: HighsModel, model: Model, measure: Measure, how: Solving, since: () => number) {
  const kinds = highs.constants.callbackType;
  const offset = measure === "cost" ? model.offset : 0;
  let solution: Float64Array | null = null;
  let best: number | null = null;
  let bound = Number.NEGATIVE_INFINITY;
  let said = 0;
  const standing = (): Standing => ({
    measure,
    best: best === null ? null : best + offset,
    bound: Math.ceil(bound - 1e-6) + offset,
    seconds: since(),
  });
  const look = (data: { mip_dual_bound?: number }) => {
    if (data.mip_dual_bound !== undefined && Number.isFinite(data.mip_dual_bound)) bound = data.mip_dual_bound;
    if (since() - said < 0.2) return;
    said = since();
    how.onStanding?.(standing());
  };
  m.run({
    [kinds.mipImprovingSolution](event) {
      if (!event.data.mip_solution) return;
      solution = event.data.mip_solution;
      best = Math.round(event.data.objective_function_value ?? 0);
      look(event.data);
      how.onBetter?.(placingOf(model, solution));
    },
    [kinds.mipLogging](event) {
      look(event.data);
    },
    [kinds.mipInterrupt](event) {
      look(event.data);
      if (how.stop?.()) event.interrupt();
    },
  });
  const status = m.getModelStatus();
  if (status === highs.constants.modelStatus.optimal) {
    solution = m.getSolution().colValue;
    best = bound = Math.round(m.getObjectiveValue());
  }
  return { solution, status, standing: standing() };
}

/** From now on no solution may be worse in this measure than the one found. */
function hold(highs: Highs, m: HighsModel, model: Model, measure: Measure, solution: Float64Array): void {
  const indices: number[] = [];
  const values: number[] = [];
  let reached = 0;
  model.columns.forEach((c, i) => {
    const adds = c.adds[measure] ?? 0;
    if (adds === 0) return;
    indices.push(i);
    values.push(adds);
    if (solution[i]! > 0.5) reached += adds;
  });
  m.addRow(-highs.infinity, reached, { indices, values });
}

function asArrays(highs: Highs, model: Model) {
  const starts = new Int32Array(model.rules.length + 1);
  let n = 0;
  model.rules.forEach((r, i) => {
    starts[i] = n;
    n += r.entries.length;
  });
  starts[model.rules.length] = n;
  const indices = new Int32Array(n);
  const values = new Float64Array(n);
  let at = 0;
  for (const r of model.rules) {
    for (const [column, times] of r.entries) {
      indices[at] = column;
      values[at++] = times;
    }
  }
  const columns = model.columns.length;
  const limit = (x: number) => (Number.isFinite(x) ? x : x < 0 ? -highs.infinity : highs.infinity);
  return {
    numCols: columns,
    numRows: model.rules.length,
    colCost: new Float64Array(columns),
    colLower: new Float64Array(columns),
    colUpper: new Float64Array(columns).fill(1),
    rowLower: Float64Array.from(model.rules, (r) => limit(r.least)),
    rowUpper: Float64Array.from(model.rules, (r) => limit(r.most)),
    matrix: { format: "csr" as const, numRows: model.rules.length, numCols: columns, starts, indices, values },
    integrality: new Int32Array(columns).fill(highs.constants.variableType.integer),
  };
}
