// The bounds of a range, of a value, of a text's length or of the number of choices.
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import type { FormView } from "../frame/form";
import type { RuleOf } from "./draft";

type RangeRule = RuleOf<"range">;
type Bound = NonNullable<RangeRule["lower"]>;
type Props = { form: FormView; rule: RangeRule; onChange: (rule: RangeRule) => void };

const LOWER = [
  { value: "inclusive", label: "at least" },
  { value: "exclusive", label: "more than" },
  { value: "none", label: "no lowest" },
];
const UPPER = [
  { value: "inclusive", label: "at most" },
  { value: "exclusive", label: "less than" },
  { value: "none", label: "no highest" },
];
const WORDS_FOR_DAYS = /today/;
const UNITS = { value: "", length: "characters", count: "choices" };

export function RangeParts({ form, rule, onChange }: Props) {
  const type = form.fields.find((one) => one.field.key === rule.targets[0])?.field.type;
  const measures = [
    { value: "value", label: "in value" },
    ...(type === "text" || rule.of === "length" ? [{ value: "length", label: "in length" }] : []),
    ...(type === "choices" || rule.of === "count"
      ? [{ value: "count", label: "in number of choices" }]
      : []),
  ];
  return (
    <>
      {measures.length > 1 && (
        <ChoicePart
          label="What is measured"
          value={rule.of}
          groups={[{ options: measures }]}
          onChoose={(of) => onChange({ ...rule, of: of as RangeRule["of"] })}
        />
      )}
      <BoundParts
        label="Lower bound"
        options={LOWER}
        bound={rule.lower ?? null}
        isDay={type === "date" && rule.of === "value"}
        onChange={(lower) => onChange({ ...rule, lower })}
      />
      <span>and</span>
      <BoundParts
        label="Upper bound"
        options={UPPER}
        bound={rule.upper ?? null}
        isDay={type === "date" && rule.of === "value"}
        onChange={(upper) => onChange({ ...rule, upper })}
      />
      {UNITS[rule.of] && <span>{UNITS[rule.of]}</span>}
    </>
  );
}

type BoundProps = {
  label: string;
  options: { value: string; label: string }[];
  bound: Bound | null;
  isDay: boolean;
  onChange: (bound: Bound | null) => void;
};

function BoundParts({ label, options, bound, isDay, onChange }: BoundProps) {
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
      {bound && isDay && (
        <DayInput
          label={label}
          className="line-input w-44 font-sans text-base"
          placeholder="a day, or today"
          words={WORDS_FOR_DAYS}
          value={bound.value}
          onChange={(value) => onChange({ ...bound, value })}
        />
      )}
      {bound && !isDay && (
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
