import { unlessOnlyLooking } from "../../ui/use-at";

/** Moving over rows reads nothing but the slip; other days do. */
export function unlessOnlyAt(args: Parameters<typeof unlessOnlyLooking>[0]): boolean {
  const days = (url: URL) => `${url.searchParams.get("from")} ${url.searchParams.get("to")}`;
  return days(args.currentUrl) === days(args.nextUrl) ? unlessOnlyLooking(args) : args.defaultShouldRevalidate;
}
