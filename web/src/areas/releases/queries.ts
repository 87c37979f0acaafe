// What the releases of a form are asked for.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { isUnderWay, whileUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { useNotify } from "../../ui/notices";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";

const t = words("releases");

export type PartChange = Schemas["PartChange"];

export function useReleases(formKey: string, newest: number) {
  return useQuery({
    queryKey: keys.releases(formKey, newest),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/releases", {
          params: { path: { form_key: formKey } },
        }),
      ),
    placeholderData: (before) => before,
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
    queryKey: keys.releaseChanges(formKey, revision, before, after),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/changes", {
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
        client.POST("/api/v1/forms/{form_key}/releases", {
          params: { path: { form_key: formKey } },
          body,
        }),
      ),
    onSuccess: async (made) => {
      // Work that has begun is seen under way, however soon it is done.
      if (!("number" in made)) await takeOver(keys.releaseWork(formKey), made);
      queries.invalidateQueries();
      then();
      if ("number" in made) notify({ text: announced(made) });
      else notify({ text: t("stored_records_are_looked_at_first_the") });
    },
  });
}

/** A release that waits for its moment is not in use yet. */
function announced({ number, standing, in_force_from }: Schemas["ReleaseView"]) {
  return standing === "scheduled"
    ? t("release_number_is_scheduled_in_force_from", {
        number,
        in_force_from: writtenMoment(in_force_from),
      })
    : t("release_number_is_in_force", { number });
}

export function useWithdraw(formKey: string, then: () => void) {
  const queries = useQueryClient();
  const notify = useNotify();
  return useMutation({
    mutationFn: ({ number, why }: { number: number; why: string }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/releases/{number}/withdraw", {
          params: { path: { form_key: formKey, number } },
          body: { why },
        }),
      ),
    onSuccess: ({ number }) => {
      queries.invalidateQueries();
      then();
      notify({ text: t("release_number_is_withdrawn", { number }) });
    },
  });
}

/** The release that is being prepared, or the last one that did not come about. */
export function useReleaseWork(formKey: string, mayRelease: boolean) {
  const queries = useQueryClient();
  const notify = useNotify();
  const wasUnderWay = useRef(false);
  const work = useQuery({
    enabled: mayRelease,
    queryKey: keys.releaseWork(formKey),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/release-work", {
          params: { path: { form_key: formKey } },
        }),
      ),
    refetchInterval: ({ state }) => whileUnderWay(state.data),
  }).data;
  useEffect(() => {
    if (isUnderWay(work)) wasUnderWay.current = true;
    else if (wasUnderWay.current) {
      wasUnderWay.current = false;
      const released = work === null;
      queries.invalidateQueries();
      notify({ text: released ? t("the_release_is_made") : t("it_was_not_released") });
    }
  }, [work, queries, notify]);
  return work ?? null;
}
