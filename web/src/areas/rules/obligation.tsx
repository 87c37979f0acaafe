// What the rule demands of its targets: the part of the sentence after the condition.
import { ChoicePart } from "../../ui/choice-part";
import type { FormView } from "../frame/form-frame";
import { Condition } from "./condition";
import { type Kind, type Rule, type RuleDraft, withKind } from "./draft";
import { FormatParts } from "./format-parts";
import { ListInput } from "./list-input";
import { answersOf } from "./operand-part";

type Props = { form: FormView; draft: RuleDraft; onChange: (draft: RuleDraft) => void };
type RangeRule = Extract<Rule, { kind: "range" }>;
type AllowedRule = Extract<Rule, { kind: "allowed_values" }>;
type Bound = NonNullable<RangeRule["lower"]>;

const KINDS: { value: Kind; label: string }[] = [
  { value: "mandatory", label: "must be filled in" },
  { value: "range", label: "must lie between" },
  { value: "allowed_values", label: "must be one of" },
  { value: "format", label: "must be written as" },
  { value: "cross_field", label: "it must hold that" },
];

export function Obligation({ form, draft, onChange }: Props) {
  const { rule } = draft;
  const targets = (
    <ListInput
      label="Fields the rule is about"
      italic
      values={rule.targets}
      options={form.fields.map((f) => ({ value: f.field.key, label: f.field.label }))}
      onChange={(next) => onChange({ ...draft, rule: { ...rule, targets: next } })}
    />
  );
  const kind = (
    <ChoicePart
      label="What must hold"
      value={rule.kind}
      groups={[{ options: KINDS }]}
      onChoose={(next) => onChange(withKind(draft, next as Kind, form.fields))}
    />
  );
  if (rule.kind === "cross_field")
    return (
      <>
        {kind}
        <CrossParts form={form} draft={draft} onChange={onChange} />
        <span className="-ml-1">, told at</span>
        {targets}
      </>
    );
  return (
    <>
      {targets}
      {kind}
      {rule.kind === "range" && (
        <RangeParts rule={rule} onChange={(next) => onChange({ ...draft, rule: next })} />
      )}
      {rule.kind === "format" && (
        <FormatParts rule={rule} onChange={(next) => onChange({ ...draft, rule: next })} />
      )}
      {rule.kind === "allowed_values" && (
        <AllowedParts
          form={form}
          rule={rule}
          onChange={(next) => onChange({ ...draft, rule: next })}
        />
      )}
    </>
  );
}

const LOWER = [
  { value: "inclusive", label: "at least" },
  { value: "exclusive", label: "more than" },
  { value: "none", label: "no lowest value" },
];
const UPPER = [
  { value: "inclusive", label: "at most" },
  { value: "exclusive", label: "less than" },
  { value: "none", label: "no highest value" },
];

function RangeParts({ rule, onChange }: { rule: RangeRule; onChange: (rule: RangeRule) => void }) {
  return (
    <>
      <BoundParts
        label="Lower bound"
        options={LOWER}
        bound={rule.lower ?? null}
        onChange={(lower) => onChange({ ...rule, lower })}
      />
      <span>and</span>
      <BoundParts
        label="Upper bound"
        options={UPPER}
        bound={rule.upper ?? null}
        onChange={(upper) => onChange({ ...rule, upper })}
      />
    </>
  );
}

type BoundProps = {
  label: string;
  options: { value: string; label: string }[];
  bound: Bound | null;
  onChange: (bound: Bound | null) => void;
};

function BoundParts({ label, options, bound, onChange }: BoundProps) {
  const how = bound === null ? "none" : bound.inclusive ? "inclusive" : "exclusive";
  function choose(next: string) {
    onChange(
      next === "none" ? null : { value: bound?.value ?? "", inclusive: next === "inclusive" },
    );
  }
  return (
    <>
      <ChoicePart
        label={`${label}: included or not`}
        value={how}
        groups={[{ options }]}
        onChoose={choose}
      />
      {bound && (
        <input
          aria-label={label}
          className="line-input w-36 font-sans text-base"
          value={bound.value}
          onChange={(event) => onChange({ ...bound, value: event.target.value })}
        />
      )}
    </>
  );
}

type AllowedProps = {
  form: FormView;
  rule: AllowedRule;
  onChange: (rule: AllowedRule) => void;
};

function AllowedParts({ form, rule, onChange }: AllowedProps) {
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  return (
    <>
      <ListInput
        key={rule.key}
        label="Allowed values"
        values={rule.values}
        options={target ? answersOf(target) : null}
        onChange={(values) => onChange({ ...rule, values })}
      />
      {target?.field.type === "text" && (
        <ChoicePart
          label="Capitals and small letters"
          value={rule.ignore_case ? "ignored" : "counted"}
          groups={[
            {
              options: [
                { value: "counted", label: "written exactly so" },
                { value: "ignored", label: "in capitals or small letters" },
              ],
            },
          ]}
          onChoose={(value) => onChange({ ...rule, ignore_case: value === "ignored" })}
        />
      )}
    </>
  );
}

function CrossParts({ form, draft, onChange }: Props) {
  if (draft.must)
    return (
      <Condition
        form={form}
        whole={draft.must}
        label="constraint"
        onChange={(must) => onChange(must ? { ...draft, must } : withKind(draft, "mandatory", []))}
      />
    );
  const { rule } = draft;
  if (rule.kind !== "cross_field") return null;
  return (
    <input
      aria-label="Constraint as a formula"
      className="line-input grow font-mono text-base"
      spellCheck={false}
      value={rule.must}
      onChange={(event) => onChange({ ...draft, rule: { ...rule, must: event.target.value } })}
    />
  );
}
