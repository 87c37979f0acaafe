// The bounds of a range, of a value, of a text's length or of the number of choices.
import { ChoicePart } from "../../../ui/choice-part";
import { DayInput } from "../../../ui/day-input";
import { words } from "../../../words";
import { ALL_TYPES } from "../../field-types";
import type { FieldView, RuleOf } from "../../form/rule";
import { type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

type RangeRule = RuleOf<"range">;
type Bound = NonNullable<RangeRule["lower"]>;

const LOWER = [
  { value: "inclusive", label: t("at_least") },
  { value: "exclusive", label: t("more_than") },
  { value: "none", label: t("no_lowest") },
];
const UPPER = [
  { value: "inclusive", label: t("at_most") },
  { value: "exclusive", label: t("less_than") },
  { value: "none", label: t("no_highest") },
];
const WORDS_FOR_DAYS = /today/;
const UNITS = { value: "", length: "characters", count: "choices" };

function Parts({ form, draft, rule, onChange }: KindProps<"range">) {
  const put = (part: Partial<RangeRule>) => onChange({ ...draft, rule: { ...rule, ...part } });
  const type = form.fields.find((one) => one.field.key === rule.targets[0])?.field.type;
  const measures = [
    { value: "value", label: t("in_value") },
    ...(type === "text" || rule.of === "length"
      ? [{ value: "length", label: t("in_length") }]
      : []),
    ...(type === "choices" || rule.of === "count"
      ? [{ value: "count", label: t("in_number_of_choices") }]
      : []),
  ];
  return (
    <>
      {measures.length > 1 && (
        <ChoicePart
          label={t("what_is_measured")}
          value={rule.of}
          groups={[{ options: measures }]}
          onChoose={(of) => put({ of: of as RangeRule["of"] })}
        />
      )}
      <BoundParts
        label={t("lower_bound")}
        options={LOWER}
        bound={rule.lower ?? null}
        isDay={type === "date" && rule.of === "value"}
        onChange={(lower) => put({ lower })}
      />
      <span>{t("and_2")}</span>
      <BoundParts
        label={t("upper_bound")}
        options={UPPER}
        bound={rule.upper ?? null}
        isDay={type === "date" && rule.of === "value"}
        onChange={(upper) => put({ upper })}
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
        label={t("included_or_not", { label })}
        value={how}
        groups={[{ options }]}
        onChoose={choose}
      />
      {bound && isDay && (
        <DayInput
          label={label}
          className="line-input w-44 font-sans text-base"
          placeholder={t("a_day_or_today")}
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

/** What a range of a field measures, unless it is said otherwise. */
function measureOf(targets: readonly string[], fields: FieldView[]): RangeRule["of"] {
  const type = fields.find((one) => one.field.key === targets[0])?.field.type;
  return type === "choices" ? "count" : type === "text" ? "length" : "value";
}

/** How many there may be has no lowest number, mostly; a value has both. */
function blank(of: RangeRule["of"]) {
  const bound = { value: "", inclusive: true };
  return { of, lower: of === "value" ? bound : null, upper: bound };
}

/** A range that measured what its new field does not have begins anew. */
function retargeted(rule: RangeRule, before: readonly string[], fields: FieldView[]): RangeRule {
  const of = measureOf(rule.targets, fields);
  return before[0] === rule.targets[0] || of === rule.of ? rule : { ...rule, ...blank(of) };
}

export const range: KindOf<"range"> = {
  kind: "range",
  heading: "must",
  together: "Ranges",
  ...said("range", t("must_lie_between")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: (targets, fields) => ({ own: blank(measureOf(targets, fields)), clauses: {} }),
  retargeted,
  Before: null,
  Parts,
  Words: null,
  quick: {
    words: t("it_lies_between"),
    fits: ALL_TYPES.filter(({ isBounded }) => isBounded).map(({ type }) => type),
    next: true,
  },
};
