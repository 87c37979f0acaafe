// What a field is compared with: a value, several, a range, another field, or today.
import { memo, useId } from "react";
import { ChoicePart, type OptionGroup } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { FieldView, Operand, Subject } from "../form/rule";

const t = words("rules");

type Props = {
  form: FormView;
  field: FieldView;
  subject: Subject;
  operand: Operand;
  label: string;
  others: boolean;
  onChange: (operand: Operand) => void;
};

const VALUE = "value:";
const FIELD = "field:";
const TODAY = "today";
const UNSHIFTED = { plus: 0, unit: "days" } as const;

/** More answers than these are written, with completion, and not shown as a list. */
const FEW = 150;

/** The answers of a part of a field, where they are few enough to choose from. */
export function answersIn(subject: Subject | undefined) {
  const answers = subject?.answers;
  return answers && answers.length <= FEW ? answers : null;
}

/** The answers a field offers, where it offers a list that can be chosen from. */
export function answersOf({ subjects }: FieldView) {
  return answersIn(subjects[0]);
}

export function OperandPart(props: Props) {
  const { operand, label, subject, onChange } = props;
  switch (operand.kind) {
    case "values":
      return (
        <ListInput
          label={label}
          values={operand.values}
          options={answersIn(subject)}
          onChange={(values) => onChange({ kind: "values", values })}
        />
      );
    case "between":
      return (
        <BetweenParts
          operand={operand}
          label={label}
          isDay={subject.type === "date"}
          onChange={onChange}
        />
      );
    default:
      return <OnePart {...props} operand={operand} />;
  }
}

type One = Exclude<Operand, { kind: "values" | "between" }>;

function OnePart(props: Props & { operand: One }) {
  const { form, field, subject, operand, label, others, onChange } = props;
  const answers = answersIn(subject);
  const completions = useId();
  const many = answers ? [] : (subject.answers ?? []);
  const written = operand.kind === "value" ? String(operand.value) : "";
  const groups: OptionGroup[] = [];
  if (answers)
    groups.push({ options: answers.map((a) => ({ value: VALUE + a.value, label: a.label })) });
  else groups.push({ options: [{ value: VALUE, label: t("the_value") }] });
  if (subject.type === "date") groups.push({ options: [{ value: TODAY, label: t("today") }] });
  if (subject.part === "value") groups.push(...fieldGroups(form, field, subject, others));

  function choose(chosen: string) {
    if (chosen === TODAY) return onChange({ kind: "today", ...UNSHIFTED });
    if (!chosen.startsWith(FIELD))
      return onChange({ kind: "value", value: chosen.slice(VALUE.length) });
    const [part = "value", key = ""] = chosen.slice(FIELD.length).split(":");
    onChange({ kind: "field", field: key, part, ...UNSHIFTED });
  }
  const chosen =
    operand.kind === "field"
      ? `${FIELD}${operand.part}:${operand.field}`
      : operand.kind === "today"
        ? TODAY
        : answers && written === ""
          ? ""
          : VALUE + (answers ? written : "");
  return (
    <>
      {(answers || groups.length > 1) && (
        <ChoicePart
          label={answers ? label : t("what_kind", { label })}
          italic={operand.kind === "field"}
          value={chosen}
          groups={groups}
          placeholder={t("which_answer")}
          onChoose={choose}
        />
      )}
      {!answers && operand.kind === "value" && subject.type === "date" && (
        <DayInput
          label={label}
          className="line-input w-44 font-sans text-base"
          value={written}
          onChange={(value) => onChange({ kind: "value", value })}
        />
      )}
      {!answers && operand.kind === "value" && subject.type !== "date" && (
        <input
          aria-label={label}
          className="line-input w-44 font-sans text-base"
          list={many.length > 0 ? completions : undefined}
          value={written}
          onChange={(event) => onChange({ kind: "value", value: event.target.value })}
        />
      )}
      {many.length > 0 && <Completions id={completions} answers={many} />}
      {operand.kind !== "value" && subject.type === "date" && (
        <Shift label={label} operand={operand} onChange={onChange} />
      )}
    </>
  );
}

/** What a browser completes a written answer from. */
const Completions = memo(function Completions(props: {
  id: string;
  answers: NonNullable<Subject["answers"]>;
}) {
  return (
    <datalist id={props.id}>
      {props.answers.map(({ value, label }) => (
        <option key={value} value={label} />
      ))}
    </datalist>
  );
});

