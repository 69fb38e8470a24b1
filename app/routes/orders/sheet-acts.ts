import { redirect } from "react-router";
import { putMark, takeMarkOff } from "../../../server/acts/orders/marks";
import { startBatch } from "../../../server/acts/papers/batches";
import { runBatch } from "../../../server/jobs/papers/run-batch";
import { ORDERS } from "../../../server/queries/orders/finder";
import { batchHouse } from "../../web/house";
import type { PageActs } from "../../web/page";
import { viewActs } from "../../web/view-acts";

const listed = (text: unknown): string[] =>
  String(text ?? "")
    .split(",")
    .filter(Boolean);

/** What the sheet of all orders does. */
export const orderSheetActs = {
  ...viewActs(ORDERS.name),
  batch: (desk, input, { url, day, house }) => {
    const orders =
      input.orders === "found" ? ORDERS.ids(desk.db, ORDERS.query(url.searchParams), day) : listed(input.orders);
    const begun = startBatch(desk, { what: input.what, orders, prices: input.prices !== "no" }, house.site);
    if (!begun.ok) return begun;
    void runBatch(batchHouse(house), begun.value.batch);
    throw redirect(`/batches/${begun.value.batch}`);
  },
  mark: (desk, input) => putMark(desk, { ...input, orders: listed(input.orders) }),
  "take mark off": takeMarkOff,
} satisfies PageActs;
export type OrderSheetWord = keyof typeof orderSheetActs;
