// Values that one record alone may hold.

import { words } from "../../../words";
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

const t = words("rules");

export const unique: KindOf<"unique"> = {
  kind: "unique",
  heading: "must",
  together: t("what_no_two_records_share"),
  ...said("unique", t("no_two_records_may_share")),
  shows: null,
  order: "verb_targets",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: null,
};
