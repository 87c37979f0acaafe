// The controls to save and to submit, which say before they are pressed whether it will go through.
import { Facet, type Level } from "../../ui/facet";
import type { Judgement } from "./judging";

type Verdict = Judgement["save"];
const LEVEL: Record<Verdict["outcome"], Level> = {
  clear: "clear",
  noted: "note",
  warned: "warn",
  blocked: "block",
};

export const levelOf = (verdict: Verdict) => LEVEL[verdict.outcome];

function count(number: number, what: string) {
  return `${number} ${what}${number === 1 ? "" : "s"}`;
}

function passingWords({ may_pass, outcome }: Verdict) {
  if (may_pass) return "goes through";
  return outcome === "blocked" ? "will be refused" : "needs a reason first";
}

/** What pressing would do, in a few words. */
export function readiness(verdict: Verdict) {
  const said = [
    verdict.blocks > 0 && count(verdict.blocks, "block"),
    verdict.warns > 0 && count(verdict.warns, "warning"),
    verdict.notes > 0 && count(verdict.notes, "note"),
  ].filter(Boolean);
  const passing = passingWords(verdict);
  return said.length > 0 ? `${passing}: ${said.join(", ")}` : passing;
}

type Props = {
  judgement: Judgement | undefined;
  onPress: (moment: "save" | "submit") => void;
  busy?: boolean;
};

const CONTROLS = [
  ["save", "Save"],
  ["submit", "Submit"],
] as const;

export function PassingBar({ judgement, onPress, busy }: Props) {
  return (
    <div className="grid max-w-xl grid-cols-2 gap-3 py-3">
      {CONTROLS.map(([moment, name]) => {
        const verdict = judgement?.[moment];
        return (
          <button
            key={moment}
            type="button"
            disabled={busy}
            onClick={() => onPress(moment)}
            aria-describedby={`ready-${moment}`}
            className="rounded-xs border border-edge bg-leaf px-3 py-1.5 text-left hover:bg-tint"
          >
            <span className="block font-semibold">{name}</span>
            {verdict && (
              <span
                id={`ready-${moment}`}
                className="flex items-start gap-1.5 text-sm leading-snug text-muted"
              >
                <Facet level={levelOf(verdict)} size={14} /> {readiness(verdict)}
              </span>
            )}
          </button>
        );
      })}
    </div>
  );
}
