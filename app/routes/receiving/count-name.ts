import type { OrderId, StoreId } from "../../../core/ids";
/** Under which name a device keeps the count of a load; it is forgotten once it is in stock. */
export const countName = ({ order, store }: { order: OrderId; store: StoreId }) => `wharf.count.${order}.${store}`;
