// What the desk and its lists ask of the server.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

export type RecordView = Schemas["RecordView"];
export type Desk = Schemas["DeskFormView"];

export const deskQuery = (formKey: string) => ({
  queryKey: keys.desk(formKey),
  queryFn: () =>
    answer(
      client.GET("/api/v1/forms/{form_key}/desk", { params: { path: { form_key: formKey } } }),
    ),
});

export const recordQuery = (formKey: string, number: string) => ({
  queryKey: keys.record(formKey, number),
  queryFn: () =>
    answer(
      client.GET("/api/v1/forms/{form_key}/records/{number}", {
        params: { path: { form_key: formKey, number: Number(number) } },
      }),
    ),
});

/** The people who can have to do with a record. */
export function useColleagues() {
  return useQuery({
    queryKey: keys.colleagues,
    queryFn: () => answer(client.GET("/api/v1/colleagues")),
    staleTime: 60_000,
  });
}

/** After anything was stored: every list, and what waits at the desk. */
export function useRefreshLists() {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: keys.records });
}

/** Approve records or return them; what came of each. */
export function useDecide(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["ApprovalBody"]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/decisions", {
          params: { path: { form_key: formKey } },
          body,
        }),
      ),
    onSettled: (_done, _error, { records }) => {
      for (const { number } of records)
        queries.invalidateQueries({ queryKey: keys.record(formKey, number) });
      return queries.invalidateQueries({ queryKey: keys.records });
    },
  });
}
