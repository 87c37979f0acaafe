// Links: what the screens of stewards ask of the server about them.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

export type LinkView = Schemas["LinkView"];
export type LinkEntry = Schemas["LinkDocument"];
export type Ending = Schemas["LinkEnding"];

export function useLinks(formKey: string) {
  return useQuery({
    queryKey: keys.links(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/links", { params: { path: { form_key: formKey } } }),
      ),
  });
}

/** `onStored` is called even when whoever stored it has gone elsewhere meanwhile. */
export function useStoreLink(
  formKey: string,
  id: number | null,
  revision: number,
  onStored: () => void,
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: LinkEntry) =>
      id === null
        ? answer(
            client.POST("/api/v1/forms/{form_key}/links", {
              params: { path: { form_key: formKey } },
              body,
            }),
          )
        : answer(
            client.PUT("/api/v1/forms/{form_key}/links/{link_id}", {
              params: { path: { form_key: formKey, link_id: id } },
              body: { ...body, revision },
            }),
          ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: keys.links(formKey) });
      onStored();
    },
  });
}

export function useEndLink(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/links/{link_id}", {
          params: { path: { form_key: formKey, link_id: id } },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: keys.links(formKey) }),
  });
}