/** The fields it can be compared with: of its own type, and itself as it was before. */
function fieldGroups(
  form: FormView,
  field: FieldView,
  subject: Subject,
  others: boolean,
): OptionGroup[] {
  const alike = form.fields.filter(
    (one) => one.subjects[0]?.type === subject.type && (others || one !== field),
  );
  const groups: OptionGroup[] = [];
  if (alike.length > 0)
    groups.push({
      label: others ? t("in_this_record") : t("the_field"),
      options: alike.map((f) => ({
        value: `${FIELD}value:${f.field.key}`,
        label: others ? t("this_label", { label: f.field.label }) : f.field.label,
      })),
    });
  if (!others)
    groups.push({
      label: t("before_the_change"),
      options: [field, ...alike].map((f) => ({
        value: `${FIELD}before:${f.field.key}`,
        label: t("label_as_it_was_before", { label: f.field.label }),
      })),
    });
  return groups;
}

const NONE = "none";
const WAYS = [
  { value: NONE, label: t("itself") },
  { value: "later", label: t("plus") },
  { value: "earlier", label: t("minus") },
];
const UNITS = ["days", "months", "years"].map((unit) => ({ value: unit, label: unit }));
type Shifted = Extract<Operand, { plus: number }>;
type ShiftProps = { label: string; operand: Shifted; onChange: (operand: Shifted) => void };

function Shift({ label, operand, onChange }: ShiftProps) {
  const { plus, unit } = operand;
  const way = plus === 0 ? NONE : plus > 0 ? "later" : "earlier";
  function choose(next: string) {
    const size = Math.abs(plus) || 1;
    onChange({ ...operand, plus: next === NONE ? 0 : next === "later" ? size : -size });
  }
  return (
    <>
      <ChoicePart
        label={t("plus_or_minus", { label })}
        value={way}
        groups={[{ options: WAYS }]}
        onChoose={choose}
      />
      {plus !== 0 && (
        <>
          <input
            type="number"
            min={1}
            aria-label={t("by_how_many", { label })}
            className="line-input w-20 font-sans text-base"
            value={Math.abs(plus)}
            onChange={(event) => {
              const size = Math.max(1, Math.round(Number(event.target.value)) || 1);
              onChange({ ...operand, plus: plus > 0 ? size : -size });
            }}
          />
          <ChoicePart
            label={t("unit_of_days", { label })}
            value={unit}
            groups={[{ options: UNITS }]}
            onChoose={(next) => onChange({ ...operand, unit: next as Shifted["unit"] })}
          />
        </>
      )}
    </>
  );
}

type Between = Extract<Operand, { kind: "between" }>;
type BetweenProps = {
  operand: Between;
  label: string;
  isDay: boolean;
  onChange: (operand: Between) => void;
};
const ENDS = [
  { value: "yes-yes", label: t("both_included") },
  { value: "no-yes", label: t("without_the_first") },
  { value: "yes-no", label: t("without_the_last") },
  { value: "no-no", label: t("without_either") },
];
const said = (included: boolean) => (included ? "yes" : "no");

function BetweenParts({ operand, label, isDay, onChange }: BetweenProps) {
  const end = (name: string, value: string, put: (value: string) => void) =>
    isDay ? (
      <DayInput
        label={`${label}: ${name}`}
        className="line-input w-44 font-sans text-base"
        value={value}
        onChange={put}
      />
    ) : (
      <input
        aria-label={`${label}: ${name}`}
        className="line-input w-32 font-sans text-base"
        value={value}
        onChange={(event) => put(event.target.value)}
      />
    );
  return (
    <>
      {end("from", operand.low, (low) => onChange({ ...operand, low }))}
      <span>{t("and_2")}</span>
      {end("to", operand.high, (high) => onChange({ ...operand, high }))}
      <ChoicePart
        label={t("which_ends", { label })}
        value={`${said(operand.low_included)}-${said(operand.high_included)}`}
        groups={[{ options: ENDS }]}
        onChoose={(chosen) => {
          const [low, high] = chosen.split("-");
          onChange({ ...operand, low_included: low === "yes", high_included: high === "yes" });
        }}
      />
    </>
  );
}
