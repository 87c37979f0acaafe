// Which rules have a column in the table of cases.
import type { CaseTable, CaseView } from "./queries";

export const MOST_COLUMNS = 32;

/** The rules that have a column: all that check, or, where they are many, those that are violated. */
export function columnsFor(rules: CaseTable["rules"], rows: CaseView[]) {
  const checks = rules.filter((rule) => !rule.effect);
  if (checks.length <= MOST_COLUMNS) return { shown: checks, left: 0 };
  const spoken = new Set(
    rows.flatMap((row) => [...row.violated, ...(row.case.expected.violated ?? [])]),
  );
  const shown = checks.filter((rule) => spoken.has(rule.key)).slice(0, MOST_COLUMNS);
  return { shown, left: checks.length - shown.length };
}
