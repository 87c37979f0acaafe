import { describe, expect, it } from "vitest";
import { type Clause, type FieldView, ladder, step } from "../form/rule";
import { newRule, withKind, withTargets } from "./beginning";
import { blankClause, group, joined, withClauses, withFormula, withPart } from "./clauses";

const FIELD: FieldView = {
  field: {
    key: "depth",
    label: "Depth",
    hint: "",
    placeholder: "",
    label_shown: true,
    width: "full",
    emphasis: false,
    layouts: [],
    helper: false,
    keep: false,
    type: "whole_number",
    unit: "m",
    unit_first: false,
    grouped: true,
  },
  revision: 1,
  position: 0,
  touched_by: [],
  mark: null,
  drafted_hint: "",
  subjects: [
    {
      part: "value",
      words: "",
      type: "number",
      unit: "",
      operators: [
        { operator: "is_more", words: "is more than", operand: "one" },
        { operator: "is_blank", words: "is blank", operand: "none" },
      ],
    },
  ],
};
const clause = (field: string): Clause => ({
  kind: "clause",
  field,
  part: "value",
  operator: "is_blank",
  operand: null,
});
const [a, b, c] = [clause("a"), clause("b"), clause("c")];

describe("severities", () => {
  it("step round, and never block while typing", () => {
    expect(step("block", "save", 1)).toBe("none");
    expect(step("none", "save", -1)).toBe("block");
    expect(step("warn", "entry", 1)).toBe("none");
    expect(ladder("entry")).not.toContain("block");
  });
});

describe("clauses", () => {
  it("begin with the first comparison that fits the field", () => {
    expect(blankClause(FIELD)).toEqual({
      kind: "clause",
      field: "depth",
      part: "value",
      operator: "is_more",
      operand: { kind: "value", value: "" },
    });
  });

  it("join a lone clause by either word", () => {
    expect(joined(group("and", [a]), 0, "or", b)).toEqual(group("or", [a, b]));
  });

  it("stand beside one another under the same word, and in a group of their own otherwise", () => {
    expect(joined(group("and", [a, b]), 0, "and", c)).toEqual(group("and", [a, c, b]));
    expect(joined(group("and", [a, b]), 1, "or", c)).toEqual(
      group("and", [a, group("or", [b, c])]),
    );
  });

  it("leave no empty group behind", () => {
    expect(withPart(group("and", [a, b]), 0, null)).toEqual(group("and", [b]));
    expect(withPart(group("and", [a]), 0, null)).toBeNull();
  });
});

describe("clauses and formula of a place", () => {
  it("stand for one another, and never both at once", () => {
    const draft = withClauses(newRule("depth"), "when", group("and", [a]));
    expect(withFormula(draft, "when", "depth > 2")).toMatchObject({
      rule: { when: "depth > 2" },
      clauses: {},
    });
    expect(withClauses(draft, "when", null)).toMatchObject({ rule: { when: null }, clauses: {} });
  });

  it("go with the condition when an effect takes the place of a check", () => {
    const draft = withClauses(newRule("depth"), "when", group("and", [a]));
    const opened = withKind(draft, "open", [FIELD]);
    expect(opened.clauses.when).toEqual(draft.clauses.when);
    expect(opened.rule).not.toHaveProperty("severity");
  });
});

describe("a change of what must be true", () => {
  it("keeps name, targets and severities", () => {
    const draft = newRule("depth");
    const range = withKind(draft, "range", [FIELD]).rule;
    expect(range).toMatchObject({ kind: "range", targets: ["depth"], of: "value" });
    expect(range).toMatchObject({ severity: { submit: "block" } });
  });

  it("measures of a field what it has", () => {
    const several = { ...FIELD, field: { ...FIELD.field, key: "ticks", type: "choices" } };
    const fields = [FIELD, several as FieldView];
    expect(withKind(newRule("ticks"), "range", fields).rule).toMatchObject({ of: "count" });
    const range = withKind(newRule("depth"), "range", fields);
    expect(withTargets(range, ["ticks"], fields).rule).toMatchObject({ of: "count" });
  });
  it("begins a format with nothing chosen", () => {
    expect(withKind(newRule("depth"), "format", [FIELD]).rule).toMatchObject({
      kind: "format",
      format: null,
      pattern: null,
    });
  });

  it("begins a constraint with a clause on the target", () => {
    const draft = withKind(newRule("depth"), "cross_field", [FIELD]);
    expect(draft.clauses.must).toEqual(group("and", [blankClause(FIELD)]));
  });
});
