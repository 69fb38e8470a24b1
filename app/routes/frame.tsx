import { useEffect, useMemo, useState } from "react";
import {
  isRouteErrorResponse,
  Outlet,
  type ShouldRevalidateFunctionArgs,
  useLoaderData,
  useRouteError,
} from "react-router";
import { may } from "../../core/people/roles";
import { theCompany } from "../../server/queries/company";
import { railCounts } from "../../server/queries/today/today";
import { KeyList } from "../ui/key-list";
import { WrittenAs } from "../ui/locale";
import { type Links, Rail, type Stop } from "../ui/rail";
import { TroublePage } from "../ui/trouble";
import { zoneOf } from "../web/house";
import { page } from "../web/page";

export const loader = page("keep own inbox", ({ db, person, day, hour }) => {
  const { currency, locale, timeZone } = theCompany(db);
  const { roles } = person;
  const stops: Stop[] = [{ name: "Today", href: "/today", letter: "t" }];
  if (may(roles, "see needs"))
    stops.push({ name: "Needs", href: "/needs", letter: "n", also: ["/round", "/transfers"] });
  else if (may(roles, "ask")) stops.push({ name: "Needs", href: "/requisitions", letter: "n" });
  if (may(roles, "see benches")) stops.push({ name: "Bench", href: "/bench", letter: "b" });
  if (may(roles, "see sign-offs")) stops.push({ name: "Sign-off", href: "/sign-off", letter: "s" });
  if (may(roles, "see orders"))
    stops.push({
      name: "With suppliers",
      href: "/with-suppliers",
      letter: "w",
      also: ["/orders", "/blankets", "/budgets", "/marks", "/batches"],
    });
  if (may(roles, "see dock")) stops.push({ name: "Dock", href: "/dock", letter: "d", also: ["/receipts"] });
  const tools: Links[] = [];
  if (may(roles, "see needs") || (may(roles, "see all requisitions") && !may(roles, "ask")))
    tools.push({ name: "Requisitions", href: "/requisitions" });
  if (may(roles, "see jobs") && !may(roles, "ask")) tools.push({ name: "Jobs", href: "/jobs" });
  else if (may(roles, "see needs")) tools.push({ name: "Jobs", href: "/jobs" });
  if (may(roles, "count in")) {
    tools.push({ name: "Floor round", href: "/round" });
    tools.push({ name: "Transfers", href: "/transfers" });
  }
  if (may(roles, "see suppliers")) tools.push({ name: "Suppliers", href: "/suppliers" });
  tools.push({ name: "Items", href: "/items" });
  const menu: Links[] = [{ name: "My page and tokens", href: "/me" }];
  if (may(roles, "see jobs") && !tools.some((t) => t.href === "/jobs")) menu.push({ name: "Jobs", href: "/jobs" });
  if (!may(roles, "count in")) {
    if (may(roles, "walk the floor")) menu.push({ name: "Floor round", href: "/round" });
    if (may(roles, "see transfers")) menu.push({ name: "Transfers", href: "/transfers" });
  }
  if (may(roles, "see outbox")) menu.push({ name: "Outbox", href: "/outbox" });
  if (may(roles, "see orders")) menu.push({ name: "Batches of papers", href: "/batches" });
  if (may(roles, "keep papers")) menu.push({ name: "Papers and letters", href: "/papers" });
  if (may(roles, "save files")) menu.push({ name: "Files", href: "/files" });
  if (may(roles, "keep people")) menu.push({ name: "People", href: "/people" });
  if (may(roles, "see ladders")) menu.push({ name: "Spend ladders", href: "/ladders" });
  if (may(roles, "keep ladders")) menu.push({ name: "Departments and teams", href: "/departments" });
  if (may(roles, "keep settings")) menu.push({ name: "Company", href: "/settings" });
  if (may(roles, "keep settings")) menu.push({ name: "The house", href: "/house" });
  if (may(roles, "see the trail")) menu.push({ name: "Audit trail", href: "/trail" });
  return {
    person: { id: person.id, name: person.name, title: person.title },
    stops,
    tools,
    menu,
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
      <div className="flex min-h-screen flex-col lg:h-screen">
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
