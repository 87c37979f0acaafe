// An exact decimal, with a unit where it has one.
import { words } from "../../words";
import { NumberControl, NumberSettings, numberBegins, numberLook, unitWords } from "./numbers";
import type { SettingsProps, TypeOf } from "./type";

const t = words("fields");

function Settings({ field, onChange }: SettingsProps<"decimal">) {
  return (
    <NumberSettings
      field={field}
      digits={field.scale}
      onDigits={(scale) => onChange({ scale })}
      onChange={onChange}
    />
  );
}

export const decimal: TypeOf<"decimal"> = {
  type: "decimal",
  words: t("a_decimal_number"),
  begins: (from) => ({ ...numberBegins(from), type: "decimal", scale: 2 }),
  holds: (field) => unitWords(t("a_decimal_number"), field),
  Settings,
  Control: NumberControl,
  look: numberLook,
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
