// A named condition: the same clauses and the same formula as in a rule.

import { words } from "../../words";
import type { FormView } from "../form/form";
import { WrittenCondition } from "../rules/written-condition";
import type { Named } from "./setup-draft";

const t = words("setup");

type Props = {
  form: FormView;
  named: Named;
  usedBy: readonly string[];
  onChange: (next: Named) => void;
};

export function ConditionPart({ form, named, usedBy, onChange }: Props) {
  const names = form.rules.filter(({ rule }) => usedBy.includes(rule.key)).map((v) => v.called);
  return (
    <div className="mt-1">
      <WrittenCondition
        form={form}
        written={{ condition: named.condition, clauses: named.clauses ?? null }}
        begin={t("it_is_met_when")}
        onChange={(written) => onChange({ ...named, ...written })}
      />
      {names.length > 0 && (
        <p className="text-sm text-muted">{t("called_by_join", { join: names.join(", ") })}</p>
      )}
    </div>
  );
}
