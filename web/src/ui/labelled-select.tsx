// A choice from a short list, with its label beside it.
type Props = {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
  /** Whether the label is said only. */
  hidden?: boolean;
  /** What stands there while nothing in particular is chosen; without it something always is. */
  none?: string;
};

export function LabelledSelect({ label, value, options, onChange, hidden, none }: Props) {
  return (
    <label className="text-muted">
      <span className={hidden ? "sr-only" : ""}>{label}</span>{" "}
      <select
        className="line-input max-w-64 text-ink"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {none !== undefined && <option value="">{none}</option>}
        {options.map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
