// Fields that are computed.
import { asItIs, type KindOf, type KindProps, said } from "./kind";
import { ValueFormula } from "./value-formula";

function Parts({ form, draft, reading, rule, onChange }: KindProps<"derive">) {
  return (
    <>
      <span>as</span>
      <ValueFormula
        form={form}
        reading={reading}
        place="value"
        label="Formula of the value"
        value={rule.value}
        onChange={(value) => onChange({ ...draft, rule: { ...rule, value } })}
      />
    </>
  );
}

export const derive: KindOf<"derive"> = {
  kind: "derive",
  heading: "which value it has",
  together: "What is computed",
  ...said("derive", "is computed"),
  shows: null,
  order: "targets, verb",
  checks: false,
  needsCondition: false,
  begins: () => ({ own: { value: "" }, clauses: {} }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: "it is computed", fits: null, next: true },
};
