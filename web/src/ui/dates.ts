const DAY: Intl.DateTimeFormatOptions = { day: "numeric", month: "long", year: "numeric" };
const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A day as people write it: 11 June 2026. */
export function writtenDay(iso: string) {
  return new Date(iso).toLocaleDateString("en-GB", { ...DAY, timeZone: "UTC" });
}

/** A day and a time as people write them: 11 June 2026, 14:30. */
export function writtenMoment(iso: string) {
  const at = new Date(iso);
  const clock = at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return `${at.toLocaleDateString("en-GB", DAY)}, ${clock}`;
}

/** What is kept of a day in a rule, as it is written; anything else as it stands. */
export function shownDay(text: string) {
  return ISO_DAY.test(text) && !Number.isNaN(Date.parse(text)) ? writtenDay(text) : text;
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
