// Values that are proposed, which the person applies or leaves.
import { Button } from "../../../ui/button";
import { ChoicePart } from "../../../ui/choice-part";
import { Line } from "../../../ui/inputs";
import { words } from "../../../words";
import type { RuleOf } from "../../form/rule";
import { firstOf, type KindOf, type KindProps, said } from "./kind";
import { ValueFormula } from "./value-formula";

const t = words("rules");

function Parts({ form, draft, reading, rule, onChange }: KindProps<"propose">) {
  const put = (part: Partial<RuleOf<"propose">>) =>
    onChange({ ...draft, rule: { ...rule, ...part } });
  const options = form.fields.map((f) => ({ value: f.field.key, label: f.field.label }));
  const putSet = (index: number, part: Partial<(typeof rule.sets)[number]>) =>
    put({ sets: rule.sets.map((one, at) => (at === index ? { ...one, ...part } : one)) });
  const free = options.find(({ value }) => !rule.sets.some((one) => one.field === value));
  return (
    <>
      <span>{t("called")}</span>
      <input
        aria-label={t("title_of_the_proposal")}
        className="line-input w-56 font-sans text-base"
        spellCheck
        value={rule.title}
        onChange={(event) => put({ title: event.target.value })}
      />
      {rule.sets.map((one, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a proposed value has no identity but its place
        <span key={index} className="flex w-full flex-wrap items-baseline gap-1">
          <span>{index === 0 ? t("that_sets") : t("and_2")}</span>
          <ChoicePart
            label={t("field_proposed_for_number_value", { value: index + 1 })}
            italic
            value={one.field}
            groups={[{ options }]}
            onChoose={(field) => putSet(index, { field })}
          />
          <span>{t("to")}</span>
          <ValueFormula
            form={form}
            reading={reading}
            place={`sets.${index}`}
            label={t("formula_of_the_proposed_value_number_value", { value: index + 1 })}
            value={one.value}
            onChange={(value) => putSet(index, { value })}
          />
          {rule.sets.length > 1 && (
            <Button
              look="quiet"
              className="font-sans"
              onClick={() => put({ sets: rule.sets.filter((_, at) => at !== index) })}
            >
              {t("remove_this")}
            </Button>
          )}
        </span>
      ))}
      {free && (
        <Button
          look="quiet"
          className="font-sans text-sm"
          onClick={() => put({ sets: [...rule.sets, { field: free.value, value: "" }] })}
        >
          {t("one_more_field")}
        </Button>
      )}
    </>
  );
}

function Words({ draft, rule, onChange }: KindProps<"propose">) {
  return (
    <Line
      label={t("explanation_of_the_proposal")}
      value={rule.explanation}
      onChange={(explanation) => onChange({ ...draft, rule: { ...rule, explanation } })}
    />
  );
}

/** While its one value is not said yet, it is proposed for the field that the rule is about. */
function retargeted(rule: RuleOf<"propose">): RuleOf<"propose"> {
  const [only, second] = rule.sets;
  if (!only || second || only.value) return rule;
  return { ...rule, sets: [{ field: rule.targets[0] ?? only.field, value: "" }] };
}

export const propose: KindOf<"propose"> = {
  kind: "propose",
  heading: "value",
  together: "Proposals",
  ...said("propose", t("leads_to_a_proposal")),
  shows: null,
  order: "targets_verb",
  checks: false,
  needsCondition: false,
  begins: (targets, fields) => ({
    own: {
      title: "",
      explanation: "",
      sets: [{ field: targets[0] ?? firstOf(targets, fields)?.field.key ?? "", value: "" }],
    },
    clauses: {},
  }),
  retargeted,
  Before: null,
  Parts,
  Words,
  quick: null,
};
