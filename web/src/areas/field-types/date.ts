// A day of the calendar.
import { words } from "../../words";
import { DayControl } from "./day-control";
import type { TypeOf } from "./type";

const t = words("fields");

export const date: TypeOf<"date"> = {
  type: "date",
  words: t("a_date"),
  begins: () => ({ type: "date", date_order: null }),
  holds: () => t("a_date"),
  Settings: null,
  Control: DayControl,
  look: () => ({}),
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
