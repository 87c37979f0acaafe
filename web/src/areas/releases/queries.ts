// What the releases of a form are asked for.
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";

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
