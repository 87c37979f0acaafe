// Tokens of other systems: what the screens ask of the server about them.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

export type Token = Schemas["TokenView"];
export type NewToken = Schemas["NewToken"];

export function useTokens(formKey: string) {
  return useQuery({
    queryKey: keys.formTokens(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/tokens", { params: { path: { form_key: formKey } } }),
      ),
  });
}

export function useMakeToken(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: NewToken) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/tokens", {
          params: { path: { form_key: formKey } },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.tokens }),
  });
}

export function useEndToken(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/tokens/{token_id}", {
          params: { path: { form_key: formKey, token_id: id } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.tokens }),
  });
}
