import { describe, expect, it } from "vitest";
import { heldBy, inTheWay, type Judgement, messagesOf, reasonsAsked } from "./judging";
import { readiness } from "./readiness";

type Verdict = Judgement["save"];

const RESULT = {
  reason: "",
  messages: [],
  placement: "field" as const,
  enters_hold: false,
  confirmation: "",
};

const QUIET = {
  ignored: {},
  on_hold: false,
  held_by: [],
  refusals: [],
  proposals: [],
  drops: [],
  sections: {},
  words: {},
};

function verdict(moment: Verdict["moment"], severity: "note" | "warn" | "block"): Verdict {
  const messages = [{ text: `Told on ${moment}.`, fields: ["depth"] }];
  return {
    moment,
    outcome: "blocked",
    may_pass: false,
    blocks: 2,
    to_fill: 1,
    to_correct: 1,
    warns: 1,
    notes: 0,
    results: [
      { ...RESULT, rule: "r1", status: "violated", severity, messages, placement: "both" },
      { ...RESULT, rule: "r2", status: "satisfied", severity },
    ],
    ...QUIET,
    fields: {
      depth: {
        value: null,
        relevant: true,
        display: "enterable",
        read_only: false,
        derived: false,
        confirmation: "",
      },
    },
  };
}

const JUDGEMENT: Judgement = {
  entry: verdict("entry", "note"),
  save: verdict("save", "warn"),
  submit: verdict("submit", "block"),
};

describe("messages", () => {
  it("are those of typing until a control is pressed, then those of its moment, once each", () => {
    expect(messagesOf(JUDGEMENT, null).atField.get("depth")).toEqual([
      { text: "Told on entry.", severity: "note", rule: "r1" },
    ]);
    const pressed = messagesOf(JUDGEMENT, "submit");
    expect(pressed.atField.get("depth")?.map((told) => told.severity)).toEqual(["block"]);
    expect(pressed.atTop.map((told) => told.field)).toEqual(["depth"]);
  });

  it("are none before the first answer", () => {
    expect(messagesOf(undefined, null).atField.size).toBe(0);
  });
});

describe("reasons and holds", () => {
  const saving = JUDGEMENT.save.results.map((result) =>
    result.rule === "r1" ? { ...result, waiver: "required" as const, basis: "b1" } : result,
  );
  const save = { ...JUDGEMENT.save, results: saving, on_hold: true, held_by: ["r1"] };
  const judgement = { ...JUDGEMENT, save };

  it("ask for a reason at the field of the warning, with what was given", () => {
    const given = { r1: { text: "Measured twice.", basis: "b0" } };
    expect(reasonsAsked(judgement, given).get("depth")).toEqual([
      { rule: "r1", basis: "b1", text: "Measured twice.", lapsed: false },
    ]);
    expect(reasonsAsked(JUDGEMENT, {}).size).toBe(0);
  });

  it("name what is missing", () => {
    expect(heldBy(judgement).map((message) => message.fields)).toEqual([["depth"]]);
  });
});

describe("what stands in the way", () => {
  it("names each field once, with what is told of it", () => {
    expect(inTheWay(JUDGEMENT.submit, ["block"])).toEqual([
      { field: "depth", text: "Told on submit." },
    ]);
    expect(inTheWay(JUDGEMENT.submit, ["warn"])).toEqual([]);
  });
});

describe("readiness", () => {
  it("says what pressing would do", () => {
    expect(readiness(JUDGEMENT.save)).toBe(
      "will be refused: 1 field to fill in, 1 to correct, 1 warning",
    );
    expect(
      readiness({ ...JUDGEMENT.save, may_pass: true, to_fill: 0, to_correct: 0, warns: 0 }),
    ).toBe("goes through");
  });
});
