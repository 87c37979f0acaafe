import { describe, expect, it } from "vitest";
import type { FormView } from "../form/form";
import { keyFrom, sentOf, setupOf, stepped } from "./setup-draft";

const CLAUSES = { kind: "group", join: "and", parts: [] };
const FORM = {
  name: "Loan out",
  purpose: "Lends pieces.",
  setup: {
    revision: 4,
    zone: "Europe/Lisbon",
    sections: [{ key: "a", label: "A" }],
    layouts: [],
    compounds: [],
    starters: [],
    conditions: [
      { key: "cold", name: "It is cold", condition: "degrees < 4", clauses: CLAUSES, used_by: [] },
      { key: "odd", name: "It is odd", condition: "odd(count)", used_by: ["one"] },
    ],
  },
} as unknown as FormView;

describe("a set-up while it is changed", () => {
  it("sends what it was made from, clauses apart from their formulas", () => {
    const sent = sentOf(setupOf(FORM));
    expect(sent).toMatchObject({ revision: 4, name: "Loan out", zone: "Europe/Lisbon" });
    expect(sent.derived_from).toBeNull();
    expect(sent.clauses).toEqual({ cold: CLAUSES });
    expect(sent.conditions).toEqual([
      { key: "cold", name: "It is cold", condition: "degrees < 4" },
      { key: "odd", name: "It is odd", condition: "odd(count)" },
    ]);
  });
  it.each([
    ["Cold chain", [], "cold_chain"],
    ["Été à São Tomé", [], "ete_a_sao_tome"],
    ["3 days", [], "section_3_days"],
    ["…", [], "section"],
    ["Cold chain", ["cold_chain", "cold_chain_2"], "cold_chain_3"],
    ["x".repeat(60), [], "x".repeat(40)],
  ])("draws a key from %s", (label, taken, key) => {
    expect(keyFrom(label, taken, "section")).toBe(key);
  });
  it("steps an item up and down, and not beyond the ends", () => {
    expect(stepped(["a", "b", "c"], 1, -1)).toEqual(["b", "a", "c"]);
    expect(stepped(["a", "b", "c"], 1, 1)).toEqual(["a", "c", "b"]);
    expect(stepped(["a", "b", "c"], 0, -1)).toEqual(["a", "b", "c"]);
    expect(stepped(["a", "b", "c"], 2, 1)).toEqual(["a", "b", "c"]);
    expect(stepped(["a"], 4, 1)).toEqual(["a"]);
  });
});
