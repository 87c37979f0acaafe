import { describe, expect, it } from "vitest";
import { columnsFor, MOST_COLUMNS } from "./columns";
import { expectations } from "./expectations";
import type { CaseTable, CaseView } from "./queries";

const rule = (key: string, effect = false) =>
  ({ key, name: key, effect, save: "warn", submit: "block" }) as CaseTable["rules"][number];
const row = (violated: string[], expected: string[] | null = []) =>
  ({ violated, case: { expected: { violated: expected } } }) as unknown as CaseView;
const nameOf = (key: string) => key.toUpperCase();

describe("the columns of the table of cases", () => {
  it("are all rules that check, while they are few", () => {
    const found = columnsFor([rule("a"), rule("opens", true), rule("b")], []);
    expect(found.shown.map(({ key }) => key)).toEqual(["a", "b"]);
    expect(found.left).toBe(0);
  });
  it("are those that are violated or should be, where there are many", () => {
    const many = Array.from({ length: MOST_COLUMNS + 8 }, (_, n) => rule(`r${n}`));
    const found = columnsFor(many, [row(["r3"]), row([], ["r39"]), row(["r5"], null)]);
    expect(found.shown.map(({ key }) => key)).toEqual(["r3", "r5", "r39"]);
    expect(found.left).toBe(MOST_COLUMNS + 5);
  });
});

describe("what a case expects", () => {
  it("is said as far as it looks", () => {
    expect(expectations({ save: "clear", submit: "blocked", violated: ["a", "b"] }, nameOf)).toBe(
      "saving clear, submitting blocked, violated: A; B",
    );
    expect(expectations({ save: null, submit: "noted", violated: null }, nameOf)).toBe(
      "submitting noted",
    );
  });
  it("says all that is compared", () => {
    const all = {
      save: "clear" as const,
      submit: null,
      violated: [],
      on_hold: true,
      offered: { a: { rate: "2" } },
      field_states: { note: "not_relevant" as const, mark: "read_only" as const },
      computed: { total: null },
    };
    const labelOf = (key: string) => ({ note: "Note", rate: "Rate" })[key] ?? key;
    expect(expectations(all, nameOf, labelOf)).toBe(
      "saving clear, no rule violated, set on hold, “A” proposed (Rate 2), Note is not asked, " +
        "mark is locked, total computed as blank",
    );
  });
  it("names what cannot be read, how rules stand and what is stored", () => {
    const closer = { faults: ["depth"], statuses: { a: "not_evaluable" as const } };
    expect(
      expectations({ violated: null, ...closer, stored: { mark: "x", note: null } }, nameOf),
    ).toBe("not readable: depth, “A” nothing to check, mark stored as x, note stored as blank");
  });
});
