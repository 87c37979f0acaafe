// What can be done to all the rules that are chosen, in one go.
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { words } from "../../words";
import { isCheck, ladder, MOMENT_WORDS, MOMENTS, type RuleView, type Severity } from "../form/rule";
import type { Adjustment } from "./queries";
import { SEVERITY_WORDS } from "./severity-mark";

const t = words("rules");

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
      aria-label={t("the_chosen_rules")}
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-thistle bg-leaf px-3 py-1.5"
    >
      <span>{t("length_chosen", { length: views.length })}</span>
      {MOMENTS.map((moment) => {
        const severities = new Set(checks.map((rule) => rule.severity[moment]));
        const common = severities.size === 1 ? [...severities][0] : "";
        return (
          <span key={moment} className="flex items-baseline gap-1">
            {MOMENT_WORDS[moment]}
            <ChoicePart
              label={t("moment_words_for_all_that_are_chosen", {
                MOMENT_WORDS: MOMENT_WORDS[moment],
              })}
              value={common ?? ""}
              placeholder={t("differs")}
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
        {allHold ? t("do_not_hold") : t("hold")}
      </Button>
      <Button look="quiet" onClick={() => onAdjust({ keys, enabled: true })}>
        {t("switch_on")}
      </Button>
      <Button look="quiet" onClick={() => onAdjust({ keys, enabled: false })}>
        {t("switch_off")}
      </Button>
      <Button look="quiet" onClick={onTakeOut}>
        {t("remove")}
      </Button>
      <Button look="quiet" className="ml-auto" onClick={onNone}>
        {t("choose_none")}
      </Button>
    </section>
  );
}
