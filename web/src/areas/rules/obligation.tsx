// What the rule says of its targets: the part of the sentence after the condition.
import { ChoicePart } from "../../ui/choice-part";
import type { FormView } from "../frame/form";
import { AllowedParts } from "./allowed-parts";
import { ClausePlace, type Reading } from "./clause-place";
import { type Kind, type Rule, type RuleDraft, type RuleOf, withKind, withTargets } from "./draft";
import { DeriveParts, ProposeParts, StartParts } from "./effect-parts";
import { FormatParts } from "./format-parts";
import { ListInput } from "./list-input";
import { RangeParts } from "./range-parts";

export type PartProps = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  onChange: (draft: RuleDraft) => void;
};

type Words = Record<string, { value: Kind | `group:${Quantity}`; label: string }[]>;
type Quantity = RuleOf<"group">["quantity"];

const KINDS: Words = {
  "what must be true": [
    { value: "mandatory", label: "is needed" },
    { value: "range", label: "must lie between" },
    { value: "allowed_values", label: "must be one of" },
    { value: "format", label: "must be written as" },
    { value: "cross_field", label: "it must be true that" },
    { value: "group:at_least_one", label: "must have a value, at least one of them" },
    { value: "group:exactly_one", label: "must have a value, exactly one of them" },
    { value: "group:all_or_none", label: "must have a value, all or none of them" },
    { value: "unique", label: "no two records may share" },
    { value: "elsewhere", label: "there must be no other record where" },
    { value: "entered_twice", label: "must be entered twice alike" },
    { value: "consent", label: "must be agreed to" },
  ],
  "what is asked": [
    { value: "open", label: "is asked only then" },
    { value: "close", label: "is not asked then" },
    { value: "lock", label: "is locked" },
    { value: "wait", label: "waits until" },
  ],
  "which value it has": [
    { value: "derive", label: "is computed" },
    { value: "start", label: "starts as" },
    { value: "propose", label: "leads to a proposal" },
  ],
};
const GROUPS = Object.entries(KINDS).map(([label, options]) => ({ label, options }));
/** The kinds whose verb stands before the fields: “it must hold that …, told at …”. */
const VERB_FIRST: Kind[] = ["cross_field", "elsewhere"];

export function Obligation(props: PartProps) {
  const { form, draft, onChange } = props;
  const { rule } = draft;
  const verbFirst = VERB_FIRST.includes(rule.kind);
  const targets = (
    <ListInput
      label="Fields the rule is about"
      italic
      values={rule.targets}
      options={form.fields.map((f) => ({ value: f.field.key, label: f.field.label }))}
      empty="which field?"
      onChange={(next) => onChange(withTargets(draft, next, form.fields))}
    />
  );
  const kind = (
    <ChoicePart
      label="What must be true"
      value={rule.kind === "group" ? `group:${rule.quantity}` : rule.kind}
      shows={rule.kind === "group" ? "must have a value" : undefined}
      groups={GROUPS}
      onChoose={(next) => {
        const [kind, quantity] = next.split(":") as [Kind, Quantity | undefined];
        const chosen = withKind(draft, kind, form.fields);
        const whole = quantity ? { ...chosen.rule, quantity } : chosen.rule;
        onChange({ ...chosen, rule: whole as Rule });
      }}
    />
  );
  if (rule.kind === "unique")
    return (
      <>
        {kind}
        {targets}
      </>
    );
  if (verbFirst)
    return (
      <>
        {kind}
        <ClausePlace
          {...props}
          place={rule.kind === "cross_field" ? "must" : "no_other"}
          label="constraint"
          others={rule.kind === "elsewhere"}
        />
        <span className="-ml-1">, told at</span>
        {targets}
      </>
    );
  return (
    <>
      {rule.kind === "group" && <Quantity {...props} rule={rule} />}
      {targets}
      {kind}
      <KindParts {...props} rule={rule} />
    </>
  );
}

function KindParts({ rule, ...props }: PartProps & { rule: Rule }) {
  const { form, draft, onChange } = props;
  const put = (next: Rule) => onChange({ ...draft, rule: next });
  switch (rule.kind) {
    case "range":
      return <RangeParts form={form} rule={rule} onChange={put} />;
    case "format":
      return <FormatParts rule={rule} onChange={put} />;
    case "allowed_values":
      return <AllowedParts form={form} rule={rule} onChange={put} />;
    case "wait":
      return <ClausePlace {...props} place="until" label="condition waited for" />;
    case "open":
      return (
        <Shown
          value={rule.otherwise}
          words="otherwise"
          onChoose={(otherwise) => put({ ...rule, otherwise })}
        />
      );
    case "close":
      return (
        <Shown value={rule.shown} words="and is" onChoose={(shown) => put({ ...rule, shown })} />
      );
    case "derive":
      return <DeriveParts {...props} rule={rule} />;
    case "start":
      return <StartParts {...props} rule={rule} />;
    case "propose":
      return <ProposeParts {...props} rule={rule} />;
    default:
      return null;
  }
}

const QUANTITIES = [
  { value: "at_least_one", label: "At least one of" },
  { value: "exactly_one", label: "Exactly one of" },
  { value: "all_or_none", label: "Either all or none of" },
];

function Quantity({ draft, rule, onChange }: PartProps & { rule: RuleOf<"group"> }) {
  return (
    <ChoicePart
      label="How many of the fields"
      value={rule.quantity}
      groups={[{ options: QUANTITIES }]}
      onChoose={(quantity) =>
        onChange({
          ...draft,
          rule: { ...rule, quantity: quantity as RuleOf<"group">["quantity"] },
        })
      }
    />
  );
}

type Showing = "hidden" | "closed";
const SHOWN = [
  { value: "hidden", label: "hidden" },
  { value: "closed", label: "shown, and cannot be entered" },
];

type ShownProps = { value: Showing; words: string; onChoose: (value: Showing) => void };

function Shown({ value, words, onChoose }: ShownProps) {
  return (
    <>
      <span className="-ml-1">, {words}</span>
      <ChoicePart
        label="How it is shown while it is not asked"
        value={value}
        groups={[{ options: SHOWN }]}
        onChoose={(next) => onChoose(next as Showing)}
      />
    </>
  );
}
