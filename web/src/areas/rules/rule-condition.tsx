// The condition of a rule: always, or under what is written there.
import { ChoicePart } from "../../ui/choice-part";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { RuleDraft } from "../form/rule";
import { ClausePlace, type Reading } from "./clause-place";
import { blankClause, formulaOf, governorOf, group, withClauses } from "./clauses";
import { kindOf } from "./kinds";

const t = words("rules");

const ALWAYS = "always";
const UNDER_A_CONDITION = "when";
const FIELD = "field:";
type Props = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  onChange: (draft: RuleDraft) => void;
};

export function RuleCondition({ form, draft, reading, onChange }: Props) {
  const conditional = Boolean(draft.clauses.when) || formulaOf(draft.rule, "when") !== null;
  const needed = kindOf(draft.rule).needsCondition;
  function choose(value: string) {
    const key = value.startsWith(FIELD) ? value.slice(FIELD.length) : null;
    const field = key
      ? form.fields.find((one) => one.field.key === key)
      : governorOf(form.fields, draft.rule.targets);
    const none = value === ALWAYS || !field;
    onChange(withClauses(draft, "when", none ? null : group("and", [blankClause(field)])));
  }
  const fields = form.fields.map(({ field }) => ({ value: FIELD + field.key, label: field.label }));
  return (
    <>
      <ChoicePart
        label={t("always_or_under_a_condition")}
        value={conditional ? UNDER_A_CONDITION : ALWAYS}
        groups={[
          {
            options: [
              ...(needed ? [] : [{ value: ALWAYS, label: t("always") }]),
              { value: UNDER_A_CONDITION, label: t("when_2") },
            ],
          },
          ...(conditional ? [] : [{ label: t("when_by_the_answer_to"), options: fields }]),
        ]}
        onChoose={choose}
      />
      {conditional && (
        <>
          <ClausePlace
            form={form}
            draft={draft}
            reading={reading}
            place="when"
            label={t("condition")}
            onChange={onChange}
            onNone={needed ? undefined : () => onChange(withClauses(draft, "when", null))}
          />
          {draft.clauses.when && <span className="-ml-1">,</span>}
        </>
      )}
    </>
  );
}
