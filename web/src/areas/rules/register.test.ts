import { describe, expect, it } from "vitest";
import type { FormView } from "../form/form";
import type { RuleView } from "../form/rule";
import { newRule } from "./beginning";
import { linesOf, shownOf } from "./register";

const NOW = Date.parse("2026-11-25T12:00:00Z");

function view(name: string, target: string, part: Partial<RuleView> = {}): RuleView {
  const { rule } = newRule(target);
  return {
    rule: { ...rule, key: name, name },
    ...{ called: name, sentence: [], drafted_message: "", clauses: {}, problems: [] },
    ...{ revision: 1, position: 0, tried: "never", overspent: false, changed_by: null },
    speaks: { entry: "none", save: "warn", submit: "block" },
    changed_at: "2026-11-01T12:00:00Z",
    ...part,
  } as RuleView;
}
const RULES = [
  view("depth given", "depth", { tried: "both", changed_at: "2026-11-24T12:00:00Z" }),
  view("name given", "name"),
  view("depth again", "depth"),
];
const FORM = {
  rules: RULES,
  fields: [
    { field: { key: "name", label: "Name", section: "a" } },
    { field: { key: "depth", label: "Depth", section: null } },
  ],
  sheet: { sections: [{ key: "a", label: "A" }] },
} as unknown as FormView;
const names = (views: RuleView[]) => views.map(({ rule }) => rule.name);

describe("the register", () => {
  it("is searched and filtered", () => {
    expect(names(shownOf(FORM, "DEPTH", "all", NOW))).toEqual(["depth given", "depth again"]);
    expect(names(shownOf(FORM, "", "never_tried", NOW))).toEqual(["name given", "depth again"]);
    expect(names(shownOf(FORM, "", "changed_this_week", NOW))).toEqual(["depth given"]);
    expect(shownOf(FORM, "", "stops_submit", NOW)).toHaveLength(3);
    expect(shownOf(FORM, "", "stops_save", NOW)).toHaveLength(0);
  });

  it("is grouped by what the rules are about, in the order of the form", () => {
    const words = (grouping: Parameters<typeof linesOf>[2]) =>
      linesOf(FORM, RULES, grouping).map((line) =>
        line.kind === "head" ? `# ${line.label}` : line.view.rule.name,
      );
    expect(words("field")).toEqual([
      "# Name",
      "name given",
      "# Depth",
      "depth given",
      "depth again",
    ]);
    expect(words("section")[0]).toBe("# A");
    expect(words("section").at(-3)).toBe("# Without a section");
    expect(words("kind")[0]).toBe("# What is required");
    expect(words("order")).toEqual(names(RULES));
  });
});
