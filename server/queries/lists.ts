import { ORDERS } from "./orders/finder";
import { ITEMS } from "./records/items";

/** The lists that lie in the company's file, by name: a worker writes the files of them. */
export const LISTS = { orders: ORDERS, items: ITEMS };
export type ListName = keyof typeof LISTS;
