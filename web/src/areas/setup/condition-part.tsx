// A named condition: the same clauses and the same formula as in a rule.

import { ProblemList } from "../../ui/trouble";
import type { FormView } from "../form/form";
import type { Rule, RuleDraft } from "../form/rule";
import { newRule } from "../rules/beginning";
import { ClausePlace } from "../rules/clause-place";
import { formulaOf } from "../rules/clauses";
import { useReading } from "../rules/queries";
import type { Named } from "./setup-draft";

type Props = {
  form: FormView;
  named: Named;
  usedBy: readonly string[];
  onChange: (next: Named) => void;
};

export function ConditionPart({ form, named, usedBy, onChange }: Props) {
  // Read as the condition of a rule, which it will be.
  const begun = newRule(form.fields[0]?.field.key);
  const draft: RuleDraft = {
    rule: { ...begun.rule, when: named.condition } as Rule,
    clauses: named.clauses ? { when: named.clauses } : {},
  };
  const reading = useReading(form.key, draft).data;
  const names = form.rules.filter(({ rule }) => usedBy.includes(rule.key)).map((v) => v.called);
  function change({ rule, clauses }: RuleDraft) {
    const condition = formulaOf(rule, "when") ?? named.condition;
    onChange({ ...named, condition, clauses: clauses.when ?? null });
  }
  const problems = reading?.problems.filter(
    ({ place, unsaid }) =>
      !unsaid && (place.startsWith("when") || place.startsWith("clauses.when")),
  );
  return (
    <div className="mt-1">
      <div className="flex flex-wrap items-baseline gap-x-1 font-serif text-[1.2rem]">
        <span>It is met when</span>
        <ClausePlace
          form={form}
          draft={draft}
          reading={reading}
          place="when"
          label="condition"
          onChange={change}
        />
      </div>
      {(named.condition !== "" || named.clauses) && problems && problems.length > 0 && (
        <div className="text-madder">
          <ProblemList items={problems} />
        </div>
      )}
      {names.length > 0 && <p className="text-sm text-muted">Called by {names.join(", ")}.</p>}
    </div>
  );
}
