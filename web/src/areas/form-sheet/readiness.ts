// Whether saving or submitting will go through, in a few words.
import { counted } from "../../ui/counts";
import type { Judgement } from "./judging";

type Verdict = Judgement["save"];

function passingWords({ may_pass, outcome }: Verdict) {
  if (may_pass) return "goes through";
  return outcome === "blocked" ? "will be refused" : "needs a reason first";
}

/** What pressing would do, in a few words. */
export function readiness(verdict: Verdict) {
  const said = [
    verdict.to_fill > 0 && `${counted(verdict.to_fill, "field")} to fill in`,
    verdict.to_correct > 0 &&
      (verdict.to_fill > 0
        ? `${verdict.to_correct} to correct`
        : `${counted(verdict.to_correct, "field")} to correct`),
    verdict.warns > 0 && counted(verdict.warns, "warning"),
    verdict.notes > 0 && counted(verdict.notes, "note"),
  ].filter(Boolean);
  const passing = passingWords(verdict);
  return said.length > 0 ? `${passing}: ${said.join(", ")}` : passing;
}
