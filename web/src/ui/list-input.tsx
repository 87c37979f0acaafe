// Several values: ticked in a menu where the field has answers, typed with commas elsewhere.
import { Check } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { type KeyboardEvent, useState } from "react";
import { words } from "../words";
import type { Option } from "./choice-part";
import { isStoreKey, leaveStoreKey } from "./keys";

const t = words("ui");

type Props = {
  label: string;
  values: readonly string[];
  options: Option[] | null;
  onChange: (values: string[]) => void;
  italic?: boolean;
  /** What stands there while nothing is chosen. */
  empty?: string;
  /** Whether the values stand in the order in which they were chosen. */
  inOrderChosen?: boolean;
  /** What stands there in the place of what is chosen. */
  shows?: string | undefined;
};

/** Ticks the focused option once the search by letters, which moves the focus by a timer, is done. */
function tickFocused() {
  setTimeout(() => {
    const focused = document.activeElement;
    if (focused instanceof HTMLElement && focused.role === "menuitemcheckbox") focused.click();
  });
}

/** Tab goes on to the next part; Ctrl + Enter stores what is ticked. */
function closes(event: KeyboardEvent) {
  return event.key === "Tab" || isStoreKey(event);
}

export function ListInput({
  label,
  values,
  options,
  onChange,
  italic,
  empty = t("which_ones"),
  inOrderChosen = false,
  shows,
}: Props) {
  const [text, setText] = useState(values.join(", "));
  const [open, setOpen] = useState(false);
  if (!options)
    return (
      <input
        aria-label={label}
        placeholder={t("one_two_three")}
        className="line-input w-72 font-sans text-base"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          onChange(
            event.target.value
              .split(",")
              .map((value) => value.trim())
              .filter(Boolean),
          );
        }}
      />
    );
  const chosen = inOrderChosen
    ? values.flatMap((value) => options.filter((option) => option.value === value))
    : options.filter((option) => values.includes(option.value));
  function toggle(value: string) {
    const next = values.includes(value)
      ? values.filter((one) => one !== value)
      : [...values, value];
    const known = options?.map((option) => option.value) ?? [];
    const strange = next.filter((one) => !known.includes(one));
    onChange(inOrderChosen ? next : [...strange, ...known.filter((one) => next.includes(one))]);
  }
  return (
    // What stands beside it can be pressed while it is open: that closes it, too.
    <DropdownMenu.Root modal={false} open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger
        aria-label={label}
        data-unsaid={chosen.length === 0 && !shows ? "" : undefined}
        className={`part ${italic ? "part-field" : ""} ${chosen.length === 0 && !shows ? "text-muted" : ""}`}
        onKeyDown={leaveStoreKey}
      >
        {shows ?? (chosen.map((option) => option.label).join(", ") || empty)}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          data-ticks=""
          onKeyDown={(event) => closes(event) && setOpen(false)}
          onEscapeKeyDown={(event) => {
            event.preventDefault();
            setTimeout(() => setOpen(false));
          }}
          className="z-50 max-h-80 overflow-auto rounded-xs border border-edge bg-leaf p-1 shadow-lg"
        >
          {options.map((option) => (
            <DropdownMenu.CheckboxItem
              key={option.value}
              checked={values.includes(option.value)}
              onCheckedChange={() => toggle(option.value)}
              onSelect={(event) => event.preventDefault()}
              onKeyDown={(event) => {
                leaveStoreKey(event);
                if (event.key !== " ") return;
                event.preventDefault();
                tickFocused();
              }}
              className="flex cursor-pointer items-center gap-2 rounded-xs py-1 pr-3 pl-2 outline-none data-[highlighted]:bg-tint"
            >
              <span className="w-4">
                <DropdownMenu.ItemIndicator>
                  <Check size={14} aria-hidden="true" />
                </DropdownMenu.ItemIndicator>
              </span>
              {option.label}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
