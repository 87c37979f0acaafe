import { expect, test } from "vitest";
import { asSent, isNoNumber } from "./link-draft";
import type { Ending, LinkEntry } from "./link-queries";

const thanks: Ending = { condition: "", clauses: null, text: "Thank you.", next_page: "" };
const other: Ending = { ...thanks, text: "We write to you.", condition: "agreed = true" };
const entry: LinkEntry = {
  name: "Open day",
  intro: "",
  layout: "",
  last_day: "2026-12-01",
  most: 40,
  puzzle: true,
  origins: ["https://old.example.org"],
  endings: [thanks],
};

test("endings go in the order they stand in", () => {
  const sent = asSent({
    entry,
    endings: [{ ending: other }, { ending: thanks }],
    most: "",
    origins: "",
  });
  expect(sent.endings).toEqual([other, thanks]);
  expect(sent).toMatchObject({ name: "Open day", last_day: "2026-12-01", most: null, origins: [] });
});

test("pages are told apart by commas, blanks and lines", () => {
  const origins = " https://a.example.org,https://b.example.org\n https://c.example.org , ";
  expect(asSent({ entry, endings: [], most: " 25 ", origins })).toMatchObject({
    most: 25,
    origins: ["https://a.example.org", "https://b.example.org", "https://c.example.org"],
  });
});

test.each(["", "  ", "1", "40", " 1000000 "])("%j may be the most", (most) => {
  expect(isNoNumber(most)).toBe(false);
});

test.each(["0", "-1", "1.5", "1e3", "many", "1000001", "01"])("%j may not", (most) => {
  expect(isNoNumber(most)).toBe(true);
});
