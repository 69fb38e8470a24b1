import type { LoaderFunctionArgs } from "react-router";
import { type Linked, readLinked } from "../../server/queries/orders/link";
import { house, today } from "./house";
import { notFound } from "./page";

/** The order that a private link leads to; the page of what is not there, where it does not hold. */
export function linkedOrder({ params, context }: LoaderFunctionArgs): Linked {
  const found = readLinked(context.get(house).db, String(params.link).slice(0, 80), today());
  if (!found) throw notFound("This link does not lead to an order of ours.");
  if ("says" in found) throw notFound(found.says);
  return found;
}
