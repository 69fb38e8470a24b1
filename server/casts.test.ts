import ts from "typescript";
import { expect, test } from "vitest";
import { sourcesOf } from "./testing-sources";

/** Where a value is said to be of a type that nothing proves, with no word beside it that says why. */
function unreasoned(file: string, source: string): string[] {
  const parsed = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const lines = source.split("\n");
  const said = new Set<string>();
  const visit = (node: ts.Node): void => {
    if (ts.isAsExpression(node) && !ts.isConstTypeReference(node.type)) {
      const at = parsed.getLineAndCharacterOfPosition(node.type.getStart()).line;
      const reasoned = /\/\/|\/\*|\*\//.test(lines[at]!) || /^\s*(\/\/|\*\/|\/\*\*)/.test(lines[at - 1] ?? "");
      if (!reasoned) said.add(`${file}:${at + 1} ${lines[at]!.trim()}`);
    }
    ts.forEachChild(node, visit);
  };
  visit(parsed);
  return [...said];
}

test("a cast says beside it why it is true", () => {
  const sources = sourcesOf("core", "exchange", "server", "app", "demo");
  expect(sources.length).toBeGreaterThan(300);
  expect(sources.flatMap(({ file, text }) => unreasoned(file, text))).toEqual([]);
});

test("what counts as a cast, and as a reason", () => {
  const wrong = (source: string) => unreasoned("a.ts", source).length;
  expect(wrong("const a = b as Day;")).toBe(1);
  expect(wrong("const a = b as Day; // read by its schema")).toBe(0);
  expect(wrong("// read by its schema\nconst a = b as Day;")).toBe(0);
  expect(wrong('const a = ["b"] as const; import { x as Y } from "z";')).toBe(0);
});
