// Yes or no, and blank until answered.
import { useId } from "react";
import { words } from "../../words";
import type { ControlProps } from "./control";
import type { TypeOf } from "./type";

const t = words("formSheet");
const said = words("fields");

const ANSWERS: [string, boolean | null][] = [
  ["yes", true],
  ["no", false],
  [t("no_answer"), null],
];

function Control({ id, value, described, onChange, onTouch, readOnly }: ControlProps) {
  const name = useId();
  return (
    <div
      role="radiogroup"
      aria-labelledby={`${id}-label`}
      aria-describedby={described}
      className="flex min-h-8 gap-5"
    >
      {ANSWERS.map(([words, answer], position) => (
        <label key={words} className="flex items-center gap-1.5">
          <input
            type="radio"
            id={position === 0 ? id : undefined}
            name={name}
            className="size-4 accent-thistle"
            checked={value === answer}
            disabled={readOnly}
            onBlur={onTouch}
            onChange={() => {
              onChange(answer);
              onTouch();
            }}
          />
          <span className={answer === null ? "text-muted" : ""}>{words}</span>
        </label>
      ))}
    </div>
  );
}

export const yesNo: TypeOf<"yes_no"> = {
  type: "yes_no",
  words: said("yes_or_no"),
  begins: () => ({ type: "yes_no" }),
  holds: () => said("yes_or_no"),
  Settings: null,
  Control,
  look: () => ({}),
  isBounded: false,
  isGroup: true,
  shown: (words) => words,
};
