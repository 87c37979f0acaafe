// Fields that are computed.

import { words } from "../../../words";
import { asItIs, type KindOf, type KindProps, said } from "./kind";
import { ValueFormula } from "./value-formula";

const t = words("rules");

function Parts({ form, draft, reading, rule, onChange }: KindProps<"derive">) {
  return (
    <>
      <span>{t("as")}</span>
      <ValueFormula
        form={form}
        reading={reading}
        place="value"
        label={t("formula_of_the_value")}
        value={rule.value}
        onChange={(value) => onChange({ ...draft, rule: { ...rule, value } })}
      />
    </>
  );
}

export const derive: KindOf<"derive"> = {
  kind: "derive",
  heading: "value",
  together: t("what_is_computed"),
  ...said("derive", t("is_computed")),
  shows: null,
  order: "targets_verb",
  checks: false,
  needsCondition: false,
  begins: () => ({ own: { value: "" }, clauses: {} }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: t("it_is_computed"), fits: null, next: true },
};
