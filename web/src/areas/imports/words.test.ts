import { describe, expect, it } from "vitest";
import { cameWords, sizeOf } from "./words";

const NOTHING = {
  dry: false,
  rows: 0,
  added: 0,
  changed: 0,
  refused: 0,
  known: 0,
  held: 0,
  left_out: 0,
  warned: 0,
};

describe("what is said of a file", () => {
  it("gives its size as people read it", () => {
    expect([200, 12_400, 3_500_000].map(sizeOf)).toEqual(["1 kB", "12 kB", "3.3 MB"]);
  });

  it("says what came of its rows, and what would come", () => {
    expect(cameWords({ came: null })).toBe("");
    expect(
      cameWords({
        came: { ...NOTHING, rows: 1200, added: 1000, refused: 150, known: 50, warned: 3, held: 1 },
      }),
    ).toBe(
      "Of 1,200 rows 1,000 added, 150 refused, 50 brought by an earlier run;" +
        " of those stored 1 on hold and 3 with a warning.",
    );
    expect(cameWords({ came: { ...NOTHING, dry: true, rows: 1, changed: 1 } })).toBe(
      "Of 1 row 1 would be changed.",
    );
  });
});
