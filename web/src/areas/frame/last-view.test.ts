import { expect, it } from "vitest";
import { keepView, lastView } from "./last-view";

it("leads back to a place as it was looked at, without what was open there", () => {
  expect(lastView("/forms/a/rules")).toBe("/forms/a/rules");
  keepView("/forms/a/rules", "?search=depth&rule=one&show=blocks");
  expect(lastView("/forms/a/rules")).toBe("/forms/a/rules?search=depth&show=blocks");
  expect(lastView("/forms/b/rules")).toBe("/forms/b/rules");
  keepView("/forms/a/rules", "?sheet=release");
  expect(lastView("/forms/a/rules")).toBe("/forms/a/rules");
});
