// Days, moments and numbers as whoever is signed in likes to read them.
type Style = {
  dates: "11 June 2026" | "11 Jun 2026" | "June 11, 2026" | "2026-06-11";
  numbers: "1,234.5" | "1.234,5" | "1 234.5" | "1 234,5";
};

export const USUAL: Style = { dates: "11 June 2026", numbers: "1,234.5" };
let style = USUAL;

/** From now on days and numbers are written so. */
export function writeAs(next: Style) {
  style = next;
}

const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

function written(at: Date, timeZone?: string) {
  const part = (name: "day" | "month" | "year", how: "numeric" | "long") =>
    at.toLocaleDateString("en-GB", { [name]: how, timeZone });
  const [day, month, year] = [
    part("day", "numeric"),
    part("month", "long"),
    part("year", "numeric"),
  ];
  switch (style.dates) {
    case "11 June 2026":
      return `${day} ${month} ${year}`;
    case "11 Jun 2026":
      return `${day} ${month.slice(0, 3)} ${year}`;
    case "June 11, 2026":
      return `${month} ${day}, ${year}`;
    case "2026-06-11":
      return at.toLocaleDateString("sv-SE", { timeZone });
  }
}

/** A day as people write it: 11 June 2026. */
export function writtenDay(iso: string) {
  return written(new Date(iso), "UTC");
}

/** A day and a time as people write them: 11 June 2026, 14:30. */
export function writtenMoment(iso: string) {
  const at = new Date(iso);
  const clock = at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return `${written(at)}, ${clock}`;
}

/** What is kept of a day in a rule, as it is written; anything else as it stands. */
export function shownDay(text: string) {
  return ISO_DAY.test(text) && !Number.isNaN(Date.parse(text)) ? writtenDay(text) : text;
}

/** A count with marks of thousands: 12,340. */
export function writtenNumber(count: number) {
  const mark = style.numbers[1] === " " ? "\u202f" : (style.numbers[1] ?? ",");
  return count.toLocaleString("en").replaceAll(",", mark);
}

/** A day of the calendar, without its time, by ISO 8601. */
export function isoDay(day: Date) {
  const two = (part: number) => String(part).padStart(2, "0");
  return `${String(day.getFullYear()).padStart(4, "0")}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

export function dayFrom(text: string) {
  if (!ISO_DAY.test(text)) return undefined;
  const [year = 0, month = 1, day = 1] = text.split("-").map(Number);
  return new Date(year, month - 1, day);
}
