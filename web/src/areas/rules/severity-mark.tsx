// One severity at one moment; a click or a key steps it, and a figure sets it.
import type { KeyboardEvent } from "react";
import { Facet, type Level } from "../../ui/facet";
import { words } from "../../words";
import { LADDER, ladder, MOMENT_WORDS, type Moment, type Severity, step } from "../form/rule";
import { type CellProps, COLUMN_OF } from "./cells";

const t = words("rules");

type Props = {
  rule: string;
  moment: Moment;
  severity: Severity;
  onStep: (next: Severity) => void;
  disabled?: boolean;
  /** Its place in the register, where it stands there. */
  cell?: (column: number) => CellProps;
  /** How hard it speaks there, where that is harder: submitting saves as well. */
  counts?: Severity;
  /** Whether breaking the rule holds the record: then saving and submitting are settled. */
  holds?: boolean;
};

export const SEVERITY_WORDS: Record<Severity, string> = {
  none: t("nothing"),
  note: t("note"),
  warn: t("warn"),
  block: "block",
};

/** What a key makes of a severity; undefined: nothing. A figure says which: 0 nothing, 3 block. */
function keyed(key: string, severity: Severity, moment: Moment) {
  if (key === "+") return step(severity, moment, 1);
  if (key === "-" || key === "−") return step(severity, moment, -1);
  const named = /^[0-9]$/.test(key) ? LADDER[Number(key)] : undefined;
  return named && ladder(moment).includes(named) ? named : undefined;
}

export function SeverityMark({ counts, ...rest }: Props) {
  const asOnSaving = rest.moment === "submit" && !rest.holds && counts && counts !== rest.severity;
  return (
    <>
      <Mark {...rest} />
      {asOnSaving && (
        <span
          className="block px-2 text-sm whitespace-nowrap text-muted"
          title={t("to_submit_is_to_save_as_well", { SEVERITY_WORDS: SEVERITY_WORDS[counts] })}
        >
          {t("as_on_saving")}
        </span>
      )}
    </>
  );
}

function Mark({ rule, moment, severity, onStep, disabled, cell, holds }: Omit<Props, "counts">) {
  function onKeyDown(event: KeyboardEvent<HTMLButtonElement>) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const next = keyed(event.key, severity, moment);
    if (next === undefined) return;
    event.preventDefault();
    onStep(next);
  }
  if (holds && moment !== "entry") {
    const level = moment === "save" ? "hold" : "block";
    return (
      <span className="inline-flex min-h-8 w-24 items-center gap-2 px-2">
        <Facet level={level} size={18} /> {level}
      </span>
    );
  }
  return (
    <button
      type="button"
      disabled={disabled}
      {...cell?.(COLUMN_OF[moment])}
      onClick={() => onStep(step(severity, moment, 1))}
      onKeyDown={onKeyDown}
      title={disabled ? undefined : t("space_one_step_harder_0_nothing_1")}
      aria-label={`${MOMENT_WORDS[moment]}: ${SEVERITY_WORDS[severity]} (${rule})`}
      className="inline-flex min-h-8 w-24 items-center gap-2 rounded-xs px-2 text-left enabled:hover:bg-tint disabled:cursor-default"
    >
      {severity === "none" ? (
        <span className="text-edge" aria-hidden="true">
          —
        </span>
      ) : (
        <>
          <Facet level={severity as Level} size={18} /> {SEVERITY_WORDS[severity]}
        </>
      )}
    </button>
  );
}
