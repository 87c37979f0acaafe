// Calls to other systems: what the screens ask of the server about them.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { isUnderWay } from "../messages/words";

export type Target = Schemas["CallTargetView"];
export type NewTarget = Schemas["NewCallTarget"];
export type Call = Schemas["CallView"];

const of = (formKey: string) => ({ path: { form_key: formKey } });
const ofTarget = (formKey: string, id: number) => ({
  path: { form_key: formKey, target_id: id },
});

export function useTargets(formKey: string) {
  return useQuery({
    queryKey: keys.webhookTargets(formKey),
    queryFn: () =>
      answer(client.GET("/api/v1/forms/{form_key}/call-targets", { params: of(formKey) })),
  });
}

/** The calls about a form; looked at again while one waits. */
export function useCalls(formKey: string) {
  return useQuery({
    queryKey: keys.webhookList(formKey),
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/calls", { params: of(formKey) })),
    refetchInterval: ({ state }) =>
      state.data?.some((call) => isUnderWay(call, Date.now())) ? 2_000 : false,
  });
}

/** What the stand-in has received: asked again whenever another call was `made`. */
export function useReceived(formKey: string, id: number, made: string) {
  return useQuery({
    queryKey: keys.webhookCalls(formKey, id, made),
    placeholderData: keepPreviousData,
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/call-targets/{target_id}/received", {
          params: ofTarget(formKey, id),
        }),
      ),
  });
}

function useChange<T, R>(formKey: string, call: (asked: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    onSettled: () => queries.invalidateQueries({ queryKey: keys.webhooks(formKey) }),
  });
}

export const useMakeTarget = (formKey: string) =>
  useChange(formKey, (body: NewTarget) =>
    answer(client.POST("/api/v1/forms/{form_key}/call-targets", { params: of(formKey), body })),
  );

export const useChangeTarget = (formKey: string) =>
  useChange(formKey, ({ id, ...body }: { id: number; enabled: boolean; fails: number }) =>
    answer(
      client.PUT("/api/v1/forms/{form_key}/call-targets/{target_id}", {
        params: ofTarget(formKey, id),
        body,
      }),
    ),
  );

export const useCallAgain = (formKey: string) =>
  useChange(formKey, (id: number) =>
    answer(
      client.POST("/api/v1/forms/{form_key}/calls/{call_id}/again", {
        params: { path: { form_key: formKey, call_id: id } },
      }),
    ),
  );
