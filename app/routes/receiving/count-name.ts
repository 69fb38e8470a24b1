/** Under which name a device keeps the count of a load; it is forgotten once it is in stock. */
export const countName = ({ order, store }: { order: number; store: number }) => `wharf.count.${order}.${store}`;
