// What a case expects, in words.
import { OUTCOME_WORDS, STATUS_WORDS } from "../form/outcomes";
import type { CaseView } from "./queries";

/** What a case looks at, in words. */
export function expectations(
  expected: CaseView["case"]["expected"],
  nameOf: (rule: string) => string,
): string {
  const { save, submit, broken, faults, statuses, stored } = expected;
  const said = [
    save && `saving ${OUTCOME_WORDS[save].toLowerCase()}`,
    submit && `submitting ${OUTCOME_WORDS[submit].toLowerCase()}`,
    broken && broken.length > 0 && `broken: ${broken.map(nameOf).join("; ")}`,
    faults && faults.length > 0 && `not readable: ${faults.join(", ")}`,
    ...Object.entries(statuses ?? {}).map(
      ([rule, status]) => `“${nameOf(rule)}” ${STATUS_WORDS[status]}`,
    ),
    ...Object.entries(stored ?? {}).map(([key, value]) => `${key} stored as ${value ?? "blank"}`),
  ];
  return said.filter(Boolean).join(", ");
}
