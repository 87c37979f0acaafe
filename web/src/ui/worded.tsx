// A text with places that are filled per record, and the menu that puts them in.
import { DropdownMenu } from "radix-ui";
import { type RefObject, useRef } from "react";
import { words } from "../words";
import { Button } from "./button";

const t = words("ui");

type Writing = HTMLTextAreaElement | HTMLInputElement;
type Offer = { name: string; says: string };

/** A place put in where the cursor is; the cursor stands behind it then. */
export function usePutIn<T extends Writing>(text: string, onChange: (text: string) => void) {
  const box = useRef<T>(null);
  function putIn(name: string) {
    const area = box.current;
    const from = area?.selectionStart ?? text.length;
    const to = area?.selectionEnd ?? text.length;
    onChange(`${text.slice(0, from)}{${name}}${text.slice(to)}`);
    // After the menu has given the focus back.
    setTimeout(() => {
      area?.focus();
      area?.setSelectionRange(from + name.length + 2, from + name.length + 2);
    });
  }
  return { box: box as RefObject<T>, putIn };
}

type Props = { offers: readonly Offer[]; onChoose: (name: string) => void; label?: string };

export function PlaceMenu({ offers, onChoose, label }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet" aria-label={label}>
          {t("put_in_a_value")}
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          className="z-50 max-h-80 overflow-auto rounded-xs border border-edge bg-leaf p-1 shadow-lg"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          {offers.map(({ name, says }) => (
            <DropdownMenu.Item
              key={name}
              onSelect={() => onChoose(name)}
              className="flex cursor-pointer gap-3 rounded-xs px-3 py-1 outline-none data-[highlighted]:bg-tint"
            >
              <span className="font-mono text-sm">{`{${name}}`}</span>
              <span className="text-muted">{says}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
