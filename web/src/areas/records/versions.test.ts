import { expect, it } from "vitest";
import { changedBy } from "./versions";

const one = { field: "name", label: "Name", mine: "“A”", theirs: "“B”", value: "B" };

it("says whose change a difference is, as far as is known from what was opened", () => {
  expect(changedBy(one, { name: "A" }, { name: "B" })).toBe("mine");
  expect(changedBy(one, { name: "A" }, { name: "A" })).toBe("theirs");
  expect(changedBy(one, { name: "A" }, { name: "C" })).toBe("both");
  expect(changedBy(one, { name: "A" }, undefined)).toBe("unknown");
});

it("takes a blank for a blank, however it stands", () => {
  const blanked = { ...one, theirs: "blank", value: null };
  expect(changedBy(blanked, { name: "A" }, {})).toBe("mine");
  expect(changedBy(one, {}, { name: null })).toBe("theirs");
});
