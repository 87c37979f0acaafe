// What no other record of the form may say.

import { words } from "../../../words";
import { ClausePlace } from "../clause-place";
import { asItIs, begun, firstOf, type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

function Parts({ rule: _, ...props }: KindProps<"elsewhere">) {
  return <ClausePlace {...props} place="no_other" label={t("constraint")} others />;
}

export const elsewhere: KindOf<"elsewhere"> = {
  kind: "elsewhere",
  heading: "must",
  together: t("what_other_records_rule_out"),
  ...said("elsewhere", t("there_must_be_no_other_record_where")),
  shows: null,
  order: "verb_told_at_targets",
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
