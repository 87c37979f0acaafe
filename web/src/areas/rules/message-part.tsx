// The message of a rule: drafted from it until somebody words it, with places filled per record.
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import { words } from "../../words";
import type { CheckRule } from "../form/rule";
import type { Reading } from "./clause-place";

const t = words("rules");

type Props = {
  rule: CheckRule;
  reading: Reading;
  onChange: (part: Partial<Pick<CheckRule, "message" | "placement">>) => void;
};

const PLACEMENTS = [
  { value: "field", label: t("at_the_field") },
  { value: "top", label: t("at_the_top_of_the_form") },
  { value: "both", label: t("at_the_field_and_at_the_top") },
];

export function MessagePart({ rule, reading, onChange }: Props) {
  const drafted = reading?.drafted_message ?? "";
  const { box, putIn } = usePutIn<HTMLTextAreaElement>(rule.message ?? drafted, (message) =>
    onChange({ message }),
  );
  return (
    <>
      <label className="mt-3 block">
        <span className="text-muted">
          {rule.message === null || rule.message === undefined
            ? t("message_drafted_from_the_rule_until_you")
            : t("message_in_your_own_words")}
        </span>
        <textarea
          ref={box}
          className="line-input mt-1 block w-full"
          rows={2}
          spellCheck
          value={rule.message ?? ""}
          placeholder={drafted}
          onChange={(event) => onChange({ message: event.target.value || null })}
        />
      </label>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-2">
        <span>
          {t("it_stands")}{" "}
          <ChoicePart
            label={t("where_the_message_stands")}
            value={rule.placement}
            groups={[{ options: PLACEMENTS }]}
            onChoose={(placement) => onChange({ placement: placement as CheckRule["placement"] })}
          />
        </span>
        <PlaceMenu offers={reading?.placeholders ?? []} onChoose={putIn} />
        {!rule.message && drafted && (
          <Button look="quiet" onClick={() => onChange({ message: drafted })}>
            {t("word_it_from_the_draft")}
          </Button>
        )}
        {rule.message && (
          <Button look="quiet" onClick={() => onChange({ message: null })}>
            {t("draft_it_from_the_rule_again")}
          </Button>
        )}
      </div>
    </>
  );
}
