// A field that is required.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const mandatory: KindOf<"mandatory"> = {
  kind: "mandatory",
  heading: "what must be true",
  together: "What is required",
  ...said("mandatory", "is required"),
  shows: null,
  order: "targets, verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: "it is required", fits: null, next: false },
};
