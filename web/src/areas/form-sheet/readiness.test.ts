import { describe, expect, it } from "vitest";
import { levelOf } from "../form/outcomes";
import { readiness } from "./readiness";

const CLEAR = {
  outcome: "clear",
  may_pass: true,
  to_fill: 0,
  to_correct: 0,
  warns: 0,
  notes: 0,
} as Parameters<typeof readiness>[0];

describe("what pressing would do", () => {
  it.each([
    [{}, "goes through"],
    [{ outcome: "warned", warns: 1 }, "goes through: 1 warning"],
    [{ outcome: "warned", warns: 2, notes: 1 }, "goes through: 2 warnings, 1 note"],
    [{ outcome: "blocked", may_pass: false }, "will be refused"],
    [{ outcome: "blocked", may_pass: false, to_correct: 1 }, "will be refused: 1 field to correct"],
    [
      { outcome: "blocked", may_pass: false, to_fill: 4, to_correct: 2 },
      "will be refused: 4 fields to fill in, 2 to correct",
    ],
    [{ outcome: "warned", may_pass: false, warns: 1 }, "needs a reason first: 1 warning"],
  ] as const)("says it in a few words, with plurals that fit", (part, words) => {
    expect(readiness({ ...CLEAR, ...part })).toBe(words);
  });

  it("marks it by the hardest of what is said", () => {
    expect(levelOf("noted")).toBe("note");
  });
});
