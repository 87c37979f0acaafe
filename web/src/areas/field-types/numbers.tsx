// What whole numbers and decimals share.
import { Line, Tick } from "../../ui/inputs";
import { words } from "../../words";
import type { ControlProps } from "./control";
import { DigitsInput } from "./digits-input";
import type { Field, FieldOf } from "./field";
import { Typed, type TypedLook } from "./typed-control";

const t = words("fields");
type NumberType = "whole_number" | "decimal";
export type NumberField = FieldOf<NumberType>;

/** The settings of a number to begin with, with a unit that the field has already. */
export function numberBegins(from: Field) {
  const unit = "unit" in from ? from.unit : null;
  return { unit, unit_first: false, grouped: true, decimal_mark: null };
}

export function unitWords(type: string, field: NumberField) {
  return t("type_in_unit", { type, has: String(Boolean(field.unit)), unit: field.unit ?? "" });
}

export const numberLook = (field: NumberField): TypedLook => ({
  digits: true,
  unit: field.unit ?? null,
  unitFirst: field.unit_first,
});

export function NumberControl(props: ControlProps & { field: NumberField }) {
  return <Typed {...props} look={numberLook(props.field)} />;
}

type NumberProps = {
  field: NumberField;
  onChange: (part: Partial<Omit<NumberField, "type">>) => void;
};

export function NumberSettings({
  field,
  digits,
  onDigits,
  onChange,
}: NumberProps & { digits?: number; onDigits?: (digits: number) => void }) {
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Line
        label={t("unit_or_currency")}
        value={field.unit ?? ""}
        onChange={(unit) => onChange({ unit: unit || null })}
      />
      {onDigits && digits !== undefined && <DigitsInput value={digits} onChange={onDigits} />}
      <Tick checked={field.unit_first} onChange={(unit_first) => onChange({ unit_first })}>
        {t("the_unit_comes_first")}
      </Tick>
      <Tick checked={field.grouped} onChange={(grouped) => onChange({ grouped })}>
        {t("thousands_are_marked")}
      </Tick>
    </div>
  );
}
