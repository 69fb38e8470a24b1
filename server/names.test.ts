import { expect, it } from "vitest";
import { sourcesOf } from "./testing-sources";

/** What the router looks for in every page. */
const ROUTER = new Set(["loader", "action", "shouldRevalidate", "meta", "links", "headers", "ErrorBoundary"]);
const EXPORTED = /^export (?:async )?(?:const|let|function\*?|class|interface|type|enum) ([A-Za-z_$][\w$]*)/gm;

it("no two modules export the same name for different things", () => {
  const by = new Map<string, Set<string>>();
  for (const { file, text } of sourcesOf("core", "exchange", "server", "app"))
    for (const [, name] of text.matchAll(EXPORTED))
      if (!ROUTER.has(name!)) by.set(name!, (by.get(name!) ?? new Set()).add(file));
  const twice = [...by]
    .filter(([, files]) => files.size > 1)
    .map(([name, files]) => `${name}: ${[...files].join(", ")}`);
  expect(twice).toEqual([]);
  expect(by.size).toBeGreaterThan(500);
});
