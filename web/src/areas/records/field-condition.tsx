// A condition on what a field holds, as a list is filtered by it.
import { X } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { words } from "../../words";
import { type Condition, needsValue, RELATIONS } from "./asking";

const t = words("records");

type Field = Schemas["DeskFormView"]["fields"][number];
type ConditionProps = {
  fields: readonly Field[];
  condition: Condition;
  number: number;
  onChange: (next: Condition) => void;
  onRemove: () => void;
};

function relationsOf(field: Field | undefined) {
  return Object.entries(RELATIONS).filter(([relation]) => {
    if (relation === "contains") return field?.type === "text";
    if (relation === "from" || relation === "to")
      return !["choice", "yes_no", "reference", "text"].includes(field?.type ?? "");
    return true;
  });
}

export function FieldCondition({ fields, condition, number, onChange, onRemove }: ConditionProps) {
  const field = fields.find(({ key }) => key === condition.field);
  const about = t("condition_number", { number });
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <LabelledSelect
        label={t("field_of_about", { about })}
        hidden
        value={condition.field}
        options={fields.map(({ key, label }) => [key, label])}
        onChange={(key) => onChange({ field: key, relation: "is", value: "" })}
      />
      <LabelledSelect
        label={t("comparison_of_about", { about })}
        hidden
        value={condition.relation}
        options={relationsOf(field)}
        onChange={(relation) => onChange({ ...condition, relation })}
      />
      {needsValue(condition.relation) && (
        <ConditionValue
          key={condition.field}
          field={field}
          label={t("value_of_about", { about })}
          value={condition.value}
          onChange={(value) => onChange({ ...condition, value })}
        />
      )}
      <Button look="quiet" aria-label={t("remove_about", { about })} onClick={onRemove}>
        <X size={16} aria-hidden="true" />
      </Button>
    </div>
  );
}

type ValueProps = {
  field: Field | undefined;
  label: string;
  value: string;
  onChange: (value: string) => void;
};

function ConditionValue({ field, label, value, onChange }: ValueProps) {
  const [typed, setTyped] = useState(value);
  if (field?.type === "choice" || field?.type === "yes_no") {
    const options: [string, string][] =
      field.type === "choice"
        ? field.choices.map((choice) => [choice.code, choice.label])
        : [
            ["yes", "yes"],
            ["no", "no"],
          ];
    return (
      <LabelledSelect
        label={label}
        hidden
        value={value}
        options={options}
        none={t("which_answer")}
        onChange={onChange}
      />
    );
  }
  if (field?.type === "date")
    return <DayInput label={label} className="line-input w-40" value={value} onChange={onChange} />;
  return (
    <input
      aria-label={label}
      className="line-input w-44"
      value={typed}
      placeholder={t("value")}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => typed !== value && onChange(typed)}
      onKeyDown={(event) => event.key === "Enter" && onChange(typed)}
    />
  );
}
