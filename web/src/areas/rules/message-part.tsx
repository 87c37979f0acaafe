// The message of a rule: drafted from it until somebody words it, with places filled per record.
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import type { CheckRule } from "../form/rule";
import type { Reading } from "./clause-place";

type Props = {
  rule: CheckRule;
  reading: Reading;
  onChange: (part: Partial<Pick<CheckRule, "message" | "placement">>) => void;
};

const PLACEMENTS = [
  { value: "field", label: "at the field" },
  { value: "top", label: "at the top of the form" },
  { value: "both", label: "at the field and at the top" },
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
            ? "Message, drafted from the rule until you word it"
            : "Message, in your own words"}
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
          It stands{" "}
          <ChoicePart
            label="Where the message stands"
            value={rule.placement}
            groups={[{ options: PLACEMENTS }]}
            onChoose={(placement) => onChange({ placement: placement as CheckRule["placement"] })}
          />
        </span>
        <PlaceMenu offers={reading?.placeholders ?? []} onChoose={putIn} />
        {!rule.message && drafted && (
          <Button look="quiet" onClick={() => onChange({ message: drafted })}>
            word it from the draft
          </Button>
        )}
        {rule.message && (
          <Button look="quiet" onClick={() => onChange({ message: null })}>
            draft it from the rule again
          </Button>
        )}
      </div>
    </>
  );
}
