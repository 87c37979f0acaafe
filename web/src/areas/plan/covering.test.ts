import { expect, it } from "vitest";
import type { FormView } from "../form/form";
import { coveringOf } from "./covering";

const line = (key: string, rules: string[], cases: string[]) => ({
  ...{ key, text: key, rules, cases, revision: 1 },
});
const rule = (key: string) => ({ rule: { key } }) as FormView["rules"][number];

it("tells lines that no rule covers or no case proves, and rules of no line", () => {
  const plan = [
    line("proved", ["a"], ["one"]),
    line("not proved", ["a"], []),
    line("not covered", [], ["one"]),
    line("covered by what is gone", ["gone"], ["one"]),
  ] as FormView["plan"];
  const found = coveringOf({ rules: [rule("a"), rule("b")], plan });
  expect(found.open.map((one) => one.key)).toEqual(plan.slice(1).map((one) => one.key));
  expect(plan.map(found.isHeld)).toEqual([true, true, false, false]);
  expect(found.unplanned.map((one) => one.rule.key)).toEqual(["b"]);
});
