import type { LoaderFunctionArgs } from "react-router";
import { arrivalsCalendar } from "../../../exchange/ical/arrivals";
import { arrivalsOfLink, readArrivals } from "../../../server/queries/suppliers/arrivals";
import { house, now, today } from "../../web/house";

/** What is expected at a store, for a calendar that holds the link. */
export function loader({ params, context }: LoaderFunctionArgs) {
  const { db, site } = context.get(house);
  const found = arrivalsOfLink(db, String(params.link).slice(0, 80));
  if (!found)
    return new Response("This link does not hold.\n", { status: 404, headers: { "Content-Type": "text/plain" } });
  const arrivals = readArrivals(db, found.store, today(), site);
  return new Response(arrivalsCalendar(`Arrivals, ${found.name}`, arrivals, now()), {
    headers: { "Content-Type": "text/calendar; charset=utf-8", "Cache-Control": "private, max-age=600" },
  });
}
