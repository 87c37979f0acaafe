// The impact of a draft, or of a release that may come again, on stored records.

import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { isUnderWay, whileUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";

type FormView = Schemas["FormView"];

const UNKNOWN = { job: null, impact: null, stale: false, saved_since: 0 };

/** The newest analysis, kept up to date while it runs, and what begins another. */
export function useImpact(
  formKey: string,
  form: FormView | undefined,
  again: number | null = null,
) {
  const mayAnalyse = useMay("edit_draft");
  const path = { form_key: formKey };
  const query = again === null ? {} : { again };
  const queryKey = keys.impact(formKey, form?.revision, form?.release?.number, again);
  const analysis = useQuery({
    queryKey,
    queryFn: () =>
      answer(client.GET("/api/v1/forms/{form_key}/impact", { params: { path, query } })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
    placeholderData: keepPreviousData,
    enabled: form !== undefined,
  });
  const begun = useMutation({
    mutationFn: () =>
      answer(client.POST("/api/v1/forms/{form_key}/impact", { params: { path, query } })),
    // Known at once to be under way: from then on it is asked for until it is done.
    onSuccess: (job) =>
      takeOver<Schemas["ImpactStateView"]>(queryKey, (before) => ({
        ...(before ?? UNKNOWN),
        saved_since: 0,
        job,
      })),
  });
  const state = analysis.data ?? UNKNOWN;
  return {
    ...state,
    known: analysis.isSuccess && !analysis.isPlaceholderData,
    mayBegin: mayAnalyse && !isUnderWay(state.job),
    begin: begun.mutate,
    error: analysis.error ?? begun.error,
  };
}
