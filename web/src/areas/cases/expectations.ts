// What a case expects, in words.
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { OUTCOME_WORDS, STATUS_WORDS } from "../form/outcomes";
import type { CaseView } from "./queries";

const t = words("cases");

type FieldStateName = NonNullable<Schemas["Expected"]["field_states"]>[string];

const FIELD_STATE_WORDS: Record<FieldStateName, string> = {
  relevant: t("is_asked"),
  not_relevant: t("is_not_asked"),
  read_only: t("is_locked"),
  waiting: t("waits"),
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
    save && t("saving_tolowercase", { toLowerCase: OUTCOME_WORDS[save].toLowerCase() }),
    submit && t("submitting_tolowercase", { toLowerCase: OUTCOME_WORDS[submit].toLowerCase() }),
    violated && violated.length === 0 && t("no_rule_violated"),
    violated && violated.length > 0 && `violated: ${violated.map(nameOf).join("; ")}`,
    on_hold != null && (on_hold ? t("set_on_hold") : t("not_on_hold")),
    offered && Object.keys(offered).length === 0 && t("nothing_proposed"),
    ...each(offered, (rule, values) => {
      const what = each(values, (key, value) => `${labelOf(key)} ${written(value)}`);
      return t("rule_proposed_join", { rule: nameOf(rule), join: what.join(", ") });
    }),
    ...each(field_states, (key, state) => `${labelOf(key)} ${FIELD_STATE_WORDS[state]}`),
    ...each(computed, (key, value) =>
      t("key_computed_as_value", { key: labelOf(key), value: written(value) }),
    ),
    faults && faults.length > 0 && `not readable: ${faults.map(labelOf).join(", ")}`,
    ...each(expected.statuses, (rule, status) => `“${nameOf(rule)}” ${STATUS_WORDS[status]}`),
    ...each(expected.stored, (key, value) =>
      t("key_stored_as_value", { key: labelOf(key), value: written(value) }),
    ),
  ];
  return said.filter(Boolean).join(", ");
}
