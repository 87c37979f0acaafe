// Fields that cannot be entered at the desk until something else is.
import { Line } from "../../../ui/inputs";
import { ClausePlace } from "../clause-place";
import { governorOf } from "../clauses";
import { asItIs, begun, type KindOf, type KindProps, said } from "./kind";

function Parts({ rule: _, ...props }: KindProps<"wait">) {
  return <ClausePlace {...props} place="until" label="condition waited for" />;
}

function Words({ draft, rule, onChange }: KindProps<"wait">) {
  return (
    <Line
      label="Why the fields wait (drafted from the rule until you word it)"
      value={rule.message}
      onChange={(message) => onChange({ ...draft, rule: { ...rule, message } })}
    />
  );
}

export const wait: KindOf<"wait"> = {
  kind: "wait",
  heading: "what is asked",
  together: "What waits",
  ...said("wait", "waits until"),
  shows: null,
  order: "targets, verb",
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
