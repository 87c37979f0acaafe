// A reference to a record of another form: searched and shown by what people know it by.

import { useQuery } from "@tanstack/react-query";
import { useCombobox } from "downshift";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useSettled } from "../../ui/pointer";
import { words } from "../../words";
import { type ControlProps, isWrong, typedValue } from "./control";

const t = words("formSheet");

type Known = Schemas["KnownRecord"];
const ASKED_AFTER = 150; // milliseconds without another letter

function useKnown(form: string, asked: { search?: string; number?: string }, enabled: boolean) {
  return useQuery({
    queryKey: keys.knownRecords(form, asked),
    queryFn: ({ signal }) =>
      answer(
        client.GET("/api/v1/forms/{form_key}/known-records", {
          params: { path: { form_key: form }, query: asked },
          signal,
        }),
      ),
    enabled,
    placeholderData: (before) => before,
    staleTime: 30_000,
  });
}

const shownAs = ({ number, title }: Known) => title || t("no_number", { number });

/** What people know the record of a number by; null while it is asked, or where there is none. */
export function useKnownBy(form: string, number: string) {
  const found = useKnown(form, { number }, number !== "").data;
  return found?.find((one) => String(one.number) === number) ?? null;
}

/** A record that is referred to, where nothing is entered. */
export function ReferredRecord({ form, number }: { form: string; number: string }) {
  const found = useKnown(form, { number }, true);
  const known = found.data?.find((one) => String(one.number) === number);
  if (found.isPending || found.isPlaceholderData) return <span className="text-muted">…</span>;
  return (
    <>
      {known ? shownAs(known) : t("no_number", { number })}
      {known?.on_hold && <span className="text-plum">{t("on_hold")}</span>}
    </>
  );
}

export function ReferenceControl({
  id,
  form,
  value,
  described,
  hardest,
  onChange,
  onTouch,
}: ControlProps & { form: string }) {
  const held = typedValue(value);
  const known = useKnownBy(form, held);
  /** What stands in the box while somebody searches; null: what is chosen. */
  const [typed, setTyped] = useState<string | null>(null);
  const search = useSettled(typed ?? "", ASKED_AFTER);
  const [open, setOpen] = useState(false);
  const found = useKnown(form, { search }, open);
  const records = found.data ?? [];
  const box = useCombobox<Known>({
    items: records,
    isOpen: open,
    inputId: id,
    inputValue: typed ?? (known ? shownAs(known) : held),
    selectedItem: known,
    itemToString: (one) => (one ? shownAs(one) : ""),
    onIsOpenChange: ({ isOpen }) => setOpen(isOpen),
    onStateChange: ({ type, selectedItem }) => {
      switch (type) {
        case useCombobox.stateChangeTypes.InputKeyDownEnter:
        case useCombobox.stateChangeTypes.ItemClick:
          if (!selectedItem) break;
          setTyped(null);
          onChange(String(selectedItem.number));
          onTouch();
          break;
        case useCombobox.stateChangeTypes.InputBlur:
          // A number that is one is shown by its name again.
          setTyped(null);
          onTouch();
          break;
      }
    },
  });
  return (
    <span className="relative block w-full max-w-md">
      <input
        {...box.getInputProps({
          "aria-labelledby": undefined,
          // At once, so that no letter is lost; what was typed stands until a record is chosen.
          onChange: ({ currentTarget }) => {
            setTyped(currentTarget.value);
            onChange(currentTarget.value);
          },
        })}
        className="line-input w-full"
        placeholder={t("search_number_or_name")}
        aria-describedby={described}
        aria-invalid={isWrong(hardest)}
        data-told={hardest}
      />
      {known?.on_hold && typed === null && (
        <span className="text-sm text-plum">{t("on_hold_2")}</span>
      )}
      <ul
        {...box.getMenuProps({ "aria-labelledby": undefined, "aria-label": t("records_that_fit") })}
        className={`absolute z-30 mt-0.5 max-h-72 w-full overflow-auto rounded-xs border border-edge bg-leaf shadow-lg ${open ? "" : "hidden"}`}
      >
        {open &&
          records.map((one, index) => (
            <li
              key={one.number}
              {...box.getItemProps({ item: one, index })}
              className={`flex cursor-pointer items-baseline gap-3 px-3 py-1.5 ${box.highlightedIndex === index ? "bg-tint" : ""}`}
            >
              <span className="grow">{shownAs(one)}</span>
              {one.on_hold && <span className="text-sm text-plum">{t("on_hold_2")}</span>}
              <span className="text-sm text-muted">{one.number}</span>
            </li>
          ))}
        {open && found.data && records.length === 0 && (
          <li className="px-3 py-1.5 text-muted">{t("no_record_fits")}</li>
        )}
      </ul>
    </span>
  );
}
