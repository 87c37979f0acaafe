// What the releases of a form are asked for.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useNotify } from "../../ui/notices";

export type PartChange = Schemas["PartChange"];

export function useReleases(formKey: string, newest: number) {
  return useQuery({
    queryKey: ["releases", formKey, newest],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/releases", { params: { path: { form_key: formKey } } }),
      ),
  });
}

/** What the second of two releases changed; null is the draft, as it is at `revision`. */
export function useChanges(
  formKey: string,
  revision: number,
  before: number | null,
  after: number | null,
  enabled = true,
) {
  return useQuery({
    queryKey: ["release-changes", formKey, before ?? `draft ${revision}`, after ?? revision, after],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/changes", {
          params: { path: { form_key: formKey }, query: { before, after } },
        }),
      ),
    enabled,
  });
}

/** Release the draft, or an earlier release once more: at once, or in the background. */
export function useRelease(formKey: string, then: () => void) {
  const queries = useQueryClient();
  const notify = useNotify();
  return useMutation({
    mutationFn: (body: Schemas["NewRelease"]) =>
      answer(
        client.POST("/api/forms/{form_key}/releases", {
          params: { path: { form_key: formKey } },
          body,
        }),
      ),
    onSuccess: (made) => {
      queries.invalidateQueries();
      then();
      if ("number" in made) notify({ text: `Release ${made.number} is in use from now on.` });
      else notify({ text: "Stored records are looked at first; the release follows by itself." });
    },
  });
}
