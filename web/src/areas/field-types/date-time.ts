// An instant, as the clock of the form shows it.
import { words } from "../../words";
import { MomentControl } from "./day-control";
import type { TypeOf } from "./type";

const t = words("fields");

export const dateTime: TypeOf<"date_time"> = {
  type: "date_time",
  words: t("a_date_and_time"),
  begins: () => ({ type: "date_time", date_order: null }),
  holds: () => t("a_date_and_time"),
  Settings: null,
  Control: MomentControl,
  look: () => ({}),
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
