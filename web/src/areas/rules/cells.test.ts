import { expect, it } from "vitest";
import { stopOf } from "./cells";

it("stops at the column used last, or at the nearest before it that the row has", () => {
  expect(stopOf([0, 1, 2, 3, 4, 5, 6], 4)).toBe(4);
  expect(stopOf([0, 1, 2, 6], 4)).toBe(2);
  expect(stopOf([2], 0)).toBe(2);
});
