// A field that is entered a second time.
import { asItIs, beginsPlain, type KindOf, said } from "./kind";

export const enteredTwice: KindOf<"entered_twice"> = {
  kind: "entered_twice",
  heading: "what must be true",
  together: "What is entered twice",
  ...said("entered_twice", "must be entered twice alike"),
  shows: null,
  order: "targets, verb",
  checks: true,
  needsCondition: false,
  begins: beginsPlain,
  retargeted: asItIs,
  Before: null,
  Parts: null,
  Words: null,
  quick: { words: "it is entered twice", fits: ["text"], next: true },
};
