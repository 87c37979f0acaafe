// A line to write in and a box to tick, each with its label.
import type { ReactNode } from "react";

type LineProps = { label: string; value: string; onChange: (value: string) => void };

export function Line({ label, value, onChange }: LineProps) {
  return (
    <label className="block">
      <span className="text-muted">{label}</span>
      <input
        className="line-input mt-1 block w-full"
        value={value}
        spellCheck
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

type TickProps = { checked: boolean; onChange: (checked: boolean) => void; children: ReactNode };

export function Tick({ checked, onChange, children }: TickProps) {
  return (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        className="size-4 shrink-0 accent-thistle"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  );
}
