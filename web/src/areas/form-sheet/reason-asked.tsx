// A warning that passes only with a reason, which is kept with who gave it and when.
import { useId } from "react";
import { words } from "../../words";
import type { Demand, SheetChanges } from "./judging";

const t = words("formSheet");

type Props = { demand: Demand; onReason: SheetChanges["onReason"] };

export function ReasonAsked({ demand, onReason }: Props) {
  const id = useId();
  return (
    <span className="mt-1 block">
      <label htmlFor={id} className="block text-sm text-muted">
        {demand.lapsed
          ? t("the_reason_was_given_for_other_values")
          : t("to_pass_this_warning_give_a_reason")}
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
