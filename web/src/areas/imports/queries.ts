// Files of records: what the screens ask of the server about them.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { isUnderWay, whileUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { words } from "../../words";

const t = words("imports");

export type RecordFile = Schemas["FileView"];
export type Plan = Schemas["ImportPlan"];
export type Preview = Schemas["PreviewView"];

const MOST_MEGABYTES = 32;
const MEGABYTE = 1024 * 1024;

const pathOf = (formKey: string, id: number) => ({ form_key: formKey, file_id: id });

export function useFiles(formKey: string) {
  return useQuery({
    queryKey: keys.imports(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/record-files", {
          params: { path: { form_key: formKey } },
        }),
      ),
    refetchInterval: ({ state }) =>
      whileUnderWay(state.data?.find(({ job }) => isUnderWay(job))?.job),
  });
}

export function useFile(formKey: string, id: number) {
  return useQuery({
    queryKey: keys.importFile(formKey, id),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/record-files/{file_id}", {
          params: { path: pathOf(formKey, id) },
        }),
      ),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
  });
}

export type Brought = { file: File; encoding?: "windows-1252" | undefined };

/** Bring a file. One that is too large is not sent at all. */
export function useBringFile(formKey: string, onBrought: (file: RecordFile) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ file, encoding }: Brought) => {
      if (file.size > MOST_MEGABYTES * MEGABYTE) throw tooLarge(file);
      return answer(
        client.POST("/api/v1/forms/{form_key}/record-files", {
          params: {
            path: { form_key: formKey },
            query: { name: file.name.slice(0, 200), encoding },
          },
          headers: { "Content-Type": "application/octet-stream" },
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as BodyInit,
        }),
      );
    },
    onSuccess: async (file) => {
      await takeOver(keys.importFile(formKey, file.id), file);
      queries.invalidateQueries({ queryKey: keys.imports(formKey) });
      onBrought(file);
    },
  });
}

function tooLarge(file: File) {
  return new Refused({
    type: "about:blank",
    title: t("name_has_more_than_most_megabytes_mb", { name: file.name, MOST_MEGABYTES }),
    status: 413,
    detail: t("split_it_into_several_files"),
    errors: [],
  });
}

/** What a plan makes of the first rows. */
export function usePreview(formKey: string, { id, job }: RecordFile, plan: Plan) {
  return useQuery({
    queryKey: keys.importPreview(formKey, id, job?.id, job?.state, plan),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/record-files/{file_id}/preview", {
          params: { path: pathOf(formKey, id) },
          body: plan,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
  });
}

/** Work through a file by a plan, which is stored first. */
export function useRunFile(formKey: string, id: number) {
  return useMutation({
    mutationFn: async ({ plan, dry }: { plan: Plan; dry: boolean }) => {
      const params = { path: pathOf(formKey, id) };
      const at = "/api/v1/forms/{form_key}/record-files/{file_id}" as const;
      await answer(client.PUT(`${at}/plan`, { params, body: plan }));
      return answer(client.POST(`${at}/run`, { params, body: { dry } }));
    },
    // Known at once to be under way: from then on it is asked for until it is done.
    onSuccess: (file) => takeOver(keys.importFile(formKey, id), file),
  });
}

export function useStopFile(formKey: string, id: number) {
  return useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/record-files/{file_id}/stop", {
          params: { path: pathOf(formKey, id) },
        }),
      ),
    onSuccess: (file) => takeOver(keys.importFile(formKey, id), file),
  });
}

/** Forget a file; what it brought stays. */
export function useForgetFile(formKey: string, onForgotten: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/record-files/{file_id}", {
          params: { path: pathOf(formKey, id) },
        }),
      ),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: keys.imports(formKey) });
      onForgotten();
    },
  });
}

/** The rows that a run refused, fifty at a time. */
export function useRefused(formKey: string, file: RecordFile, offset: number) {
  return useQuery({
    queryKey: keys.rejectedRows(formKey, file.id, file.job?.id, file.came?.rows, offset),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/record-files/{file_id}/refused", {
          params: { path: pathOf(formKey, file.id), query: { offset } },
        }),
      ),
    enabled: (file.came?.refused ?? 0) > 0 && !isUnderWay(file.job),
    placeholderData: keepPreviousData,
  });
}
