import type { z } from "zod";
import type { Day } from "../../core/calendar/day";
import type { OrderId } from "../../core/ids";
import type { BreakdownAsked } from "../../core/insight/breakdown";
import type { DecimalMark } from "../../core/numbers/decimal";
import type { Measure } from "../../core/placing/model";
import type { Placing, PlacingProblem } from "../../core/placing/problem";
import type { Rules } from "../../core/signoff/rulebook";
import type { TrialResult } from "../../core/signoff/trial";
import type { FileKind } from "../../exchange/csv/kinds";
import type { LabelRun } from "../../exchange/labels/label-pdf";
import type { ConsignedPaper } from "../../exchange/pdf/consigned-paper";
import type { GoodsDocument } from "../../exchange/pdf/goods-paper";
import type { OrderDocument } from "../../exchange/pdf/order-document";
import type { Logo } from "../../exchange/pdf/paper";
import type { ReportDocument } from "../../exchange/pdf/report-paper";
import type { StockDocument } from "../../exchange/pdf/stock-paper";
import type { Desk, Done } from "../acts/desk";
import type { HowToLoad, LoadAnswer, LookedAt } from "../acts/files/load-file";
import type { FileLine, HowNumbersAre } from "../acts/orders/lines-from-file";
import type { InvoicesEntered } from "../acts/settling/invoices-from-table";
import type { Followed } from "../db/audit";
import type { ListName } from "../queries/lists";
import type { Need, PlanFor } from "../queries/needs/need";
import type { ReviewRow } from "../queries/needs/review";
import type { Solved, Standing } from "./placing/solve";

/** A desk without its connection: a worker has one of its own. */
export type LoadingBy = Omit<Desk, "db">;

/** What is saved as a file. */
export type ToSave =
  | { kind: FileKind }
  | { list: ListName; search: string; as: "csv" | "xlsx"; today: Day }
  | { linesOf: OrderId; as: "csv" | "xlsx" }
  | { pricesOf: number; as: "csv" | "xlsx" }
  | { overdue: Day; as: "csv" | "xlsx" }
  | { breakdown: BreakdownAsked; as: "csv" | "xlsx" }
  | { journal: { from: Day; until: Day; made: Day }; as: "csv" | "xml" };

/** What is worked out beside the web server, so that other requests go on meanwhile. */
export interface Jobs {
  place: {
    input: { problem: PlacingProblem; measures: readonly Measure[]; seconds: number };
    part: { standing: Standing } | { placing: Placing };
    output: { solved: Solved | null; hindrances: string[] };
  };
  review: { input: { file: string; today: Day }; part: ReviewRow[]; output: { pairs: number } };
  paper: { input: { document: OrderDocument; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  /** A paper that goes with goods. */
  goods: { input: { document: GoodsDocument; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  /** A paper of the house's own stock. */
  stock: { input: { document: StockDocument; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  /** Figures for reading. */
  report: { input: { document: ReportDocument; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  /** A paper about a supplier's goods on our shelves. */
  consigned: { input: { document: ConsignedPaper; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  /** Labels; says how many are drawn. */
  labels: { input: { run: LabelRun }; part: { done: number }; output: { pdf: Uint8Array; leftOut: string[] } };
  trial: {
    input: { file: string; rules: Rules; today: Day };
    part: { done: number; all: number };
    output: TrialResult;
  };
  /** The first rows of a file, before anybody said what its columns hold. */
  look: { input: { bytes: Uint8Array; mark: DecimalMark; rows: number }; part: never; output: LookedAt };
  /** Lines of an order from a file. */
  lines: { input: { bytes: Uint8Array; how: z.output<typeof HowNumbersAre> }; part: never; output: Done<FileLine[]> };
  load: {
    input: { file: string; by: LoadingBy; kind: FileKind; bytes: Uint8Array; how: HowToLoad };
    part: { done: number; of: number };
    output: LoadAnswer;
  };
  /** A table of invoices. */
  invoices: {
    input: { file: string; by: LoadingBy; bytes: Uint8Array };
    part: { done: number; of: number };
    output: Done<InvoicesEntered>;
  };
  /** A file that is saved, in parts: a kind of records, or what of a list an address finds. */
  save: { input: { file: string; what: ToSave }; part: Uint8Array; output: undefined };
  /** The audit trail's chain, followed from somewhere on. */
  trail: { input: { file: string; from: Followed }; part: never; output: Followed };
  plan: { input: { file: string; plan: PlanFor }; part: Need[]; output: { at: number; pairs: number } };
}
export type JobName = keyof Jobs;

/** What a worker says while it works. */
export type Said<J extends JobName> = { done: number } | { part: Jobs[J]["part"] };

export interface Task<J extends JobName> {
  job: J;
  input: Jobs[J]["input"];
  port: import("node:worker_threads").MessagePort;
}
