// A condition outside any rule, written with the same clauses and the same formula as in one.
import type { ReactNode } from "react";
import { ProblemList } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { ClauseGroup, Rule, RuleDraft } from "../form/rule";
import { newRule } from "./beginning";
import { ClausePlace } from "./clause-place";
import { formulaOf } from "./clauses";
import { useReading } from "./queries";

const t = words("rules");

export type Written = { condition: string; clauses: ClauseGroup | null };
type Props = {
  form: FormView;
  written: Written;
  /** How its sentence begins. */
  begin: ReactNode;
  onChange: (next: Written) => void;
  /** What happens when its last clause is removed; without it, a blank one stays. */
  onNone?: () => void;
};

export function WrittenCondition({ form, written, begin, onChange, ...rest }: Props) {
  // Read as the condition of a rule, which is what it looks like.
  const begun = newRule(form.fields[0]?.field.key);
  const draft: RuleDraft = {
    rule: { ...begun.rule, when: written.condition } as Rule,
    clauses: written.clauses ? { when: written.clauses } : {},
  };
  const reading = useReading(form.key, draft).data;
  function change({ rule, clauses }: RuleDraft) {
    const condition = formulaOf(rule, "when") ?? written.condition;
    onChange({ condition, clauses: clauses.when ?? null });
  }
  const problems = reading?.problems.filter(
    ({ place, unsaid }) =>
      !unsaid && (place.startsWith("when") || place.startsWith("clauses.when")),
  );
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-1 font-serif text-[1.2rem]">
        <span>{begin}</span>
        <ClausePlace
          form={form}
          draft={draft}
          reading={reading}
          place="when"
          label={t("condition")}
          onChange={change}
          {...rest}
        />
      </div>
      {(written.condition !== "" || written.clauses) && problems && problems.length > 0 && (
        <div className="text-madder">
          <ProblemList items={problems} />
        </div>
      )}
    </>
  );
}
