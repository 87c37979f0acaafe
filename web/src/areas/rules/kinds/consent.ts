// A field that must be agreed to.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const consent: KindOf<"consent"> = {
  kind: "consent",
  heading: "what must be true",
  together: "What must be agreed to",
  ...said("consent", "must be agreed to"),
  shows: null,
  order: "targets, verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: "it must be agreed to", fits: ["yes_no"], next: true },
};
