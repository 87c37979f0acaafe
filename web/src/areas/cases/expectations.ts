// What a case expects, in words.
import type { Schemas } from "../../api/client";
import { OUTCOME_WORDS, STATUS_WORDS } from "../form/outcomes";
import type { CaseView } from "./queries";

type FieldStateName = NonNullable<Schemas["Expected"]["field_states"]>[string];

const FIELD_STATE_WORDS: Record<FieldStateName, string> = {
  relevant: "is asked",
  not_relevant: "is not asked",
  read_only: "is locked",
  waiting: "waits",
};

const written = (value: unknown) =>
  value === null || value === undefined || value === ""
    ? "blank"
    : Array.isArray(value)
      ? value.join(", ")
      : String(value);

/** All that a case compares, in words. */
export function expectations(
  expected: CaseView["case"]["expected"],
  nameOf: (rule: string) => string,
  labelOf: (field: string) => string = (key) => key,
): string {
  const { save, submit, violated, on_hold, offered, field_states, computed, faults } = expected;
  const each = <T>(
    of: Record<string, T> | null | undefined,
    say: (key: string, one: T) => string,
  ) => Object.entries(of ?? {}).map(([key, one]) => say(key, one));
  const said = [
    save && `saving ${OUTCOME_WORDS[save].toLowerCase()}`,
    submit && `submitting ${OUTCOME_WORDS[submit].toLowerCase()}`,
    violated && violated.length === 0 && "no rule violated",
    violated && violated.length > 0 && `violated: ${violated.map(nameOf).join("; ")}`,
    on_hold != null && (on_hold ? "set on hold" : "not on hold"),
    offered && Object.keys(offered).length === 0 && "nothing proposed",
    ...each(offered, (rule, values) => {
      const what = each(values, (key, value) => `${labelOf(key)} ${written(value)}`);
      return `“${nameOf(rule)}” proposed (${what.join(", ")})`;
    }),
    ...each(field_states, (key, state) => `${labelOf(key)} ${FIELD_STATE_WORDS[state]}`),
    ...each(computed, (key, value) => `${labelOf(key)} computed as ${written(value)}`),
    faults && faults.length > 0 && `not readable: ${faults.map(labelOf).join(", ")}`,
    ...each(expected.statuses, (rule, status) => `“${nameOf(rule)}” ${STATUS_WORDS[status]}`),
    ...each(expected.stored, (key, value) => `${labelOf(key)} stored as ${written(value)}`),
  ];
  return said.filter(Boolean).join(", ");
}
