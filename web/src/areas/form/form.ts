// The draft of a form as the screens hold it.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useRefresh } from "./draft-act";

export type FormView = Schemas["FormView"];

export const formQuery = (formKey: string) => ({
  queryKey: keys.form(formKey),
  queryFn: () =>
    answer(client.GET("/api/v1/forms/{form_key}", { params: { path: { form_key: formKey } } })),
});

export function useForm() {
  const { formKey = "" } = useParams();
  return useQuery(formQuery(formKey));
}

const LOOKED_AT_EVERY = 3_000; // milliseconds

/** Ask again and again whether somebody has changed what is shown of a form; then fetch it anew. */
export function useLiveForm(formKey: string) {
  const queries = useQueryClient();
  const refresh = useRefresh(formKey);
  const { data } = useQuery({
    queryKey: keys.formState(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/state", { params: { path: { form_key: formKey } } }),
      ),
    refetchInterval: LOOKED_AT_EVERY,
  });
  const before = useRef(data?.fingerprint);
  useEffect(() => {
    const seen = before.current;
    before.current = data?.fingerprint;
    if (seen === undefined || seen === data?.fingerprint) return;
    // An act that is under way shows what it means already, and fetches all anew at its end.
    if (queries.isMutating({ mutationKey: keys.draft(formKey) }) === 0) refresh();
    // Somebody may have released it meanwhile.
    queries.invalidateQueries({ queryKey: keys.live(formKey) });
  }, [data, queries, refresh, formKey]);
}

/** What could be undone and redone. */
export function useTurns(formKey: string) {
  return useQuery({
    queryKey: keys.turns(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/turns", { params: { path: { form_key: formKey } } }),
      ),
  });
}
