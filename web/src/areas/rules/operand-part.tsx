// What a field is compared with: a value in the field's own control, another field, or today.
import { ChoicePart, type OptionGroup } from "../../ui/choice-part";
import type { FormView } from "../frame/form-frame";
import type { FieldView, Operand } from "./draft";
import { ListInput } from "./list-input";

type Props = {
  form: FormView;
  field: FieldView;
  operand: Operand;
  label: string;
  onChange: (operand: Operand) => void;
};

const VALUE = "value:";
const FIELD = "field:";
const TODAY = "today";

/** The answers a field offers, where it offers a list of them. */
export function answersOf({ field }: FieldView) {
  if (field.type === "choice")
    return field.choices.map(({ code, label }) => ({ value: code, label }));
  if (field.type === "yes_no")
    return [
      { value: "true", label: "yes" },
      { value: "false", label: "no" },
    ];
  return null;
}

export function OperandPart({ form, field, operand, label, onChange }: Props) {
  const answers = answersOf(field);
  if (operand.kind === "values")
    return (
      <ListInput
        label={label}
        values={operand.values}
        options={answers}
        onChange={(values) => onChange({ kind: "values", values })}
      />
    );
  const written = operand.kind === "value" ? String(operand.value) : "";
  const groups: OptionGroup[] = [];
  if (answers)
    groups.push({ options: answers.map((a) => ({ value: VALUE + a.value, label: a.label })) });
  else groups.push({ options: [{ value: VALUE, label: "the value" }] });
  if (field.field.type === "date") groups.push({ options: [{ value: TODAY, label: "today" }] });
  const others = form.fields.filter(
    (one) => one.field.type === field.field.type && one.field.key !== field.field.key,
  );
  if (others.length > 0)
    groups.push({
      label: "the field",
      options: others.map((f) => ({ value: FIELD + f.field.key, label: f.field.label })),
    });

  function choose(chosen: string) {
    if (chosen === TODAY) onChange({ kind: "today" });
    else if (chosen.startsWith(FIELD))
      onChange({ kind: "field", field: chosen.slice(FIELD.length) });
    else onChange({ kind: "value", value: chosen.slice(VALUE.length) });
  }
  const chosen =
    operand.kind === "field"
      ? FIELD + operand.field
      : operand.kind === "today"
        ? TODAY
        : answers && written === ""
          ? ""
          : VALUE + (answers ? written : "");
  const needsKind = answers !== null || groups.length > 1;
  return (
    <>
      {needsKind && (
        <ChoicePart
          label={answers ? label : `${label}: what kind`}
          italic={operand.kind === "field"}
          value={chosen}
          groups={groups}
          placeholder="which answer?"
          onChoose={choose}
        />
      )}
      {!answers && operand.kind === "value" && (
        <input
          aria-label={label}
          className="line-input w-44 font-sans text-base"
          value={written}
          onChange={(event) => onChange({ kind: "value", value: event.target.value })}
        />
      )}
    </>
  );
}
