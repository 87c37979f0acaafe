// A field that must be agreed to.

import { words } from "../../../words";
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

const t = words("rules");

export const consent: KindOf<"consent"> = {
  kind: "consent",
  heading: "must",
  together: t("what_must_be_agreed_to"),
  ...said("consent", t("must_be_agreed_to")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: t("it_must_be_agreed_to"), fits: ["yes_no"], next: true },
};
