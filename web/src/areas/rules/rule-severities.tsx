// What happens when a rule is violated, and its message; and what an effect tells people.
import { Tick } from "../../ui/inputs";
import { words } from "../../words";
import { type CheckRule, MOMENT_WORDS, MOMENTS, type Rule } from "../form/rule";
import type { Reading } from "./clause-place";
import { kindOf } from "./kinds";
import type { PartProps } from "./kinds/kind";
import { MessagePart } from "./message-part";
import { SeverityMark } from "./severity-mark";

const t = words("rules");

type SeveritiesProps = {
  rule: CheckRule;
  reading: Reading;
  onChange: (part: Partial<CheckRule>) => void;
};

export function Severities({ rule, reading, onChange }: SeveritiesProps) {
  return (
    <>
      <fieldset className="flex gap-8">
        <legend className="text-muted">{t("what_happens_when_it_is_violated")}</legend>
        {MOMENTS.map((moment) => (
          <div key={moment} className="flex items-center gap-1">
            <span>{MOMENT_WORDS[moment]}</span>
            <SeverityMark
              rule={rule.name || t("new_rule")}
              moment={moment}
              severity={rule.severity[moment]}
              counts={reading?.speaks[moment]}
              holds={rule.hold}
              onStep={(next) =>
                onChange({
                  severity: { ...rule.severity, [moment]: next } as Rule["severity" & keyof Rule],
                })
              }
            />
          </div>
        ))}
      </fieldset>
      {rule.severity.entry !== "none" &&
        !rule.hold &&
        rule.severity.save === "none" &&
        rule.severity.submit === "none" && (
          <p className="mt-1 text-ochre">{t("it_acts_only_while_typing_so_a")}</p>
        )}
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-1">
        <Tick checked={rule.hold} onChange={(hold) => onChange({ hold })}>
          {t("saving_goes_through_and_puts_the_record")}
        </Tick>
        <Tick
          checked={rule.reason_required}
          onChange={(reason_required) => onChange({ reason_required })}
        >
          {t("a_warning_passes_only_with_a_reason")}
        </Tick>
      </div>
      <MessagePart rule={rule} reading={reading} onChange={onChange} />
    </>
  );
}

/** What effects tell people: why a field waits, and what a proposal explains. */
export function EffectWords(props: PartProps) {
  const { rule } = props.draft;
  const { Words } = kindOf(rule);
  if (Words) return <Words {...props} rule={rule} />;
  return <p className="text-muted">{t("it_stops_nobody_it_says_what_is")}</p>;
}
