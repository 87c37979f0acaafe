// The draft of a form as the screens hold it, and turning its changes back and forth.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import { useParams } from "react-router";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { useNotify } from "../../ui/notices";
import { words } from "../../words";

const t = words("form");

export type FormView = Schemas["FormView"];

export const formQuery = (formKey: string) => ({
  queryKey: ["form", formKey],
  queryFn: () =>
    answer(client.GET("/api/v1/forms/{form_key}", { params: { path: { form_key: formKey } } })),
});

export function useForm() {
  const { formKey = "" } = useParams();
  return useQuery(formQuery(formKey));
}

/** Acts on one draft go to the server one after the other, in the order in which they were done. */
export const oneByOne = (formKey: string) => ({ id: `draft-${formKey}` });

const PARTS = ["history", "tiers", "cases", "case-counts", "proof", "slips", "drafted", "findings"];

/** What changes as well where somebody else has been at work: a release, say. */
const LIVE = ["impact", "releasing", "releases", "release-changes", "release-work", "plan"];

/** Fetch anew what a change of the draft can have changed. */
export function useRefresh(formKey: string) {
  const queries = useQueryClient();
  return useCallback(() => {
    for (const part of PARTS) queries.invalidateQueries({ queryKey: [part, formKey] });
    for (const part of ["choice-lists", "forms", "finding-counts"])
      queries.invalidateQueries({ queryKey: [part] });
    return queries.invalidateQueries({ queryKey: ["form", formKey] });
  }, [queries, formKey]);
}

const LOOKED_AT_EVERY = 3_000; // milliseconds

/** Ask again and again whether somebody has changed what is shown of a form; then fetch it anew. */
export function useLiveForm(formKey: string) {
  const queries = useQueryClient();
  const refresh = useRefresh(formKey);
  const { data } = useQuery({
    queryKey: ["state", formKey],
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
    refresh();
    for (const part of LIVE) queries.invalidateQueries({ queryKey: [part, formKey] });
  }, [data, queries, refresh, formKey]);
}

/** What could be undone and redone. */
export function useTurns(formKey: string) {
  return useQuery({
    queryKey: ["history", formKey, "turns"],
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/turns", { params: { path: { form_key: formKey } } }),
      ),
  });
}

/** Take back one's own newest change, or make it again. */
export function useTurn(formKey: string, way: "undo" | "redo") {
  const refresh = useRefresh(formKey);
  const notify = useNotify();
  const path = { form_key: formKey };
  return useMutation({
    scope: oneByOne(formKey),
    mutationFn: () =>
      answer(
        way === "undo"
          ? client.POST("/api/v1/forms/{form_key}/undo", { params: { path } })
          : client.POST("/api/v1/forms/{form_key}/redo", { params: { path } }),
      ),
    onSuccess: ({ what }) =>
      notify({ text: `${way === "undo" ? t("taken_back") : t("made_again")}: ${what}.` }),
    onError: (error) =>
      notify({
        text:
          error instanceof Refused
            ? `${error.problem.title} ${error.problem.detail}`
            : t("the_server_cannot_be_reached_nothing_was"),
      }),
    onSettled: refresh,
  });
}
