// Fields that are shown and count, but cannot be entered.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const lock: KindOf<"lock"> = {
  kind: "lock",
  heading: "what is asked",
  together: "What is locked",
  ...said("lock", "is locked"),
  shows: null,
  order: "targets, verb",
  checks: false,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: null,
};
