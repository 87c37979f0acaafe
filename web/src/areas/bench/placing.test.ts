import { expect, test } from "vitest";
import { nearestAt, nextStop, rowsOf, runsOf, type Stop, shiftOf } from "./placing";

const stop = (at: number, between = false): Stop => ({
  band: 0,
  value: null,
  words: "",
  at,
  between,
});

test("labels that would lie over one another stand in rows, and the last has no room", () => {
  const marks = [0.5, 0.52, 0.54].map((at) => ({ at, words: "€ 20,000" }));
  expect(rowsOf(marks, 2, 640)).toEqual([0, 1, null]);
  expect(
    rowsOf(
      [
        { at: 0.1, words: "1" },
        { at: 0.9, words: "2" },
      ],
      2,
      640,
    ),
  ).toEqual([0, 0]);
});

test("a label at an edge is moved inward", () => {
  expect(shiftOf({ at: 0.5, words: "12" }, 640)).toBe(-50);
  expect(shiftOf({ at: 0, words: "12" }, 640)).toBe(-0);
  expect(shiftOf({ at: 1, words: "12" }, 640)).toBe(-100);
});

test("keys go on to where something changes, a pointer to whatever is nearest", () => {
  const stops = [stop(0), stop(0.2, true), stop(0.4), stop(0.9)];
  expect(nextStop(stops, 0, 1, false)).toBe(2);
  expect(nextStop(stops, 0, 1, true)).toBe(1);
  expect(nextStop(stops, 3, 1, false)).toBe(3);
  expect(nearestAt(stops, 0.25)).toBe(1);
});

test("neighbours alike are one run", () => {
  expect(runsOf(["a", "a", "b"], (a, b) => a === b)).toEqual([
    { first: 0, last: 1, one: "a" },
    { first: 2, last: 2, one: "b" },
  ]);
});
