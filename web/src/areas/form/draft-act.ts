// An act on the draft of a form: shown at once where it can be, sent in the order in which it was
// done, told in a notice that offers to undo it, and everything it changes fetched anew.
import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useNotify } from "../../ui/notices";
import { words } from "../../words";

const t = words("form");

type FormView = Schemas["FormView"];

type DraftAct<Input, Output> = {
  act: (input: Input) => Promise<Output>;
  /** How the draft looks at once, before the server has answered. */
  expected?: (form: FormView, input: Input) => FormView;
  /** How it looks once the server has answered, before it is fetched anew. */
  stored?: (form: FormView, output: Output) => FormView;
  /** Called even where whoever acted has gone elsewhere: before the draft is fetched anew… */
  done?: (output: Output, input: Input) => void;
  /** …and once it has been. */
  shown?: (output: Output, input: Input) => void;
  /** What the notice says; it offers to undo the act where `undo` says so. */
  notice?: (output: Output, input: Input) => string;
  undo?: boolean;
  /** What the notice says where the act was refused; without it, its screen shows the error. */
  refusal?: (error: Error) => string;
};

/** Fetch anew what a change of the draft can have changed; resolves once the draft is there. */
export function useRefresh(formKey: string) {
  const queries = useQueryClient();
  return useCallback(() => refresh(queries, formKey), [queries, formKey]);
}

function refresh(queries: QueryClient, formKey: string) {
  for (const queryKey of [keys.draft(formKey), keys.choiceLists, keys.forms, keys.findingCounts])
    queries.invalidateQueries({ queryKey });
  return queries.invalidateQueries({ queryKey: keys.form(formKey) });
}

function useAct<Input, Output>(
  formKey: string,
  { act, expected, stored, done, shown, refusal }: DraftAct<Input, Output>,
) {
  const queries = useQueryClient();
  const notify = useNotify();
  const mutationKey = keys.draft(formKey);
  const queryKey = keys.form(formKey);
  const show = (change: (form: FormView) => FormView) =>
    queries.setQueryData<FormView>(queryKey, (form) => form && change(form));
  return useMutation({
    mutationKey,
    scope: { id: `draft-${formKey}` },
    mutationFn: act,
    onMutate: async (input) => {
      if (!expected) return;
      await queries.cancelQueries({ queryKey });
      show((form) => expected(form, input));
    },
    onSuccess: async (output, input) => {
      if (stored) show((form) => stored(form, output));
      done?.(output, input);
      if (!shown) return;
      await refresh(queries, formKey);
      shown(output, input);
    },
    onError: (error) => refusal && notify({ text: refusal(error) }),
    onSettled: (_output, error) => {
      if (shown && !error) return;
      // Only after the last of several acts, so that none of them is taken back on screen. It is
      // not waited for: an editor closes as soon as the server has answered.
      if (queries.isMutating({ mutationKey }) === 1) refresh(queries, formKey);
    },
  });
}

/** Undo one's own newest change of the draft, or make it again. */
export function useTurn(formKey: string, way: "undo" | "redo") {
  const notify = useNotify();
  const params = { path: { form_key: formKey } };
  return useAct<void, { what: string }>(formKey, {
    act: () =>
      answer(
        way === "undo"
          ? client.POST("/api/v1/forms/{form_key}/undo", { params })
          : client.POST("/api/v1/forms/{form_key}/redo", { params }),
      ),
    done: ({ what }) => notify({ text: t("undone_or_redone", { way, what }) }),
    refusal: (error) =>
      error instanceof Refused
        ? `${error.problem.title} ${error.problem.detail}`
        : t("the_server_cannot_be_reached_nothing_was"),
  });
}

export function useDraftAct<Input = void, Output = unknown>(
  formKey: string,
  { notice, undo = false, done, ...act }: DraftAct<Input, Output>,
) {
  const notify = useNotify();
  const back = useTurn(formKey, "undo");
  return useAct<Input, Output>(formKey, {
    ...act,
    done: (output, input) => {
      done?.(output, input);
      if (notice)
        notify({ text: notice(output, input), ...(undo && { undo: () => back.mutate() }) });
    },
  });
}
