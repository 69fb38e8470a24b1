import { type Act, may, type Role } from "../../core/people/roles";
import type { Links, Stop } from "../ui/rail";

/** What a link needs: one of these acts, and none of those. */
interface For {
  any?: readonly Act[];
  none?: readonly Act[];
}
const opens = (roles: readonly Role[], { any, none = [] }: For) =>
  (any === undefined || any.some((a) => may(roles, a))) && !none.some((a) => may(roles, a));

const STOPS: readonly (Stop & For)[] = [
  { name: "Today", href: "/today", letter: "t" },
  { name: "Needs", href: "/needs", letter: "n", also: ["/round", "/transfers"], any: ["see needs"] },
  { name: "Needs", href: "/requisitions", letter: "n", any: ["ask"], none: ["see needs"] },
  { name: "Bench", href: "/bench", letter: "b", any: ["see benches"] },
  { name: "Sign-off", href: "/sign-off", letter: "s", any: ["see sign-offs"] },
  {
    name: "With suppliers",
    href: "/with-suppliers",
    letter: "w",
    also: ["/orders", "/answers", "/blankets", "/budgets", "/marks", "/batches", "/chase", "/overdue"],
    any: ["see orders"],
  },
  {
    name: "Dock",
    href: "/dock",
    letter: "d",
    also: [
      "/receipts",
      "/open-count",
      "/set-aside",
      "/returns",
      "/stow",
      "/shelves",
      "/bins",
      "/stock-papers",
      "/stock-counts",
      "/labels",
      "/consigned",
      "/refills",
    ],
    any: ["see dock"],
  },
  {
    name: "Settle",
    href: "/settle",
    letter: "x",
    also: ["/claims", "/payables", "/pay-lists", "/books", "/statements"],
    any: ["see invoices"],
  },
];

/** What is used a hundred times a day stands beside the stops, the rest in the menu. */
const TOOLS: readonly (Links & For)[] = [
  { name: "Requisitions", href: "/requisitions", any: ["see needs"] },
  { name: "Requisitions", href: "/requisitions", any: ["see all requisitions"], none: ["ask", "see needs"] },
  { name: "Jobs", href: "/jobs", any: ["see needs"] },
  { name: "Jobs", href: "/jobs", any: ["see jobs"], none: ["ask", "see needs"] },
  { name: "Floor round", href: "/round", any: ["count in"] },
  { name: "Transfers", href: "/transfers", any: ["count in"] },
  { name: "Suppliers", href: "/suppliers", any: ["see suppliers"] },
  { name: "Items", href: "/items" },
  { name: "Insight", href: "/insight", any: ["see insight"] },
];
const MENU: readonly (Links & For)[] = [
  { name: "My page and tokens", href: "/me" },
  { name: "Jobs", href: "/jobs", any: ["see jobs"] },
  { name: "Floor round", href: "/round", any: ["walk the floor"] },
  { name: "Transfers", href: "/transfers", any: ["see transfers"] },
  { name: "Consigned shelves", href: "/consigned", any: ["see consigned"] },
  { name: "Refills", href: "/refills", any: ["ask for refills"] },
  { name: "Agreements", href: "/agreements", any: ["see agreements"] },
  { name: "Use statements", href: "/statements", any: ["see agreements"] },
  { name: "Shelves", href: "/shelves", any: ["see shelves"] },
  { name: "Bins", href: "/bins", any: ["keep bins"] },
  { name: "Layouts of labels", href: "/label-layouts", any: ["keep labels"] },
  { name: "Claims", href: "/claims", any: ["see invoices"] },
  { name: "Payables", href: "/payables", any: ["see payables"] },
  { name: "Pay lists", href: "/pay-lists", any: ["see payables"] },
  { name: "Books", href: "/books", any: ["see stock values"] },
  { name: "Values", href: "/values", any: ["see stock values"] },
  { name: "Outbox", href: "/outbox", any: ["see outbox"] },
  { name: "Batches of papers", href: "/batches", any: ["see orders"] },
  { name: "Papers and letters", href: "/papers", any: ["keep papers"] },
  { name: "Files", href: "/files", any: ["save files"] },
  { name: "People", href: "/people", any: ["keep people"] },
  { name: "Spend ladders", href: "/ladders", any: ["see ladders"] },
  { name: "Tolerances", href: "/tolerances", any: ["see tolerances"] },
  { name: "Departments and teams", href: "/departments", any: ["keep ladders"] },
  { name: "Company", href: "/settings", any: ["keep settings"] },
  { name: "The house", href: "/house", any: ["keep settings"] },
  { name: "Audit trail", href: "/trail", any: ["see the trail"] },
];

/** The pages of Insight, side by side at their heads. */
const INSIGHT: readonly (Links & For)[] = [
  { name: "Where it went", href: "/insight", any: ["see insight"] },
  { name: "Why it changed", href: "/insight/why", any: ["see insight"] },
  { name: "Ahead", href: "/insight/ahead", any: ["see insight"] },
  { name: "Prices", href: "/insight/prices", any: ["see insight"] },
  { name: "Lists", href: "/insight/lists", any: ["see insight"] },
  { name: "Stock", href: "/insight/stock", any: ["see stock values"] },
  { name: "Suppliers", href: "/insight/suppliers", any: ["see insight"] },
  { name: "Stops", href: "/insight/stops", any: ["see insight"] },
];

/** The stops, tools and menu of somebody with these roles, and the pages of Insight; what stands among the tools is not in the menu again. */
export function linksFor(roles: readonly Role[]): {
  stops: Stop[];
  tools: Links[];
  menu: Links[];
  insight: Links[];
} {
  const of = <L extends For>(all: readonly L[]) =>
    all.filter((l) => opens(roles, l)).map(({ any: _, none: __, ...link }) => link);
  const tools = of(TOOLS);
  return {
    stops: of(STOPS),
    tools,
    insight: of(INSIGHT),
    menu: of(MENU).filter((m) => !tools.some((t) => t.href === m.href)),
  };
}
