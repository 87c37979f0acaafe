import { expect, it } from "vitest";
import { countingWords } from "./counting";
import { newRule } from "./draft";

it("says for whom and when a rule counts, and nothing where it counts always", () => {
  const { rule } = newRule("depth");
  expect(countingWords(rule)).toBe("");
  const scoped = {
    ...rule,
    scope: { ...rule.scope, events: ["create" as const], roles: ["clerk"] },
    in_force_from: "2026-12-01",
  };
  expect(countingWords(scoped)).toBe("for new records only, for clerk, from 1 December 2026");
});
