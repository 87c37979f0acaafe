// A field while it is written: what is kept of it, and what becomes of it.
import { useState } from "react";
import { keep, useKept } from "../../ui/kept";
import { withType } from "../field-types";
import type { FormView } from "../form/form";
import { type Added, draftOf, type FieldDraft } from "./adding";
import { type Field, type FieldType, type FieldView, newField } from "./field-draft";
import { useFieldReading, useRemoveField, useStoreField } from "./queries";

export type Writing = {
  form: FormView;
  view: FieldView | null;
  onClose: () => void;
  /** A new field is whole: it is added while the next is begun, or this is closed. */
  onAdd?: (added: Added, next: boolean) => void;
  /** A field has been added, and its first rule of this kind is to be written. */
  onSay?: (field: string, kind: string) => void;
};
/** `anyway`: though something else breaks by it. `next`: another one is begun at once. */
type Saving = { anyway?: boolean; onTopOf?: number | null; next?: boolean };

export const NO_RULE = "none";

export function useFieldWriting({ form, view, onClose, onAdd, onSay }: Writing) {
  const last = form.fields.at(-1)?.field.section ?? null;
  const start: FieldDraft = view
    ? { field: view.field, revision: view.revision, needed: false }
    : { field: newField(last), revision: null, needed: false };
  const place = view ? `field:${form.key}:${view.field.key}` : draftOf(form.key);
  const kept = useKept<FieldDraft>(place, start);
  // While nothing was changed here, it follows what is stored.
  const now = kept.dirty || !view ? kept.value : start;
  const { field, revision, needed } = now;
  const store = useStoreField(form.key, () => kept.forget(start));
  const remove = useRemoveField(form.key, close);
  const reading = useFieldReading(form.key, field, view?.field.key ?? null);
  const [first, setFirst] = useState(NO_RULE);
  /** Whether what is wrong may be told: once it was to be stored, or its settings were left. */
  const [told, setTold] = useState(false);
  const change = (part: Partial<FieldDraft>) => kept.change({ ...now, ...part });
  function close() {
    kept.close(start);
    onClose();
  }
  function save({ anyway = false, onTopOf = revision, next = false }: Saving = {}) {
    setTold(true);
    // What was read last may be of what stood there before, so the server is asked all the same.
    if (!view && onAdd && first === NO_RULE && field.label.trim() !== "") {
      // What is typed from now on belongs to the next one.
      kept.close(start);
      if (next && field.section)
        keep(draftOf(form.key), { ...start, field: newField(field.section) });
      return onAdd({ field, needed }, next);
    }
    store.mutate(
      { field, revision: onTopOf, anyway, needed },
      {
        onSuccess: (stored) => {
          if (first !== NO_RULE && onSay) return onSay(stored.field.key, first);
          close();
        },
      },
    );
  }
  return {
    ...{ field, needed, reading, store, remove, first, told, dirty: kept.dirty },
    ...{ setFirst, close, save },
    tell: () => setTold(true),
    set: (part: Partial<Field>) => change({ field: { ...field, ...part } as Field }),
    setType: (type: FieldType) => change({ field: withType(field, type) }),
    setNeeded: (next: boolean) => change({ needed: next }),
    takeOut: (anyway = false) => view && remove.mutate({ view, anyway }),
    /** Somebody has stored a newer version meanwhile: this one goes on top of it. */
    keepMine: (newer: number) => {
      change({ revision: newer });
      save({ onTopOf: newer });
    },
  };
}
