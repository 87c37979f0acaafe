// A warning that passes only with a reason, which is kept with who gave it and when.
import { useId } from "react";
import type { Demand, SheetChanges } from "./judging";

type Props = { demand: Demand; onReason: SheetChanges["onReason"] };

export function ReasonAsked({ demand, onReason }: Props) {
  const id = useId();
  return (
    <span className="mt-1 block">
      <label htmlFor={id} className="block text-sm text-muted">
        {demand.lapsed
          ? "The reason was given for other values: give one for these"
          : "To pass this warning, give a reason"}
      </label>
      <input
        id={id}
        className="line-input w-full"
        value={demand.text}
        onChange={(event) =>
          onReason(demand.rule, { text: event.target.value, basis: demand.basis })
        }
      />
    </span>
  );
}
