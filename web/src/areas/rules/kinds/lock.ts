// Fields that are shown and count, but cannot be entered.

import { words } from "../../../words";
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

const t = words("rules");

export const lock: KindOf<"lock"> = {
  kind: "lock",
  heading: "asked",
  together: t("what_is_locked"),
  ...said("lock", t("is_locked")),
  shows: null,
  order: "targets_verb",
  checks: false,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: null,
};
