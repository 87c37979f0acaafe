// A condition on several fields.
import { ClausePlace } from "../clause-place";
import { asItIs, begun, firstOf, type KindOf, type KindProps, said } from "./kind";

function Parts({ rule: _, ...props }: KindProps<"cross_field">) {
  return <ClausePlace {...props} place="must" label="constraint" />;
}

export const crossField: KindOf<"cross_field"> = {
  kind: "cross_field",
  heading: "what must be true",
  together: "What must be true between fields",
  ...said("cross_field", "it must be true that"),
  shows: null,
  order: "verb, told at targets",
  checks: true,
  needsCondition: false,
  begins: (targets, fields) => ({
    own: { must: "" },
    clauses: begun("must", firstOf(targets, fields)),
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: null,
};
