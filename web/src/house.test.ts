// Manners of the web's code that no linter knows: how long a function may be, and what is done in one
// place only.
import ts from "typescript";
import { expect, test } from "vitest";

const SOURCES = import.meta.glob<string>("./**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});
const OWN = Object.entries(SOURCES).filter(([file]) => !/\.test\.|schema\.d\.ts/.test(file));

const LONGEST = 120; // lines of a function

/** The functions of a file that are too long, with their lines. */
function tooLong(file: string, source: string) {
  if (source.split("\n").length <= LONGEST) return [];
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: [string, number][] = [];
  const lineAt = (place: number) => tree.getLineAndCharacterOfPosition(place).line;
  function visit(node: ts.Node) {
    const lines = lineAt(node.end) - lineAt(node.getStart()) + 1;
    if (ts.isFunctionLike(node) && lines > LONGEST) found.push([file, lines]);
    ts.forEachChild(node, visit);
  }
  visit(tree);
  return found;
}

/** The files in which something is written, besides those where it belongs. */
const filesWith = (pattern: RegExp, ...home: string[]) =>
  OWN.filter(([file, source]) => pattern.test(source) && !home.includes(file)).map(
    ([file]) => file,
  );

test("no function is longer than 120 lines", () => {
  expect(tooLong("x.ts", `function x() {\n${"x();\n".repeat(LONGEST)}}`)).toHaveLength(1);
  expect(OWN.flatMap(([file, source]) => tooLong(file, source))).toEqual([]);
});

test("every key of a query comes from the factory", () => {
  expect(filesWith(/(queryKey|mutationKey)\b[:=\s{]+\[(?!\.\.\.queryKey)/)).toEqual([]);
  expect(filesWith(/takeOver(<[^>]*>)?\(\s*\[/)).toEqual([]);
});

test("acts on a draft are sent one after the other by one hook", () => {
  expect(filesWith(/scope: \{ id:/, "./areas/form/draft-act.ts")).toEqual([]);
});

test("the focus is moved by the rule, and else only within a control", () => {
  const within = [
    "./ui/focus.ts",
    "./ui/focus-rule.ts",
    "./ui/worded.tsx", // back into the text after a choice in a menu
    "./ui/calendar-button.tsx", // back into the day
    "./areas/rules/cells.ts", // by arrow keys in a table
    "./areas/rules/clause-place.tsx", // from one spelling of a condition to the other
    "./areas/rules/formula-box.tsx",
    "./areas/bench/map-picture.tsx", // by arrow keys in a map
    "./areas/records/approving.ts", // by keys in a list
    "./areas/form-sheet/going.ts", // to the field that a message is about
  ];
  expect(filesWith(/\.focus\(|autoFocus/, ...within, "./ui/calendar.tsx")).toEqual([]);
});
