import { useEffect, useMemo, useState } from "react";
import {
  isRouteErrorResponse,
  Outlet,
  type ShouldRevalidateFunctionArgs,
  useLoaderData,
  useRouteError,
} from "react-router";
import { theCompany } from "../../server/queries/company";
import { railCounts } from "../../server/queries/today/today";
import { KeyList } from "../ui/key-list";
import { WrittenAs } from "../ui/locale";
import { Rail } from "../ui/rail";
import { TroublePage } from "../ui/trouble";
import { zoneOf } from "../web/house";
import { page } from "../web/page";
import { linksFor } from "./frame-links";

export const loader = page("keep own inbox", ({ db, person, day, hour }) => {
  const { currency, locale, timeZone } = theCompany(db);
  const { roles } = person;
  return {
    person: { id: person.id, name: person.name, title: person.title },
    ...linksFor(roles),
    counts: railCounts(db, person, day, hour),
    currency,
    locale,
    zone: zoneOf({ timeZone }),
    today: day,
  };
});

/** The frame changes with what was done, not with what is looked at: its counts are asked for on their own. */
export const shouldRevalidate = ({ formMethod, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) =>
  formMethod !== undefined && formMethod !== "GET" && defaultShouldRevalidate;

export default function Frame() {
  const { person, stops, tools, menu, counts, currency, locale, zone, today } = useLoaderData<typeof loader>();
  const writing = useMemo(
    () => ({ currency, locale, zone, today, person: person.id }),
    [currency, locale, zone, today, person.id],
  );
  const live = useLiveCounts(counts);
  return (
    <WrittenAs value={writing}>
      <div className="flex min-h-screen flex-col lg:h-screen print:h-auto">
        <Rail stops={stops} tools={tools} menu={menu} counts={live} person={person} />
        <Outlet />
      </div>
      <KeyList stops={stops} />
    </WrittenAs>
  );
}

/** Asks every 20 seconds, and when the page is looked at again, what waits now. */
function useLiveCounts(first: Record<string, { count: number; late: boolean }>) {
  const [counts, setCounts] = useState(first);
  useEffect(() => setCounts(first), [first]);
  useEffect(() => {
    const ask = async () => {
      if (document.hidden) return;
      try {
        const answer = await fetch("/counts");
        if (answer.ok) setCounts(await answer.json());
      } catch {
        // No connection: the counts stay as they are until it is back.
      }
    };
    const timer = setInterval(ask, 20_000);
    document.addEventListener("visibilitychange", ask);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", ask);
    };
  }, []);
  return counts;
}

export function ErrorBoundary() {
  const error = useRouteError();
  const status = isRouteErrorResponse(error) ? error.status : 500;
  const trouble = isRouteErrorResponse(error)
    ? error.data
    : { says: "This page could not be shown. Nothing was changed." };
  return <TroublePage status={status} trouble={trouble} />;
}
