import { join } from "node:path";
import Database from "better-sqlite3";
import ts from "typescript";
import { expect, it } from "vitest";
import { IMAGE } from "../testing";
import { home } from "./migrate";

/** A place where a row of SQL is given a type: `sql<Row>(db, "SELECT …")`. */
interface Place {
  at: string;
  text: string;
  row: ts.Type;
}

const root = home();

/** The text of an expression, as far as it stands in the source: literals, constants and what is put together of them. */
function textOf(e: ts.Expression, checker: ts.TypeChecker, depth = 0): string | null {
  if (depth > 12) return null;
  const of = (x: ts.Expression) => textOf(x, checker, depth + 1);
  if (ts.isStringLiteralLike(e) || ts.isNumericLiteral(e))
    return e.text.replaceAll("_", (u) => (ts.isNumericLiteral(e) ? "" : u));
  if (ts.isParenthesizedExpression(e) || ts.isAsExpression(e) || ts.isSatisfiesExpression(e)) return of(e.expression);
  if (ts.isTemplateExpression(e)) {
    let text = e.head.text;
    for (const span of e.templateSpans) {
      const part = of(span.expression);
      if (part === null) return null;
      text += part + span.literal.text;
    }
    return text;
  }
  if (ts.isConditionalExpression(e)) return of(e.whenTrue);
  if (ts.isCallExpression(e) && ts.isPropertyAccessExpression(e.expression)) {
    const [from, to] = e.arguments.map(of);
    const on = of(e.expression.expression);
    const how = e.expression.name.text;
    if (on === null || from == null || to == null) return null;
    return how === "replace" ? on.replace(from, to) : how === "replaceAll" ? on.replaceAll(from, to) : null;
  }
  if (ts.isIdentifier(e)) {
    let symbol = checker.getSymbolAtLocation(e);
    if (symbol && symbol.flags & ts.SymbolFlags.Alias) symbol = checker.getAliasedSymbol(symbol);
    const said = symbol?.valueDeclaration;
    const constant =
      said && ts.isVariableDeclaration(said) && said.initializer && ts.getCombinedNodeFlags(said) & ts.NodeFlags.Const;
    return constant ? of(said.initializer!) : null;
  }
  return null;
}

function places(): { known: Place[]; put: number; checker: ts.TypeChecker } {
  const config = ts.getParsedCommandLineOfConfigFile(join(root, "tsconfig.json"), {}, {
    ...ts.sys,
    onUnRecoverableConfigFileDiagnostic: () => {},
  } as never)!;
  const files = config.fileNames.filter((f) => /\/(server|app|demo)\//.test(f) && !/\.test\./.test(f));
  const program = ts.createProgram(files, config.options);
  const checker = program.getTypeChecker();
  const known: Place[] = [];
  let put = 0;
  for (const source of program.getSourceFiles()) {
    if (source.isDeclarationFile || !source.fileName.startsWith(root)) continue;
    const visit = (node: ts.Node): void => {
      if (ts.isCallExpression(node) && node.expression.getText(source) === "sql" && node.typeArguments?.length === 1) {
        put++;
        const text = node.arguments[1] && textOf(node.arguments[1], checker);
        const line = source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1;
        const row = checker.getTypeFromTypeNode(node.typeArguments[0]!);
        if (text && !(row.flags & ts.TypeFlags.TypeParameter))
          known.push({ at: `${source.fileName.slice(root.length + 1)}:${line}`, text, row });
      }
      ts.forEachChild(node, visit);
    };
    visit(source);
  }
  return { known, put, checker };
}

/** What a column of SQLite may be read as. */
const WRONG: Record<string, ts.TypeFlags> = {
  INTEGER: ts.TypeFlags.StringLike | ts.TypeFlags.BooleanLike,
  TEXT: ts.TypeFlags.NumberLike | ts.TypeFlags.BooleanLike,
};

it("every statement gives the columns that its row type names, of the kind that it says", () => {
  const db = new Database(IMAGE, { readonly: true });
  const { known, put, checker } = places();
  const wrong: string[] = [];
  let held = 0;
  for (const { at, text, row } of known) {
    let columns: Database.ColumnDefinition[];
    try {
      const statement = db.prepare(text);
      if (!statement.reader) continue;
      columns = statement.columns();
    } catch (e) {
      wrong.push(`${at}: ${(e as Error).message}`);
      continue;
    }
    held++;
    const given = new Map(columns.map((c) => [c.name, c]));
    for (const p of row.getProperties()) {
      const column = given.get(p.name);
      if (!column) {
        if (!(p.flags & ts.SymbolFlags.Optional)) wrong.push(`${at}: no column gives ${p.name}`);
        continue;
      }
      const type = checker.getTypeOfSymbol(p);
      const parts = type.isUnion() ? type.types : [type];
      const bad = WRONG[column.type ?? ""] ?? 0;
      if (parts.some((t) => t.flags & bad)) wrong.push(`${at}: ${p.name} is ${column.type} in the file`);
    }
    for (const name of given.keys())
      if (row.getProperties().length > 0 && !row.getProperty(name))
        wrong.push(`${at}: the row type does not know ${name}`);
  }
  db.close();
  expect(wrong).toEqual([]);
  expect(held / put).toBeGreaterThan(0.9);
}, 120_000);
