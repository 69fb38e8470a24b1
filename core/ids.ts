declare const of: unique symbol;
/** An id of one kind of record, for which no plain number will do: it becomes one where it is read or checked. */
export type IdOf<Kind extends string> = number & { readonly [of]: Kind };

/** An id of one kind of record: that of another kind is a fault of types. A plain number, as of a test, will do. */
type MarkedId<Kind extends string> = number & { readonly [of]?: Kind };

/** Of the papers that most acts hand on. */
export type OrderId = IdOf<"order">;
export type SupplierId = MarkedId<"supplier">;
export type ItemId = MarkedId<"item">;
export type StoreId = MarkedId<"store">;
export type PersonId = MarkedId<"person">;
export type RequisitionId = MarkedId<"requisition">;
export type JobId = MarkedId<"job">;
export type BenchId = MarkedId<"bench">;
/** Of what a supplier sells us an item as. */
export type SourcingId = MarkedId<"sourcing">;
export type BudgetId = MarkedId<"budget">;
/** Of a line of an order. */
export type OrderLineId = MarkedId<"order line">;
export type RequisitionLineId = MarkedId<"requisition line">;
/** Of a line of what a job needs. */
export type DemandId = MarkedId<"job demand">;
export type ReceiptId = MarkedId<"receipt">;
export type TransferId = MarkedId<"transfer">;
export type QuoteId = MarkedId<"quote">;
