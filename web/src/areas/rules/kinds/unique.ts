// Values that one record alone may hold.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const unique: KindOf<"unique"> = {
  kind: "unique",
  heading: "what must be true",
  together: "What no two records share",
  ...said("unique", "no two records may share"),
  shows: null,
  order: "verb, targets",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: null,
};
