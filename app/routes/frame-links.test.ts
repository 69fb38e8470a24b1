import { expect, it } from "vitest";
import { ROLES, type Role } from "../../core/people/roles";
import { linksFor } from "./frame-links";

const names = (...roles: Role[]) => {
  const { stops, tools, menu } = linksFor(roles);
  return [stops, tools, menu].map((links) => links.map((l) => l.name).join(", "));
};

it("shows to each role its stops, its tools, and the rest in the menu", () => {
  expect(names("buyer")).toEqual([
    "Today, Needs, Bench, Sign-off, With suppliers, Dock, Settle",
    "Requisitions, Jobs, Suppliers, Items, Insight",
    "My page and tokens, Floor round, Transfers, Consigned shelves, Refills, Agreements, Use statements, Shelves, Claims, Outbox, Batches of papers, Spend ladders, Tolerances",
  ]);
  expect(names("requester")).toEqual([
    "Today, Needs",
    "Items",
    "My page and tokens, Jobs, Floor round, Transfers, Consigned shelves",
  ]);
  expect(names("dock hand")).toEqual([
    "Today, Dock",
    "Floor round, Transfers, Items",
    "My page and tokens, Consigned shelves, Shelves, Bins",
  ]);
});

it.each(ROLES)("leads a %s to each place once", (role) => {
  const { stops, tools, menu } = linksFor([role]);
  const hrefs = [...tools, ...menu].map((l) => l.href);
  expect(new Set(hrefs).size).toBe(hrefs.length);
  expect(new Set(stops.map((s) => s.letter)).size).toBe(stops.length);
});
