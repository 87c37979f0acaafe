// What the server knows of the cases of a form, and what they prove.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { whileUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";

export type CaseView = Schemas["CaseView"];
export type CaseTable = Schemas["CaseTable"];
export type Technique = "both" | "boundary" | "blank" | "choice" | "pairs" | "parts";

const path = (formKey: string) => ({ path: { form_key: formKey } });

export function useCases(formKey: string) {
  const mayTry = useMay("use_bench");
  return useQuery({
    enabled: mayTry,
    queryKey: keys.cases(formKey),
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/cases", { params: path(formKey) })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
  });
}

export function useCaseCounts(formKey: string, revision: number) {
  const mayTry = useMay("use_bench");
  return useQuery({
    enabled: mayTry,
    queryKey: keys.caseCounts(formKey, revision),
    queryFn: () =>
      answer(client.GET("/api/v1/forms/{form_key}/case-counts", { params: path(formKey) })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
    placeholderData: (before) => before,
  });
}

export function useProof(formKey: string) {
  return useQuery({
    queryKey: keys.proof(formKey),
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/proof", { params: path(formKey) })),
  });
}

export function useSlips(formKey: string) {
  return useQuery({
    queryKey: keys.slips(formKey),
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/slips", { params: path(formKey) })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
  });
}

export function useDrafted(formKey: string, technique: Technique, values: 2 | 3) {
  return useQuery({
    queryKey: keys.draftedCases(formKey, technique, values),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/drafted-cases", {
          params: { ...path(formKey), query: { technique, values } },
        }),
      ),
    staleTime: 0,
  });
}

/** Fetch anew what a change of the cases can have changed. */
export function useCasesRefresh(formKey: string) {
  const queries = useQueryClient();
  return useCallback(() => {
    for (const key of [keys.caseCounts, keys.history, keys.proof, keys.slips, keys.draftedCases])
      queries.invalidateQueries({ queryKey: key(formKey) });
    queries.invalidateQueries({ queryKey: keys.forms });
    return queries.invalidateQueries({ queryKey: keys.cases(formKey) });
  }, [queries, formKey]);
}

export function useKeepSeveral(formKey: string) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: (cases: Schemas["Case"][]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/drafted-cases", {
          params: path(formKey),
          body: { cases },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useRunAll(formKey: string) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: () =>
      answer(client.POST("/api/v1/forms/{form_key}/case-runs", { params: path(formKey) })),
    onSuccess: refresh,
  });
}

export function useLookForSlips(formKey: string) {
  return useMutation({
    mutationFn: () =>
      answer(client.POST("/api/v1/forms/{form_key}/slips", { params: path(formKey) })),
    onSuccess: (slips) => takeOver(keys.slips(formKey), slips),
  });
}

export function useStop(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (job: number) =>
      answer(client.POST("/api/v1/jobs/{job_id}/stop", { params: { path: { job_id: job } } })),
    onSettled: () => {
      for (const key of [keys.cases, keys.caseCounts, keys.slips, keys.releaseWork])
        queries.invalidateQueries({ queryKey: key(formKey) });
    },
  });
}

/** `onRemoved` is called even when the cases have left the screen before the server answered. */
export function useRemoveCases(formKey: string, onRemoved: (cases: CaseView[]) => void) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: (cases: CaseView[]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/case-removal", {
          params: path(formKey),
          body: { cases: cases.map(({ key, revision }) => ({ key, revision })) },
        }),
      ),
    onSuccess: (_, cases) => {
      onRemoved(cases);
      return refresh();
    },
  });
}

export function useAccept(formKey: string) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: ({ row, why }: { row: CaseView; why: string }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/cases/{case_key}/accept", {
          params: { path: { form_key: formKey, case_key: row.key } },
          body: { revision: row.revision, why },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useChangeCase(formKey: string) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: ({ row, changed }: { row: CaseView; changed: Schemas["Case"] }) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/cases/{case_key}", {
          params: { path: { form_key: formKey, case_key: row.key } },
          body: { case: changed, revision: row.revision },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useImport(formKey: string) {
  const refresh = useCasesRefresh(formKey);
  return useMutation({
    mutationFn: (file: { name: string; text: string }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/case-file", { params: path(formKey), body: file }),
      ),
    onSuccess: refresh,
  });
}
