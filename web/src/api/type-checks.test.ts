// Types of fields and kinds of rules are told apart in their own files, by syntax tree; of types
// those that are left are counted by file, and may only become fewer (see tests/core/test_type_checks.py).
import ts from "typescript";
import { expect, test } from "vitest";
import left from "../../../tests/core/data/type_checks_left.json";
import { FIELD_TYPES, RULE_KINDS } from "./lists";

const SOURCES = import.meta.glob<string>("/src/**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});
const OWN = ["web/src/areas/rules/kinds/", "web/src/areas/field-types/"];
const EQUALITIES = [
  ts.SyntaxKind.EqualsEqualsEqualsToken,
  ts.SyntaxKind.ExclamationEqualsEqualsToken,
];

/** The comparisons of a property with one of the names, in a source. */
function checks(source: string, property: string, names: readonly string[]) {
  const found: string[] = [];
  const asksFor = (node: ts.Expression) =>
    ts.isPropertyAccessExpression(node) && node.name.text === property;
  const note = (node: ts.Expression) => {
    if (ts.isStringLiteral(node) && names.includes(node.text)) found.push(node.text);
  };
  function visit(node: ts.Node) {
    if (ts.isBinaryExpression(node) && EQUALITIES.includes(node.operatorToken.kind)) {
      if (asksFor(node.left)) note(node.right);
      if (asksFor(node.right)) note(node.left);
    }
    if (ts.isSwitchStatement(node) && asksFor(node.expression))
      for (const one of node.caseBlock.clauses) if (ts.isCaseClause(one)) note(one.expression);
    ts.forEachChild(node, visit);
  }
  visit(ts.createSourceFile("x.tsx", source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return found;
}

function everywhere(property: string, names: readonly string[]) {
  const counted = Object.entries(SOURCES)
    .map(([file, source]): [string, string] => [`web${file}`, source])
    .filter(([file]) => !/\.(test|d)\.tsx?$/.test(file) && !OWN.some((own) => file.startsWith(own)))
    .map(([file, source]): [string, number] => [file, checks(source, property, names).length]);
  return Object.fromEntries(counted.filter(([, count]) => count > 0));
}

test("checks are found in any spelling", () => {
  expect(checks('one.type === "date" || "time" !== two.type', "type", FIELD_TYPES)).toHaveLength(2);
  expect(checks('switch (a.type) { case "date": b() }', "type", FIELD_TYPES)).toEqual(["date"]);
  expect(checks('one.kind === "date"', "type", FIELD_TYPES)).toEqual([]);
});

test("kinds of rules are checked in their own files only", () => {
  // A part of a condition may be a group as well.
  const kinds = RULE_KINDS.filter((kind) => kind !== "group");
  expect(everywhere("kind", kinds)).toEqual({});
});

test("checks of field types do not spread", () => {
  const counts: Record<string, number> = left;
  const now = Object.entries(everywhere("type", FIELD_TYPES));
  expect(now.filter(([file, count]) => count > (counts[file] ?? 0))).toEqual([]);
});
