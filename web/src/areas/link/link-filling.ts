// A form being filled in by a link: what was typed is kept in this browser until it is sent.
import { useMutation } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, mayRetry, Refused, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useKeptHere } from "../../ui/kept-here";
import { newIdempotencyKey } from "../../ui/marks";
import { type Entries, entriesWith, useJudged, useTouched } from "../form-sheet/judging";
import { usePuzzle } from "./puzzle";

export type LinkForm = Schemas["LinkForm"];

export function useLinkFilling(form: LinkForm, embedded: boolean) {
  const known = new Set(form.fields.map(({ key }) => key));
  const kept = useKeptHere<Entries>(
    `link:${form.key}`,
    entriesWith(form.sheet.starting),
    (old) => ({
      ...old,
      values: Object.fromEntries(
        Object.entries(old.values).filter(([key]) => known.has(key.replace(/\.again$/, ""))),
      ),
    }),
  );
  const entries = kept.value;
  const touched = useTouched();
  const puzzle = usePuzzle(form.key);
  const path = { key: form.key };
  const body: Schemas["JudgeBody"] = {
    values: entries.values,
    reasons: entries.reasons,
    proposals_applied: entries.applied,
    touched: touched.touched,
    event: "create",
  };
  const judgement = useJudged(keys.linkJudgement(form.key, form.release, body), (signal) =>
    answer(client.POST("/api/v1/links/{key}/judge", { params: { path }, body, signal })),
  );
  const send = useMutation({
    mutationFn: async (idempotency_key: string) =>
      answer(
        client.POST("/api/v1/links/{key}/records", {
          params: { path },
          body: {
            values: entries.values,
            reasons: entries.reasons,
            proposals_applied: entries.applied,
            solution: form.puzzle ? await puzzle.solution() : "",
            idempotency_key,
          },
        }),
      ),
    // Sent again with its mark, what had arrived already is not stored twice.
    retry: mayRetry,
    retryDelay: 1500,
    onSuccess: (arrived) => {
      puzzle.renew();
      kept.forget();
      touched.begin();
      if (arrived.next_page && !arrived.text && !embedded)
        window.location.assign(arrived.next_page);
    },
    onError: (error) => {
      if (error instanceof Refused && error.problem.type.endsWith("puzzle-unsolved"))
        puzzle.renew();
    },
  });
  useEffect(() => {
    // Begun with the first entry, it is mostly done when the form is submitted.
    if (form.puzzle && kept.dirty) puzzle.solution().catch(() => {});
  }, [form.puzzle, kept.dirty, puzzle.solution]);
  function press() {
    if (send.isPending) return;
    touched.press("submit");
    send.mutate(newIdempotencyKey());
  }
  const refusal = send.error instanceof Refused ? send.error : null;
  const refused = refusal?.problem.type.endsWith("blocked") ?? false;
  const corrected =
    refused && !judgement.isPlaceholderData && (judgement.data?.submit.may_pass ?? false);
  return {
    ...{ entries, touched, judgement, send, press, change: kept.change, dirty: kept.dirty },
    refusal: refused && !corrected ? refusal : null,
    error: corrected ? null : (send.error ?? judgement.error),
    clear: () => {
      kept.forget();
      touched.begin();
      send.reset();
    },
  };
}
