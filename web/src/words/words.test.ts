// Every text of a screen stands in the catalogue, and every text there can be formatted.
import { type MessageFormatElement, TYPE } from "@formatjs/icu-messageformat-parser";
import { IntlMessageFormat } from "intl-messageformat";
import ts from "typescript";
import { expect, test } from "vitest";

const SOURCES = import.meta.glob<string>("/src/**/*.tsx", {
  query: "?raw",
  import: "default",
  eager: true,
});
const EVERY_SOURCE = import.meta.glob<string>("/src/**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});
const CATALOGUES = import.meta.glob<Record<string, string>>("./en/*.json", {
  import: "default",
  eager: true,
});

/** The texts with letters that stand between tags. */
function textsBetweenTags(source: string) {
  const found: string[] = [];
  function visit(node: ts.Node) {
    if (ts.isJsxText(node) && /[A-Za-z]{2}/.test(node.text)) found.push(node.text.trim());
    ts.forEachChild(node, visit);
  }
  visit(ts.createSourceFile("x.tsx", source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return found;
}

type Filled = { area: string; key: string; places: string[] | null };

/** The texts that a module asks for, with the places it fills; null where a spread fills some. */
function asked(source: string): Filled[] {
  const found: Filled[] = [];
  let area = "";
  function visit(node: ts.Node) {
    if (ts.isCallExpression(node)) {
      const [first, second] = node.arguments;
      const called = node.expression.getText();
      if (called === "words" && first && ts.isStringLiteral(first)) area = first.text;
      if ((called === "t" || called === "t.rich") && first && ts.isStringLiteral(first)) {
        const given = second && ts.isObjectLiteralExpression(second) ? second.properties : [];
        const spread = given.some(ts.isSpreadAssignment) || (second && given.length === 0);
        const places = given.map((one) => one.name?.getText() ?? "");
        found.push({ area, key: first.text, places: spread ? null : places });
      }
    }
    ts.forEachChild(node, visit);
  }
  visit(ts.createSourceFile("x.tsx", source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return found;
}

/** The places of a text: its values and its tags. */
function placesOf(parts: MessageFormatElement[]): string[] {
  return parts.flatMap((part) => {
    if (!("value" in part) || part.type === TYPE.literal) return [];
    const inner = "options" in part ? Object.values(part.options).map((one) => one.value) : [];
    const children = "children" in part ? [part.children] : [];
    return [String(part.value), ...[...inner, ...children].flatMap(placesOf)];
  });
}

test("every place of a text is filled where it is asked for", () => {
  const wrong: unknown[] = [];
  for (const [file, source] of Object.entries(EVERY_SOURCE))
    for (const { area, key, places } of asked(source)) {
      const text = CATALOGUES[`./en/${area}.json`]?.[key];
      if (text === undefined || places === null) continue;
      const wanted = new Set(placesOf(new IntlMessageFormat(text, "en").getAst()));
      const given = new Set(places);
      const alike = given.size === wanted.size && [...given].every((one) => wanted.has(one));
      if (!alike) wrong.push([file, key, places, text]);
    }
  expect(wrong).toEqual([]);
});

test("no text stands between tags", () => {
  expect(textsBetweenTags("<p>Two words</p>")).toEqual(["Two words"]);
  const left = Object.entries(SOURCES).map(([file, source]) => [file, textsBetweenTags(source)]);
  expect(left.filter(([, texts]) => texts?.length)).toEqual([]);
});

test("every text can be formatted, and every key is used", () => {
  const used = new Set<string>();
  for (const source of Object.values(EVERY_SOURCE))
    for (const [, key] of source.matchAll(/"(\w+)"/g)) used.add(key ?? "");
  for (const [file, texts] of Object.entries(CATALOGUES))
    for (const [key, text] of Object.entries(texts)) {
      expect(() => new IntlMessageFormat(text, "en"), `${file} ${key}`).not.toThrow();
      expect(used.has(key), `${file} ${key} is not used`).toBe(true);
    }
});
