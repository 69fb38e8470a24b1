declare const of: unique symbol;
/** An id of one kind of record: that of another kind is a fault of types. Plain numbers become one where they are read or checked. */
export type IdOf<Kind extends string> = number & { readonly [of]: Kind };

export type OrderId = IdOf<"order">;
