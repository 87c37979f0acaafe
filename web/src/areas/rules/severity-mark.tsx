// One severity at one moment; a click or a key steps it.
import type { KeyboardEvent } from "react";
import { Facet, type Level } from "../../ui/facet";
import { MOMENT_WORDS, type Moment, type Severity, step } from "./draft";

type Props = {
  rule: string;
  moment: Moment;
  severity: Severity;
  onStep: (next: Severity) => void;
  disabled?: boolean;
  row?: number;
  /** Whether breaking the rule holds the record: then saving and submitting are settled. */
  holds?: boolean;
};

export const SEVERITY_WORDS: Record<Severity, string> = {
  off: "nothing",
  note: "note",
  warn: "warn",
  block: "block",
};

export function SeverityMark({ rule, moment, severity, onStep, disabled, row, holds }: Props) {
  function onKeyDown(event: KeyboardEvent<HTMLButtonElement>) {
    const by = event.key === "+" ? 1 : event.key === "-" || event.key === "−" ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    onStep(step(severity, moment, by));
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
      data-mark={row === undefined ? undefined : `${row}-${moment}`}
      onClick={() => onStep(step(severity, moment, 1))}
      onKeyDown={onKeyDown}
      aria-label={`${MOMENT_WORDS[moment]}: ${SEVERITY_WORDS[severity]} (${rule})`}
      className="inline-flex min-h-8 w-24 items-center gap-2 rounded-xs px-2 text-left enabled:hover:bg-tint disabled:cursor-default"
    >
      {severity === "off" ? (
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

/** Move between marks with the arrow keys, row by row and moment by moment. */
export function moveAmongMarks(event: KeyboardEvent<HTMLElement>) {
  const mark = (event.target as HTMLElement).dataset.mark;
  if (!mark) return;
  const [row = "0", moment = "entry"] = mark.split("-");
  const moments: string[] = ["entry", "save", "submit"];
  const column = moments.indexOf(moment);
  const target = {
    ArrowLeft: [Number(row), column - 1],
    ArrowRight: [Number(row), column + 1],
    ArrowUp: [Number(row) - 1, column],
    ArrowDown: [Number(row) + 1, column],
  }[event.key];
  if (!target) return;
  event.preventDefault();
  const selector = `[data-mark="${target[0]}-${moments[target[1] ?? 0]}"]`;
  event.currentTarget.querySelector<HTMLElement>(selector)?.focus();
}
