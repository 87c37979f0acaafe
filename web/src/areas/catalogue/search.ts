// Searching all forms, and the way to what was found.

import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

export type Hit = Schemas["SearchHit"];

export function useHits(asked: string) {
  return useQuery({
    queryKey: keys.search(asked),
    queryFn: ({ signal }) =>
      answer(client.GET("/api/v1/search", { params: { query: { q: asked } }, signal })),
    placeholderData: (before) => before,
    enabled: asked.trim().length > 1,
  });
}

export function placeOf({ kind, form, key }: Hit) {
  switch (kind) {
    case "form":
      return `/forms/${form}/rules`;
    case "field":
      return `/forms/${form}/fields?field=${key}`;
    default:
      return `/forms/${form}/rules?rule=${key}`;
  }
}
