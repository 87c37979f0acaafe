// A field that is needed.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const mandatory: KindOf<"mandatory"> = {
  kind: "mandatory",
  heading: "what must be true",
  together: "What is needed",
  ...said("mandatory", "is needed"),
  shows: null,
  order: "targets, verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: "it is needed", fits: null, next: false },
};
