// Days and numbers as the ISO 8601 calendar and Unicode's CLDR have them, each style its own example.
import { afterEach, expect, it } from "vitest";
import { USUAL, writeAs, writtenDay, writtenMoment, writtenNumber } from "./written";

afterEach(() => writeAs(USUAL));

it("writes a day as each style shows it", () => {
  for (const dates of ["11 June 2026", "11 Jun 2026", "June 11, 2026", "2026-06-11"] as const) {
    writeAs({ ...USUAL, dates });
    expect(writtenDay("2026-06-11")).toBe(dates);
    expect(writtenMoment("2026-06-11T09:05:00")).toBe(`${dates}, 09:05`);
  }
  writeAs({ ...USUAL, dates: "11 Jun 2026" });
  expect(writtenDay("2026-09-30")).toBe("30 Sep 2026");
  writeAs({ ...USUAL, dates: "2026-06-11" });
  expect(writtenDay("0044-03-15")).toBe("0044-03-15");
});

it("marks thousands as each style shows them", () => {
  const marks = { "1,234.5": ",", "1.234,5": ".", "1 234.5": "\u202f", "1 234,5": "\u202f" };
  for (const numbers of Object.keys(marks) as (keyof typeof marks)[]) {
    writeAs({ ...USUAL, numbers });
    expect(writtenNumber(1234567)).toBe(["1", "234", "567"].join(marks[numbers]));
  }
});
