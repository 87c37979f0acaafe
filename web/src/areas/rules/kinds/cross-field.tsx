// A condition on several fields.

import { words } from "../../../words";
import { ClausePlace } from "../clause-place";
import { asItIs, begun, firstOf, type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

function Parts({ rule: _, ...props }: KindProps<"cross_field">) {
  return <ClausePlace {...props} place="must" label={t("constraint")} />;
}

export const crossField: KindOf<"cross_field"> = {
  kind: "cross_field",
  heading: "must",
  together: t("what_must_be_true_between_fields"),
  ...said("cross_field", t("it_must_be_true_that")),
  shows: null,
  order: "verb_told_at_targets",
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
