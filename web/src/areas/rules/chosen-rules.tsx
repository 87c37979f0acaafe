// What can be done to all the rules that are chosen, in one go.
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { isCheck, ladder, MOMENT_WORDS, MOMENTS, type RuleView, type Severity } from "../form/rule";
import type { Adjustment } from "./queries";
import { SEVERITY_WORDS } from "./severity-mark";

type Props = {
  views: RuleView[];
  onAdjust: (adjustment: Adjustment) => void;
  onTakeOut: () => void;
  onNone: () => void;
};

export function ChosenRules({ views, onAdjust, onTakeOut, onNone }: Props) {
  const keys = views.map((view) => view.rule.key);
  const checks = views.flatMap(({ rule }) => (isCheck(rule) ? [rule] : []));
  const allHold = checks.length > 0 && checks.every((rule) => rule.hold);
  return (
    <section
      aria-label="The chosen rules"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-thistle bg-leaf px-3 py-1.5"
    >
      <span>{views.length} chosen</span>
      {MOMENTS.map((moment) => {
        const severities = new Set(checks.map((rule) => rule.severity[moment]));
        const common = severities.size === 1 ? [...severities][0] : "";
        return (
          <span key={moment} className="flex items-baseline gap-1">
            {MOMENT_WORDS[moment]}
            <ChoicePart
              label={`${MOMENT_WORDS[moment]}, for all that are chosen`}
              value={common ?? ""}
              placeholder="differs"
              groups={[
                {
                  options: ladder(moment).map((one) => ({
                    value: one,
                    label: SEVERITY_WORDS[one],
                  })),
                },
              ]}
              onChoose={(next) => onAdjust({ keys, severity: { [moment]: next as Severity } })}
            />
          </span>
        );
      })}
      <Button look="quiet" onClick={() => onAdjust({ keys, hold: !allHold })}>
        {allHold ? "do not hold" : "hold"}
      </Button>
      <Button look="quiet" onClick={() => onAdjust({ keys, enabled: true })}>
        switch on
      </Button>
      <Button look="quiet" onClick={() => onAdjust({ keys, enabled: false })}>
        switch off
      </Button>
      <Button look="quiet" onClick={onTakeOut}>
        remove
      </Button>
      <Button look="quiet" className="ml-auto" onClick={onNone}>
        choose none
      </Button>
    </section>
  );
}
