// What of a plan is covered by rules and proved by cases, and which rules no line has planned.
import type { FormView } from "../form/form";
import type { PlanLine } from "./queries";

export function coveringOf({ rules, plan }: Pick<FormView, "rules" | "plan">) {
  const there = new Set(rules.map(({ rule }) => rule.key));
  const planned = new Set(plan.flatMap((line) => line.rules));
  /** Whether a rule that is still there covers it. */
  const isHeld = (line: PlanLine) => line.rules.some((key) => there.has(key));
  const open = plan.filter((line) => !isHeld(line) || line.cases.length === 0);
  return { isHeld, open, unplanned: rules.filter(({ rule }) => !planned.has(rule.key)) };
}
