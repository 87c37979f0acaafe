// One of several choices.
import { words } from "../../words";
import { ChoiceSettings, choosingBegins, offered, offeredWords } from "./choosing";
import { type ControlProps, isWrong, typedValue } from "./control";
import type { FieldOf } from "./field";
import type { SettingsProps, TypeOf } from "./type";

const t = words("formSheet");
const said = words("fields");

function Control({
  id,
  field,
  value,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
}: ControlProps & { field: FieldOf<"choice"> }) {
  const chosen = typedValue(value);
  return (
    <select
      id={id}
      className="line-input min-w-44"
      value={chosen}
      disabled={readOnly}
      aria-describedby={described}
      aria-invalid={isWrong(hardest)}
      data-told={hardest}
      onBlur={onTouch}
      onChange={(event) => {
        onChange(event.target.value || null);
        onTouch();
      }}
    >
      <option value="">{t("no_answer")}</option>
      {offered(field.choices, [chosen]).map((choice) => (
        <option key={choice.code} value={choice.code}>
          {choice.label}
        </option>
      ))}
    </select>
  );
}

function Settings(props: SettingsProps<"choice">) {
  return <ChoiceSettings {...props} several={false} />;
}

export const choice: TypeOf<"choice"> = {
  type: "choice",
  words: said("one_choice"),
  begins: (from) => ({ ...choosingBegins(from), type: "choice" }),
  holds: (field) => offeredWords(said("one_choice"), field),
  Settings,
  Control,
  look: () => ({}),
  isBounded: false,
  isGroup: false,
  shown: (words) => words,
};
