// A control in which a value is typed: nothing is read into it here, the server does that.
import { type ControlProps, isWrong, typedValue } from "./control";

/** How the control of one type looks; what is left out is that of a short value. */
export type TypedLook = {
  lines?: boolean;
  width?: "short" | "medium" | "full";
  /** Whether a screen keyboard shows digits. */
  digits?: boolean;
  unit?: string | null;
  unitFirst?: boolean;
};

const WIDTHS = { value: "w-44", short: "w-32", medium: "w-64", full: "w-full" };

export function Typed({
  id,
  field,
  value,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
  look = {},
}: ControlProps & { look?: TypedLook }) {
  const shared = {
    id,
    className: `line-input ${WIDTHS[look.width ?? "value"]}`,
    value: typedValue(value),
    placeholder: field.placeholder || undefined,
    readOnly,
    "aria-describedby": described,
    "aria-invalid": isWrong(hardest),
    "data-told": hardest,
    onBlur: onTouch,
    onChange: (event: { target: { value: string } }) => onChange(event.target.value),
  };
  if (look.lines) return <textarea {...shared} rows={3} />;
  const input = <input {...shared} inputMode={look.digits ? "decimal" : "text"} />;
  if (look.width) return input;
  const turned = look.unitFirst ? "flex-row-reverse justify-end" : "";
  return (
    <span className={`flex items-center gap-2 ${turned}`}>
      {input}
      {look.unit && <span className="text-muted">{look.unit}</span>}
    </span>
  );
}
