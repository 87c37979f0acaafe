import { expect, test } from "vitest";
import { goneBy, inWords, percent, queryOf, USUAL } from "./queries";

const NONE = { noted: 0, warned: 0, blocked: 0, passed: 0, waived: 0 };

test("what a rule said is told in words", () => {
  expect(inWords({ ...NONE, warned: 10, blocked: 5 })).toBe("warned 10, blocked 5");
  expect(inWords(NONE)).toBe("never spoke");
  expect(goneBy({ ...NONE, warned: 3, passed: 3, waived: 1 })).toBe("3 went on, 1 with a reason");
  expect(goneBy(NONE)).toBe("");
});

test("shares are whole percents, and never nothing where there was something", () => {
  expect(percent(8, 100)).toBe("8 %");
  expect(percent(1, 1000)).toBe("under 1 %");
  expect(percent(0, 1000)).toBe("0 %");
  expect(percent(0, 0)).toBe("—");
});

test("only what can be read is asked", () => {
  expect(queryOf({ ...USUAL, since: "1 Ma", release: "2", entry_point: "desk" })).toEqual({
    release: 2,
    entry_point: "desk",
  });
});
