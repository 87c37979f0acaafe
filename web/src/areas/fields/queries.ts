// What the fields' screen asks of the server.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useNotify } from "../../ui/notices";
import type { FormView } from "../frame/form-frame";
import type { Field, FieldView } from "./field-draft";

export function useStoreField(formKey: string) {
  const queries = useQueryClient();
  const path = { form_key: formKey };
  return useMutation({
    mutationFn: ({ field, version }: { field: Field; version: number | null }) =>
      version === null
        ? answer(
            client.POST("/api/forms/{form_key}/fields", {
              params: { path },
              body: { field, draw_key: true },
            }),
          )
        : answer(
            client.PUT("/api/forms/{form_key}/fields/{field_key}", {
              params: { path: { ...path, field_key: field.key } },
              body: { field, version },
            }),
          ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["form", formKey] }),
  });
}

/** Take a field out; the notice offers to put it back where it was. */
export function useRemoveField(formKey: string) {
  const queries = useQueryClient();
  const notify = useNotify();
  // Not waited for: the editor closes as soon as the server has answered.
  const refresh = () => {
    queries.invalidateQueries({ queryKey: ["form", formKey] });
  };
  const putBack = useMutation({
    mutationFn: ({ field, position }: FieldView) =>
      answer(
        client.POST("/api/forms/{form_key}/fields", {
          params: { path: { form_key: formKey } },
          body: { field, position, draw_key: false },
        }),
      ),
    onSettled: refresh,
    onError: () => notify({ text: "The field could not be put back. Its history keeps it." }),
  });
  return useMutation({
    mutationFn: (view: FieldView) =>
      answer(
        client.DELETE("/api/forms/{form_key}/fields/{field_key}", {
          params: {
            path: { form_key: formKey, field_key: view.field.key },
            query: { version: view.version },
          },
        }),
      ),
    onSuccess: (_, view) =>
      notify({ text: `“${view.field.label}” was taken out.`, undo: () => putBack.mutate(view) }),
    onSettled: refresh,
  });
}

/** Put the fields in another order, at once on screen; the server's answer follows. */
export function useOrderFields(formKey: string) {
  const queries = useQueryClient();
  const notify = useNotify();
  const queryKey = ["form", formKey];
  const scope = `order-${formKey}`;
  return useMutation({
    mutationKey: [scope],
    scope: { id: scope },
    mutationFn: (keys: string[]) =>
      answer(
        client.PUT("/api/forms/{form_key}/field-order", {
          params: { path: { form_key: formKey } },
          body: { keys },
        }),
      ),
    onMutate: async (keys) => {
      await queries.cancelQueries({ queryKey });
      queries.setQueryData<FormView>(
        queryKey,
        (form) =>
          form && {
            ...form,
            fields: keys.flatMap((key) => form.fields.filter((view) => view.field.key === key)),
          },
      );
    },
    onError: () => notify({ text: "Somebody else changed the fields; the newer ones are shown." }),
    onSettled: () => {
      // Only after the last of several steps, so that none of them is taken back on screen.
      if (queries.isMutating({ mutationKey: [scope] }) === 1)
        queries.invalidateQueries({ queryKey });
    },
  });
}
