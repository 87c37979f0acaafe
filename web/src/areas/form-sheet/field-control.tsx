// The control of one field, by its type. It reads nothing into what is typed: the server does.
import type { Entered, Field } from "./judging";

type Props = {
  id: string;
  field: Field;
  value: Entered;
  described: string;
  /** The hardest severity of what is told about the field. */
  hardest: "block" | "warn" | "note" | undefined;
  onChange: (value: Entered) => void;
  onTouch: () => void;
  readOnly: boolean;
};

export function FieldControl(props: Props) {
  switch (props.field.type) {
    case "yes_no":
      return <YesNo {...props} />;
    case "choice":
      return <Choice {...props} choices={props.field.choices} />;
    default:
      return <Typed {...props} />;
  }
}

/** A note tells something about a value; it does not call it wrong. */
function isWrong(hardest: Props["hardest"]) {
  return hardest === "block" || hardest === "warn";
}

function Typed({ id, field, value, described, hardest, onChange, onTouch, readOnly }: Props) {
  const shared = {
    id,
    className: "line-input w-full",
    value: value === null ? "" : String(value),
    readOnly,
    "aria-describedby": described,
    "aria-invalid": isWrong(hardest),
    "data-told": hardest,
    onBlur: onTouch,
    onChange: (event: { target: { value: string } }) => onChange(event.target.value),
  };
  if (field.type === "text" && field.long) return <textarea {...shared} rows={3} />;
  const unit = "unit" in field ? field.unit : null;
  if (field.type === "text") return <input {...shared} />;
  return (
    <span className="flex items-center gap-2">
      <input
        {...shared}
        className="line-input w-44"
        inputMode={field.type === "date" ? "text" : "decimal"}
      />
      {unit && <span className="text-muted">{unit}</span>}
    </span>
  );
}

type Choices = Extract<Field, { type: "choice" }>["choices"];

function Choice({
  id,
  value,
  choices,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
}: Props & { choices: Choices }) {
  return (
    <select
      id={id}
      className="line-input min-w-44"
      value={value === null ? "" : String(value)}
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
      <option value="">no answer</option>
      {choices.map((choice) => (
        <option key={choice.code} value={choice.code}>
          {choice.label}
        </option>
      ))}
    </select>
  );
}

const ANSWERS: [string, boolean | null][] = [
  ["yes", true],
  ["no", false],
  ["no answer", null],
];

function YesNo({ id, value, described, onChange, onTouch, readOnly }: Props) {
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
            name={id}
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
