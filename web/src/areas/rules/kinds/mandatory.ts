// A field that is required.

import { words } from "../../../words";
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

const t = words("rules");

export const mandatory: KindOf<"mandatory"> = {
  kind: "mandatory",
  heading: "must",
  together: t("what_is_required"),
  ...said("mandatory", t("is_required")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: t("it_is_required"), fits: null, next: false },
};
