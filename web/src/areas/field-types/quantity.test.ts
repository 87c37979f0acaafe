import { expect, test } from "vitest";
import { parted } from "./quantity";

test.each([
  ["2.5 g", "2.5", "g"],
  ["2.5mg", "2.5", "mg"],
  ["2,5 kg ", "2,5 kg ", null],
  ["mg", "mg", null],
  ["2.5 m", "2.5 m", null],
  ["", "", null],
])("%s is %s in %s", (text, amount, unit) => {
  expect(parted(text, ["kg", "g", "mg"])).toEqual({ amount, unit });
});
