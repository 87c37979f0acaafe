// A field that is entered a second time.

import { words } from "../../../words";
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

const t = words("rules");

export const enteredTwice: KindOf<"entered_twice"> = {
  kind: "entered_twice",
  heading: "must",
  together: t("what_is_entered_twice"),
  ...said("entered_twice", t("must_be_entered_twice_alike")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: t("it_is_entered_twice"), fits: ["text"], next: true },
};
