// What the rule says of its targets: the part of the sentence after the condition.
import { ChoicePart } from "../../ui/choice-part";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import type { Rule } from "../form/rule";
import { withKind, withTargets } from "./beginning";
import { ALL_KINDS, kindOf } from "./kinds";
import type { Heading, PartProps } from "./kinds/kind";

const t = words("rules");

const HEADINGS: Heading[] = ["must", "asked", "value"];
const HEADING_WORDS: Record<Heading, string> = {
  must: t("must_be_true_heading"),
  asked: t("what_is_asked"),
  value: t("which_value_it_has"),
};
const GROUPS = HEADINGS.map((heading) => ({
  label: HEADING_WORDS[heading],
  options: ALL_KINDS.filter((kind) => kind.heading === heading).flatMap(({ options }) => options),
}));

export function Obligation(props: PartProps) {
  const { form, draft, onChange } = props;
  const { rule } = draft;
  const said = kindOf(rule);
  const { Before, Parts } = said;
  function choose(value: string) {
    const kind = ALL_KINDS.find(({ options }) => options.some((one) => one.value === value));
    const option = kind?.options.find((one) => one.value === value);
    if (!kind || !option) return;
    const chosen = withKind(draft, kind.kind, form.fields);
    onChange({ ...chosen, rule: { ...chosen.rule, ...option.as } as Rule });
  }
  const targets = (
    <ListInput
      label={t("fields_the_rule_is_about")}
      italic
      values={rule.targets}
      options={form.fields.map((f) => ({ value: f.field.key, label: f.field.label }))}
      empty={t("which_field")}
      onChange={(next) => onChange(withTargets(draft, next, form.fields))}
    />
  );
  const verb = (
    <ChoicePart
      label={t("what_must_be_true")}
      value={said.chosen(rule)}
      shows={said.shows ?? undefined}
      groups={GROUPS}
      onChoose={choose}
    />
  );
  const parts = Parts && <Parts {...props} rule={rule} />;
  switch (said.order) {
    case "verb_targets":
      return (
        <>
          {verb}
          {targets}
          {parts}
        </>
      );
    case "verb_told_at_targets":
      return (
        <>
          {verb}
          {parts}
          <span className="-ml-1">{t("told_at")}</span>
          {targets}
        </>
      );
    case "targets_verb":
      return (
        <>
          {Before && <Before {...props} rule={rule} />}
          {targets}
          {verb}
          {parts}
        </>
      );
  }
}
