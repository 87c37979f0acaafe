// Any number of choices.
import { useState } from "react";
import { words } from "../../words";
import type { Option } from "./choice-text";
import { ChoiceSettings, choosingBegins, offered, offeredWords } from "./choosing";
import type { ControlProps } from "./control";
import type { FieldOf } from "./field";
import type { SettingsProps, TypeOf } from "./type";

const t = words("fields");

function inSomeOrder(choices: Option[]) {
  return choices
    .map((choice) => ({ choice, at: Math.random() }))
    .sort((one, other) => one.at - other.at)
    .map(({ choice }) => choice);
}

function Control({
  id,
  field,
  value,
  described,
  onChange,
  onTouch,
  readOnly,
}: ControlProps & { field: FieldOf<"choices"> }) {
  const ticked = Array.isArray(value) ? value : [];
  const [order] = useState(() => (field.shuffled ? inSomeOrder(field.choices) : field.choices));
  return (
    // biome-ignore lint/a11y/useSemanticElements: the label of the row names the group
    <div
      role="group"
      aria-labelledby={`${id}-label`}
      aria-describedby={described}
      className="grid gap-x-5 gap-y-1 py-1"
      style={{ gridTemplateColumns: `repeat(${field.columns}, minmax(0, 1fr))` }}
    >
      {offered(order, ticked).map((choice, position) => (
        <label key={choice.code} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            id={position === 0 ? id : undefined}
            className="size-4 accent-thistle"
            checked={ticked.includes(choice.code)}
            disabled={readOnly}
            onBlur={onTouch}
            onChange={(event) => {
              const others = ticked.filter((code) => code !== choice.code);
              onChange(event.target.checked ? [...others, choice.code] : others);
              onTouch();
            }}
          />
          {choice.label}
        </label>
      ))}
    </div>
  );
}

function Settings(props: SettingsProps<"choices">) {
  return <ChoiceSettings {...props} several />;
}

export const choices: TypeOf<"choices"> = {
  type: "choices",
  words: t("several_choices"),
  begins: (from) => ({ ...choosingBegins(from), type: "choices" }),
  holds: (field) => offeredWords(t("several_choices"), field),
  Settings,
  Control,
  look: () => ({}),
  isBounded: true,
  isGroup: true,
  shown: (words) => words,
};
