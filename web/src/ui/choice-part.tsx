// A part of a sentence with a list that opens where it stands.
import { Check } from "lucide-react";
import { Select } from "radix-ui";
import { leaveStoreKey } from "./keys";
export type Option = { value: string; label: string };
export type OptionGroup = { label?: string; options: Option[] };

type Props = {
  label: string;
  value: string;
  groups: OptionGroup[];
  onChoose: (value: string) => void;
  placeholder?: string;
  italic?: boolean;
  /** What stands there in the place of the label of what is chosen. */
  shows?: string | undefined;
};

export function ChoicePart(props: Props) {
  const { label, value, groups, onChoose, placeholder = "…", italic, shows } = props;
  return (
    <Select.Root value={value} onValueChange={onChoose}>
      <Select.Trigger
        aria-label={label}
        className={`part ${italic ? "part-field" : ""}`}
        onKeyDown={leaveStoreKey}
      >
        <Select.Value placeholder={placeholder}>{shows}</Select.Value>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-50 max-h-80 min-w-40 overflow-hidden rounded-xs border border-edge bg-leaf shadow-lg"
        >
          <Select.Viewport className="p-1">
            {groups.map((group, position) => (
              <Select.Group key={group.label ?? position}>
                {group.label && (
                  <Select.Label className="px-2 pt-2 pb-0.5 text-sm text-muted">
                    {group.label}
                  </Select.Label>
                )}
                {group.options.map((option) => (
                  <Select.Item
                    key={option.value}
                    value={option.value}
                    className="flex cursor-pointer items-center gap-2 rounded-xs py-1 pr-3 pl-2 outline-none data-[highlighted]:bg-tint"
                  >
                    <span className="w-4">
                      <Select.ItemIndicator>
                        <Check size={14} aria-hidden="true" />
                      </Select.ItemIndicator>
                    </span>
                    <Select.ItemText>{option.label}</Select.ItemText>
                  </Select.Item>
                ))}
              </Select.Group>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
