// Fields that cannot be entered at the desk until something else is.
import { Line } from "../../../ui/inputs";
import { words } from "../../../words";
import { ClausePlace } from "../clause-place";
import { governorOf } from "../clauses";
import { asItIs, begun, type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

function Parts({ rule: _, ...props }: KindProps<"wait">) {
  return <ClausePlace {...props} place="until" label={t("condition_waited_for")} />;
}

function Words({ draft, rule, onChange }: KindProps<"wait">) {
  return (
    <Line
      label={t("why_the_fields_wait_drafted_from_the")}
      value={rule.message}
      onChange={(message) => onChange({ ...draft, rule: { ...rule, message } })}
    />
  );
}

export const wait: KindOf<"wait"> = {
  kind: "wait",
  heading: "asked",
  together: t("what_waits"),
  ...said("wait", t("waits_until")),
  shows: null,
  order: "targets_verb",
  checks: false,
  needsCondition: false,
  begins: (targets, fields) => ({
    own: { until: "", message: "" },
    clauses: begun("until", governorOf(fields, targets)),
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words,
  quick: null,
};
