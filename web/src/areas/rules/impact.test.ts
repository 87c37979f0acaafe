import { expect, test } from "vitest";
import { inWords } from "./impact";

const none = { save: 0, submit: 0 };
const impact = {
  records: 12_041,
  looked_at: 12_041,
  exact: true,
  working: false,
  unfinished: false,
  newly: 0,
  stops: none,
  warns: none,
  frees: none,
};

test("what a rule means for the stored records is one sentence", () => {
  expect(inWords({ ...impact, stops: { save: 0, submit: 37 } })).toBe(
    "Would newly stop 37 of 12,041 stored records on submitting.",
  );
  expect(inWords({ ...impact, warns: { save: 2, submit: 0 }, stops: { save: 1, submit: 1 } })).toBe(
    "Would newly stop 1 of 12,041 stored records on saving, stop 1 on submitting, warn of 2 on saving.",
  );
  expect(inWords(impact)).toBe("Changes nothing for the 12,041 stored records.");
  expect(inWords({ ...impact, newly: 4 })).toBe(
    "Would newly be violated by 4 of 12,041 stored records.",
  );
});

test("a sample says that it is one", () => {
  const sample = { ...impact, looked_at: 200, exact: false, working: true };
  expect(inWords({ ...sample, stops: { save: 3, submit: 0 } })).toBe(
    "Would newly stop 3 of 200 looked at on saving. Counting all 12,041…",
  );
  expect(inWords({ ...sample, looked_at: 0 })).toBe("Counting the 12,041 stored records…");
});
