// What the fields' screen asks of the server.

import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import type { Field, FieldView } from "./field-draft";

const t = words("fields");

/** A key that is drawn from the label when the field is added. */
export const DRAWN = "new";

/** Whether nobody has said yet what is to be chosen from: then there is nothing to be read. */
function isUnsaid(field: Field) {
  return "choices" in field && field.choices.length === 0 && field.choice_list === null;
}

/** What is to be thought of in the field being written, and what cannot be stored. */
export function useFieldReading(formKey: string, field: Field, replaces: string | null) {
  return useQuery({
    queryKey: keys.fieldReading(formKey, replaces, field),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/fields/read", {
          params: { path: { form_key: formKey } },
          body: { field: { ...field, label: field.label || "Unnamed" } as Field, replaces },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    enabled: !isUnsaid(field),
    gcTime: 10_000,
    retry: false,
  });
}

/** A new field may be required from the beginning: then it gets its first rule with it. */
type Storing = { field: Field; revision: number | null; anyway: boolean; needed: boolean };

/** `onStored` is called even when whoever stored it has gone elsewhere meanwhile. */
export function useStoreField(formKey: string, onStored: () => void) {
  const path = { form_key: formKey };
  return useDraftAct(formKey, {
    act: ({ field, revision, anyway, needed }: Storing) =>
      revision === null
        ? answer(
            client.POST("/api/v1/forms/{form_key}/fields", {
              params: { path },
              body: { field, draw_key: field.key === DRAWN, needed },
            }),
          )
        : answer(
            client.PUT("/api/v1/forms/{form_key}/fields/{field_key}", {
              params: { path: { ...path, field_key: field.key } },
              body: { field, revision, anyway },
            }),
          ),
    shown: onStored,
  });
}

/** `onRemoved` is called even when the field's place on screen has gone before the server answered. */
export function useRemoveField(formKey: string, onRemoved: () => void) {
  return useDraftAct(formKey, {
    act: ({ view, anyway }: { view: FieldView; anyway: boolean }) =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/fields/{field_key}", {
          params: {
            path: { form_key: formKey, field_key: view.field.key },
            query: { revision: view.revision, anyway },
          },
        }),
      ),
    done: onRemoved,
    notice: (_, { view }) => t("label_was_removed", { label: view.field.label }),
    undo: true,
  });
}

/** Put the fields in another order, at once on screen; the server's answer follows. */
export function useOrderFields(formKey: string) {
  return useDraftAct(formKey, {
    act: (order: string[]) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/field-order", {
          params: { path: { form_key: formKey } },
          body: { keys: order },
        }),
      ),
    expected: (form, order) => ({
      ...form,
      fields: order.flatMap((key) => form.fields.filter((view) => view.field.key === key)),
    }),
    refusal: () => t("somebody_else_changed_the_fields_the_newer"),
  });
}
