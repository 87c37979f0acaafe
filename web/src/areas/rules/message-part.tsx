// The message of a rule: drafted from it until somebody words it, with places filled per record.
import { DropdownMenu } from "radix-ui";
import { useRef } from "react";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
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
  const box = useRef<HTMLTextAreaElement>(null);
  const drafted = reading?.drafted_message ?? "";
  function insert(name: string) {
    const area = box.current;
    const text = rule.message ?? drafted;
    const [from, to] = area ? [area.selectionStart, area.selectionEnd] : [text.length, text.length];
    onChange({ message: `${text.slice(0, from)}{${name}}${text.slice(to)}` });
    // After the menu has given the focus back.
    setTimeout(() => {
      area?.focus();
      area?.setSelectionRange(from + name.length + 2, from + name.length + 2);
    });
  }
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
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button look="quiet">{"{ }"} put in a value…</Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              sideOffset={4}
              className="z-50 max-h-80 overflow-auto rounded-xs border border-edge bg-leaf p-1 shadow-lg"
              onCloseAutoFocus={(event) => event.preventDefault()}
            >
              {reading?.placeholders.map(({ name, says }) => (
                <DropdownMenu.Item
                  key={name}
                  onSelect={() => insert(name)}
                  className="flex cursor-pointer gap-3 rounded-xs px-3 py-1 outline-none data-[highlighted]:bg-tint"
                >
                  <span className="font-mono text-sm">{`{${name}}`}</span>
                  <span className="text-muted">{says}</span>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
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
