import { describe, expect, it } from "vitest";
import { OUTCOMES } from "../../api/lists";
import { WAYS, wayWords } from "./entry-points";
import { moved } from "./order";
import { levelOf } from "./outcomes";
import { LADDER, ladder, MOMENTS, step } from "./rule";

describe("severities", () => {
  it("never block while typing", () => {
    expect(ladder("entry")).toEqual(["none", "note", "warn"]);
    expect(ladder("save")).toEqual(LADDER);
  });
  it("go round when they are stepped", () => {
    for (const moment of MOMENTS)
      for (const severity of ladder(moment)) {
        let stepped = severity;
        for (const _ of ladder(moment)) stepped = step(stepped, moment, 1);
        expect(stepped).toBe(severity);
        expect(step(step(severity, moment, 1), moment, -1)).toBe(severity);
      }
  });
  it("have a level for every outcome", () => {
    expect(OUTCOMES.map(levelOf)).toEqual(["clear", "note", "warn", "block"]);
  });
});

it("moves a key a step among others, and leaves it where there is no step", () => {
  expect(moved(["a", "b", "c"], "b", -1)).toEqual(["b", "a", "c"]);
  expect(moved(["a", "b", "c"], "c", 1)).toEqual(["a", "b", "c"]);
  expect(moved(["a", "b"], "z", 1)).toEqual(["a", "b"]);
});

it("says every way in which a record comes", () => {
  expect(WAYS).toHaveLength(5);
  expect(wayWords("link")).toBe("through a link");
});
