// What no other record of the form may say.
import { ClausePlace } from "../clause-place";
import { asItIs, begun, firstOf, type KindOf, type KindProps, said } from "./kind";

function Parts({ rule: _, ...props }: KindProps<"elsewhere">) {
  return <ClausePlace {...props} place="no_other" label="constraint" others />;
}

export const elsewhere: KindOf<"elsewhere"> = {
  kind: "elsewhere",
  heading: "what must be true",
  together: "What other records rule out",
  ...said("elsewhere", "there must be no other record where"),
  shows: null,
  order: "verb, told at targets",
  checks: true,
  needsCondition: false,
  begins: (targets, fields) => ({
    own: { no_other: "" },
    clauses: begun("no_other", firstOf(targets, fields), "other"),
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: null,
};
