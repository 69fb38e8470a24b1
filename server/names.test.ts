import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";
import { home } from "./db/migrate";

/** What the router looks for in every page. */
const ROUTER = new Set(["loader", "action", "shouldRevalidate", "meta", "links", "headers", "ErrorBoundary"]);
const EXPORTED = /^export (?:async )?(?:const|let|function\*?|class|interface|type|enum) ([A-Za-z_$][\w$]*)/gm;

it("no two modules export the same name for different things", () => {
  const by = new Map<string, Set<string>>();
  for (const layer of ["core", "exchange", "server", "app"])
    for (const file of readdirSync(join(home(), layer), { recursive: true, encoding: "utf8" })) {
      if (!/\.tsx?$/.test(file) || /\.test\.|testing/.test(file)) continue;
      for (const [, name] of readFileSync(join(home(), layer, file), "utf8").matchAll(EXPORTED)) {
        if (ROUTER.has(name!)) continue;
        by.set(name!, (by.get(name!) ?? new Set()).add(join(layer, file)));
      }
    }
  const twice = [...by]
    .filter(([, files]) => files.size > 1)
    .map(([name, files]) => `${name}: ${[...files].join(", ")}`);
  expect(twice).toEqual([]);
  expect(by.size).toBeGreaterThan(500);
});
