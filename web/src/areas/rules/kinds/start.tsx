// Values that new records start with.
import { ChoicePart } from "../../../ui/choice-part";
import { DayInput } from "../../../ui/day-input";
import type { Rule } from "../../form/rule";
import { answersIn } from "../operand-part";
import { asItIs, type KindOf, type KindProps, said } from "./kind";
import { ValueFormula } from "./value-formula";

const WAYS = [
  { value: "value", label: "the value" },
  { value: "formula", label: "what a formula gives" },
];

function Parts({ form, draft, reading, rule, onChange }: KindProps<"start">) {
  const byFormula = rule.formula !== null && rule.formula !== undefined;
  const put = (next: Rule) => onChange({ ...draft, rule: next });
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  const answers = answersIn(target?.subjects[0]);
  return (
    <>
      <ChoicePart
        label="What it starts as"
        value={byFormula ? "formula" : "value"}
        groups={[{ options: WAYS }]}
        onChoose={(way) =>
          put(
            way === "formula"
              ? { ...rule, value: null, formula: "today" }
              : { ...rule, value: "", formula: null },
          )
        }
      />
      {byFormula ? (
        <ValueFormula
          form={form}
          reading={reading}
          place="formula"
          label="Formula of the starting value"
          value={rule.formula ?? ""}
          onChange={(formula) => put({ ...rule, formula })}
        />
      ) : answers ? (
        <ChoicePart
          label="Starting value"
          value={rule.value ?? ""}
          placeholder="which answer?"
          groups={[{ options: answers.map((one) => ({ value: one.value, label: one.label })) }]}
          onChoose={(value) => put({ ...rule, value })}
        />
      ) : target?.field.type === "date" ? (
        <DayInput
          label="Starting value"
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(value) => put({ ...rule, value })}
        />
      ) : (
        <input
          aria-label="Starting value"
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(event) => put({ ...rule, value: event.target.value })}
        />
      )}
    </>
  );
}

export const start: KindOf<"start"> = {
  kind: "start",
  heading: "which value it has",
  together: "What a record starts with",
  ...said("start", "starts as"),
  shows: null,
  order: "targets, verb",
  checks: false,
  needsCondition: false,
  begins: () => ({ own: { value: "", formula: null }, clauses: {} }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: { words: "it starts as", fits: null, next: true },
};
