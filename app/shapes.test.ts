import ts from "typescript";
import { expect, it } from "vitest";
import { sourcesOf } from "../server/testing-sources";

/** What a component has to be said in: about 120 lines, with room for one that is a long form. */
const MOST_LINES = 135;

it("no component is much longer than 120 lines", () => {
  const long: string[] = [];
  let seen = 0;
  for (const { file, text } of sourcesOf("app")) {
    if (!file.endsWith(".tsx")) continue;
    const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
    const lineOf = (at: number) => source.getLineAndCharacterOfPosition(at).line;
    const look = (node: ts.Node): void => {
      if (ts.isFunctionDeclaration(node) || ts.isFunctionExpression(node) || ts.isArrowFunction(node)) {
        seen++;
        const lines = lineOf(node.end) - lineOf(node.getStart()) + 1;
        if (lines > MOST_LINES) long.push(`${file}:${lineOf(node.getStart()) + 1} has ${lines} lines`);
      }
      ts.forEachChild(node, look);
    };
    look(source);
  }
  expect(long).toEqual([]);
  expect(seen).toBeGreaterThan(500);
});
