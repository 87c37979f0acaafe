// What the server has found wrong with the rules of a form, without any record.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { askedAgain, isUnderWay, whileUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";
import { useDraftAct } from "../form/draft-act";

export type Findings = Schemas["FindingsView"];
export type Finding = Schemas["FindingView"];

const path = (formKey: string) => ({ path: { form_key: formKey } });

/** What is known of the draft; looked for anew where the draft has changed since. */
export function useFindings(formKey: string, revision: number) {
  const mayLook = useMay("use_bench");
  return useQuery({
    enabled: mayLook,
    queryKey: keys.findings(formKey, revision),
    queryFn: () =>
      answer(client.GET("/api/v1/forms/{form_key}/findings", { params: path(formKey) })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
    placeholderData: (before) => before,
  });
}

export function useLook(formKey: string, revision: number) {
  return useMutation({
    mutationFn: () =>
      answer(client.POST("/api/v1/forms/{form_key}/findings", { params: path(formKey) })),
    onSuccess: (findings) => takeOver(keys.findings(formKey, revision), findings),
  });
}

export function useAside(formKey: string, revision: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ fingerprint, reason }: { fingerprint: string; reason: string | null }) => {
      const params = { path: { form_key: formKey, fingerprint } };
      const at = "/api/v1/forms/{form_key}/findings/{fingerprint}/aside" as const;
      return answer(
        reason === null
          ? client.DELETE(at, { params })
          : client.PUT(at, { params, body: { reason } }),
      );
    },
    onSuccess: (findings) => {
      takeOver(keys.findings(formKey, revision), findings);
      queries.invalidateQueries({ queryKey: keys.history(formKey) });
    },
  });
}

/** `onFixed` is called even when the finding has left the screen before the server answered. */
export function useFix(formKey: string, onFixed: () => void) {
  return useDraftAct(formKey, {
    act: (fingerprint: string) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/findings/{fingerprint}/fix", {
          params: { path: { form_key: formKey, fingerprint } },
        }),
      ),
    done: onFixed,
  });
}

export const isOpen = ({ aside }: Finding) => aside === null;

/** Whether it is not known of the draft as it is, and nobody is looking. */
export const lacking = ({ looked, stale, job }: Findings) =>
  (!looked || stale) && !isUnderWay(job) && job?.state !== "stopped" && job?.state !== "failed";

/** How many there are of each gravity that are not dismissed. */
export function counts(findings: Findings | undefined) {
  const open = (findings?.found ?? []).filter(isOpen);
  const wrong = open.filter(({ gravity }) => gravity === "wrong").length;
  return { wrong, doubtful: open.length - wrong };
}

/** How many that are not dismissed are about each rule. */
export function findingsByRule(findings: Findings | undefined) {
  const found = new Map<string, number>();
  for (const one of (findings?.found ?? []).filter(isOpen))
    for (const { key } of one.rules) found.set(key, (found.get(key) ?? 0) + 1);
  return found;
}

/** How many findings there are of each form; asked again, as others are at work. */
export function useFindingCounts() {
  const mayLook = useMay("use_bench");
  return useQuery({
    enabled: mayLook,
    queryKey: keys.findingCounts,
    queryFn: () => answer(client.GET("/api/v1/finding-counts")),
    refetchInterval: ({ state }) => askedAgain(state.data?.every(({ current }) => current)),
  });
}
