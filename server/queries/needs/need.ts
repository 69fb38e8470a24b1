import type { Day } from "../../../core/calendar/day";
import type { ItemId, RequisitionId, SourcingId, StoreId, SupplierId } from "../../../core/ids";
import type { Policy } from "../../../core/needs/reorder";
import type { Run } from "../../../core/needs/run";
import type { PurchaseQty, StockQty } from "../../../core/numbers/quantity";
import type { Usage } from "./usage";

/** Where a need comes from (product.md step 1). A pair that falls short because of a job counts as the job's. */
export const NEED_SOURCES = ["reorder", "job", "requisition", "floor", "file", "repeat", "ahead"] as const;
export type NeedSource = (typeof NEED_SOURCES)[number];

/** What a plan is made for: the real day and hour, the rule for quantities, and the day it is to hold for. */
export interface PlanFor {
  today: Day;
  hour: number;
  run: Run;
  asOf: Day;
}
export const usualPlan = (today: Day, hour = 0): PlanFor => ({ today, hour, run: "usual", asOf: today });

/** One of the needs that stand merged in one row. */
export interface Part {
  key: string;
  source: NeedSource;
  wanted: StockQty;
  neededOn: Day;
  /** Who or what asks. */
  by: string;
  href: string | null;
}

/** One line of demand from whatever source, with all that a buyer compares before deciding. */
export interface Need {
  /** "s:item:store" for stock, "r:line" for a requisition, "j:demand" for a job, "n:id" for a noted one, "m:item:store" for merged ones. */
  key: string;
  source: NeedSource;
  parts: Part[];
  item: ItemId | null;
  code: string;
  name: string;
  kind: string;
  category: string;
  store: StoreId;
  storeName: string;
  stockUnit: string;
  /** Null for what is not kept in stock. Worked out up to the day of need. */
  stock: {
    onHand: StockQty;
    committed: StockQty;
    onOrder: StockQty;
    available: StockQty;
    reorderPoint: StockQty;
  } | null;
  /** How much is bought once stock falls short; empty for what stands on a paper. */
  policy: Policy["kind"] | "";
  usage: Usage;
  /** Tenths of a day; null where nothing is used, or nothing kept. */
  cover: number | null;
  neededOn: Day;
  orderBy: Day | null;
  arrives: Day | null;
  /** Days below the reorder point, or after the day asked for, if ordered today (domain §4). */
  lateBy: number;
  /** The day to order by is the day of the plan, or has passed. */
  dueNow: boolean;
  /** Days on which somebody goes without: stock has run out, or the day asked for has passed. */
  missesBy: number;
  runsOut: Day | null;
  /** The job it runs short of or is bought for: a vessel waits. */
  forJob: string | null;
  wanted: StockQty;
  buy: PurchaseQty;
  unit: string;
  factor: number;
  sourcing: SourcingId | null;
  supplier: { id: SupplierId; name: string; currency: string; buyer: string | null } | null;
  /** Per purchase unit in the supplier's currency, millionths; null where none is known. */
  price: number | null;
  /** What was last paid to this supplier, the same way. */
  lastPrice: number | null;
  /** Estimated net amount in the supplier's currency; null where no price is known. */
  amount: number | null;
  /** The same in home currency; null where no price or no rate is known. */
  homeAmount: number | null;
  requisition: { id: RequisitionId; line: number; number: string; asker: string; estimate: number | null } | null;
  /** Who noted it down, for what came from a round or a file. */
  noted: { id: number; by: string; note: string } | null;
  aboveMaximum: boolean;
}
