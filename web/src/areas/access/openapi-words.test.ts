import { expect, test } from "vitest";
import { type Document, kindOf, resolved, type Schema } from "./openapi-words";

const PROBLEM: Schema = { type: "object", properties: { title: { type: "string" } } };
const DOCUMENT: Document = { paths: {}, components: { schemas: { Problem: PROBLEM } } };
const REFERRED = { $ref: "#/components/schemas/Problem" };

// The shapes are those of JSON Schema (2020-12), as OpenAPI 3.1 has them.
test.each<[Schema, string]>([
  [{ type: "string" }, "a text"],
  [{ type: "integer" }, "a whole number"],
  [{ anyOf: [{ type: "number" }, { type: "null" }] }, "a number or nothing"],
  [{ type: "array", items: REFERRED }, "a list of Problem"],
  [{ type: "array" }, "a list of anything"],
  [{ type: "string", enum: ["save", "submit"] }, "save, submit"],
  [REFERRED, "Problem"],
  [{}, "anything"],
])("%j is %s", (schema, words) => {
  expect(kindOf(schema)).toBe(words);
});

test("what is only referred to is looked up, and what is not there stays as it is", () => {
  expect(resolved(REFERRED, DOCUMENT)).toBe(PROBLEM);
  expect(resolved(PROBLEM, DOCUMENT)).toBe(PROBLEM);
  const unknown = { $ref: "#/components/schemas/Other" };
  expect(resolved(unknown, DOCUMENT)).toBe(unknown);
});
