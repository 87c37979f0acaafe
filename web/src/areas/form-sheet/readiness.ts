// Whether saving or submitting will go through, in a few words.
import { counted } from "../../ui/counts";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { Judgement } from "./judging";

const t = words("formSheet");

type Verdict = Judgement["save"];

function passingWords({ may_pass, outcome }: Verdict) {
  if (may_pass) return t("goes_through");
  return outcome === "blocked" ? t("will_be_refused") : t("needs_a_reason_first");
}

/** What pressing would do, in a few words. */
export function readiness(verdict: Verdict) {
  const said = [
    verdict.to_fill > 0 &&
      t("to_fill_fields_to_fill_in", {
        to_fill: verdict.to_fill,
        to_fillShown: writtenNumber(verdict.to_fill),
      }),
    verdict.to_correct > 0 &&
      (verdict.to_fill > 0
        ? t("to_correct_to_correct", { to_correct: verdict.to_correct })
        : t("to_correct_fields_to_correct", {
            to_correct: verdict.to_correct,
            to_correctShown: writtenNumber(verdict.to_correct),
          })),
    verdict.warns > 0 && counted(verdict.warns, "warning"),
    verdict.notes > 0 && counted(verdict.notes, "note"),
  ].filter(Boolean);
  const passing = passingWords(verdict);
  return said.length > 0 ? `${passing}: ${said.join(", ")}` : passing;
}
