import { describe, expect, it } from "vitest";
import { typeOf, withType } from "../field-types";
import { choicesFrom, linesOf } from "../field-types/choice-text";
import { moved } from "../form/order";
import { movedWithin, newField } from "./field-draft";

describe("choices as lines", () => {
  it("take a pasted list, codes where they are given, and a dash for what is retired", () => {
    const choices = choicesFrom("Alpine meadow\n\n PT = Portugal \n- Old quarry\n");
    expect(choices).toEqual([
      { code: "alpine_meadow", label: "Alpine meadow", retired: false },
      { code: "PT", label: "Portugal", retired: false },
      { code: "old_quarry", label: "Old quarry", retired: true },
    ]);
    expect(choicesFrom(linesOf(choices))).toEqual(choices);
  });
});

describe("a field of another type", () => {
  it("keeps what both types have", () => {
    const metres = withType(newField("place"), "whole_number");
    const decimal = withType({ ...metres, unit: "m" } as typeof metres, "decimal");
    expect(decimal).toMatchObject({ unit: "m", scale: 2, section: "place" });
    expect(withType(decimal, "date")).not.toHaveProperty("unit");
    expect(typeOf(decimal).holds(decimal)).toBe("a decimal number in m");
  });
});

describe("moving", () => {
  it("steps a key among the others and stays at the ends", () => {
    expect(moved(["a", "b", "c"], "b", 1)).toEqual(["a", "c", "b"]);
    expect(moved(["a", "b", "c"], "a", -1)).toEqual(["a", "b", "c"]);
  });

  it("steps a field past those of its own section", () => {
    const sectionOf = (key: string) => (key < "c" ? "early" : "late");
    expect(movedWithin(["a", "c", "b", "d"], "b", -1, sectionOf)).toEqual(["b", "a", "c", "d"]);
    expect(movedWithin(["a", "c", "b", "d"], "c", -1, sectionOf)).toEqual(["a", "c", "b", "d"]);
    expect(movedWithin(["a", "c", "b", "d"], "c", 1, sectionOf)).toEqual(["a", "b", "d", "c"]);
  });
});
