// A time of day.

import { words } from "../../words";
import type { TypeOf } from "./type";
import { Typed } from "./typed-control";

const t = words("fields");

export const time: TypeOf<"time"> = {
  type: "time",
  words: t("a_time_of_day"),
  begins: () => ({ type: "time" }),
  holds: () => t("a_time_of_day"),
  Settings: null,
  Control: Typed,
  look: () => ({}),
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
