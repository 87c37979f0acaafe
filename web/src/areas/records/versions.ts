// Two versions of a record: who has changed what since it was opened.
import type { Schemas } from "../../api/client";
import type { Values } from "../form-sheet/judging";

export type Difference = Schemas["DifferenceView"];

/** Whose change each difference is, as far as is known from what was opened. */
export function changedBy(one: Difference, values: Values, opened: Values | undefined) {
  const alike = (left: unknown, right: unknown) =>
    JSON.stringify(left ?? null) === JSON.stringify(right ?? null);
  if (!opened) return "unknown";
  const mine = !alike(values[one.field], opened[one.field]);
  const theirs = !alike(one.value, opened[one.field]);
  return mine && theirs ? "both" : mine ? "mine" : "theirs";
}
