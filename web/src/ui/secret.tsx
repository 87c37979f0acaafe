// A password being typed, with its label.
import { useId } from "react";

type SecretProps = {
  label: string;
  value: string;
  autoComplete: string;
  hint?: string;
  fault?: string;
  onChange: (value: string) => void;
};

export function Secret({ label, value, autoComplete, hint, fault = "", onChange }: SecretProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type="password"
        required
        className="line-input mt-1 block w-full"
        autoComplete={autoComplete}
        aria-invalid={fault !== ""}
        aria-describedby={`${id}-hint`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      <p id={`${id}-hint`} className="text-sm empty:hidden">
        {hint && <span className="text-muted">{hint}</span>}
        {fault && <span className="text-ochre">{fault}</span>}
      </p>
    </div>
  );
}
