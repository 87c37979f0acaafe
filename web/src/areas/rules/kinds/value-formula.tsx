// A formula that gives a value.
import { lazy, Suspense } from "react";
import type { FormView } from "../../form/form";
import type { Reading } from "../clause-place";

const FormulaBox = lazy(() => import("../formula-box"));

type Props = {
  form: FormView;
  reading: Reading;
  place: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
};

export function ValueFormula({ form, reading, place, label, value, onChange }: Props) {
  const problems = reading?.problems.filter((one) => one.place.startsWith(place)) ?? [];
  return (
    <span className="min-w-72 grow">
      <Suspense fallback={<span className="text-muted">…</span>}>
        <FormulaBox
          form={form}
          label={label}
          value={value}
          problems={problems}
          onChange={onChange}
        />
      </Suspense>
    </span>
  );
}
