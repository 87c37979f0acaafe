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

// Kept, as each takes longer to make than a hundred uses of it.
const NAMED = new Intl.DateTimeFormat("en-GB", { month: "long" });
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const COUNTED = new Intl.NumberFormat("en");

function written(at: Date) {
  const [day, month, year] = [at.getDate(), NAMED.format(at), at.getFullYear()];
  switch (style.dates) {
    case "11 June 2026":
      return `${day} ${month} ${year}`;
    case "11 Jun 2026":
      return `${day} ${month.slice(0, 3)} ${year}`;
    case "June 11, 2026":
      return `${month} ${day}, ${year}`;
    case "2026-06-11":
      return isoDay(at);
  }
}

/** A day, or the day of a moment where one is, as people write it: 11 June 2026. */
export function writtenDay(iso: string) {
  return written(dayFrom(iso) ?? new Date(iso));
}

/** A day and a time as people write them: 11 June 2026, 14:30. */
export function writtenMoment(iso: string) {
  const at = new Date(iso);
  return `${written(at)}, ${CLOCK.format(at)}`;
}

/** What is kept of a day in a rule, as it is written; anything else as it stands. */
export function shownDay(text: string) {
  return ISO_DAY.test(text) && !Number.isNaN(Date.parse(text)) ? writtenDay(text) : text;
}

/** A count with marks of thousands: 12,340. */
export function writtenNumber(count: number) {
  const mark = style.numbers[1] === " " ? "\u202f" : (style.numbers[1] ?? ",");
  return COUNTED.format(count).replaceAll(",", mark);
}

/** A day of the calendar, without its time, by ISO 8601. */
export function isoDay(day: Date) {
  const two = (part: number) => String(part).padStart(2, "0");
  return `${String(day.getFullYear()).padStart(4, "0")}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

export function dayFrom(text: string) {
  if (!ISO_DAY.test(text)) return undefined;
  const [year = 0, month = 1, day = 1] = text.split("-").map(Number);
  const at = new Date(2000, 0);
  // By itself, Date takes 44 for 1944.
  at.setFullYear(year, month - 1, day);
  return at;
}
