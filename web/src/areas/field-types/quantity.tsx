// A number with a unit that whoever enters it may choose.
import { useState } from "react";
import { Line } from "../../ui/inputs";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import { type ControlProps, typedValue } from "./control";
import { DigitsInput } from "./digits-input";
import type { FieldOf } from "./field";
import type { SettingsProps, TypeOf } from "./type";
import { Typed } from "./typed-control";

const t = words("fields");
type QuantityField = FieldOf<"quantity">;

/** What is typed, without the unit at its end where that is one of the field's. */
export function parted(text: string, units: readonly string[]) {
  const longest = [...units].sort((one, other) => other.length - one.length);
  const unit = longest.find(
    (one) => text.endsWith(one) && /[\d\s]$/.test(text.slice(0, -one.length)),
  );
  return unit
    ? { amount: text.slice(0, -unit.length).trimEnd(), unit }
    : { amount: text, unit: null };
}

function Control(props: ControlProps & { field: QuantityField }) {
  const { field, value, onChange, onTouch, readOnly } = props;
  const units = [field.unit, ...field.units];
  const { amount, unit } = parted(typedValue(value), units);
  const [chosen, setChosen] = useState<string | null>(null);
  const shown = unit ?? (amount === "" ? (chosen ?? field.unit) : field.unit);
  const joined = (text: string, by: string) =>
    text === "" || by === field.unit || parted(text, units).unit ? text : `${text} ${by}`;
  return (
    <span className="flex items-center gap-2">
      <Typed
        {...props}
        value={amount}
        look={{ digits: true }}
        onChange={(next) => onChange(joined(typedValue(next), shown))}
      />
      <select
        className="line-input w-auto"
        aria-label={t("unit_of_label", { label: field.label })}
        value={shown}
        disabled={readOnly || units.length === 1}
        onBlur={onTouch}
        onChange={(event) => {
          setChosen(event.target.value);
          onChange(joined(amount, event.target.value));
        }}
      >
        {units.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    </span>
  );
}

function Settings({ field, onChange }: SettingsProps<"quantity">) {
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Line label={t("unit")} value={field.unit} onChange={(unit) => onChange({ unit })} />
      <span>
        <span className="mb-1 block text-muted">{t("other_units")}</span>
        <ListInput
          label={t("other_units")}
          values={field.units}
          options={null}
          onChange={(units) => onChange({ units })}
        />
      </span>
      <DigitsInput value={field.scale} onChange={(scale) => onChange({ scale })} />
    </div>
  );
}

export const quantity: TypeOf<"quantity"> = {
  type: "quantity",
  words: t("a_quantity"),
  begins: (from) => ({
    type: "quantity",
    unit: ("unit" in from && from.unit) || "kg",
    units: [],
    scale: 6,
    decimal_mark: null,
  }),
  holds: (field) => t("a_quantity_in", { units: [field.unit, ...field.units].join(", ") }),
  Settings,
  Control,
  look: (field) => ({ unit: field.unit }),
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
