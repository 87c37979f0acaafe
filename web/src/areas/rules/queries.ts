// What the rules' screen asks of the server.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useNotify } from "../../ui/notices";
import type { FormView } from "../frame/form-frame";
import { entryOf, isCheck, type Moment, type RuleDraft, type Severity } from "./draft";

type RuleView = Schemas["RuleView"];

/** How the rule being written reads, and what is to be mended in it. */
export function useReading(formKey: string, draft: RuleDraft) {
  const body = entryOf(draft);
  return useQuery({
    queryKey: ["reading", formKey, body],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/forms/{form_key}/rules/read", {
          params: { path: { form_key: formKey } },
          body: { ...body, rule: { ...body.rule, name: body.rule.name || "Unnamed" } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    gcTime: 10_000,
  });
}

export function useStoreRule(formKey: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ draft, version }: { draft: RuleDraft; version: number | null }) =>
      version === null
        ? answer(
            client.POST("/api/forms/{form_key}/rules", {
              params: { path: { form_key: formKey } },
              body: { ...entryOf(draft), draw_key: true },
            }),
          )
        : answer(
            client.PUT("/api/forms/{form_key}/rules/{rule_key}", {
              params: { path: { form_key: formKey, rule_key: draft.rule.key } },
              body: { ...entryOf(draft), version },
            }),
          ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["form", formKey] }),
  });
}

/** Take a rule out; the notice offers to put it back where it was. */
export function useRemoveRule(formKey: string) {
  const queries = useQueryClient();
  const notify = useNotify();
  // Not waited for: the editor closes as soon as the server has answered.
  const refresh = () => {
    queries.invalidateQueries({ queryKey: ["form", formKey] });
  };
  const putBack = useMutation({
    mutationFn: ({ rule, position }: RuleView) =>
      answer(
        client.POST("/api/forms/{form_key}/rules", {
          params: { path: { form_key: formKey } },
          body: { rule, position, draw_key: false },
        }),
      ),
    onSettled: refresh,
    onError: () => notify({ text: "The rule could not be put back. Its history keeps it." }),
  });
  return useMutation({
    mutationFn: (view: RuleView) =>
      answer(
        client.DELETE("/api/forms/{form_key}/rules/{rule_key}", {
          params: {
            path: { form_key: formKey, rule_key: view.rule.key },
            query: { version: view.version },
          },
        }),
      ),
    onSuccess: (_, view) =>
      notify({ text: `“${view.rule.name}” was taken out.`, undo: () => putBack.mutate(view) }),
    onSettled: refresh,
  });
}

type Adjustment = { key: string; severity?: Partial<Record<Moment, Severity>>; on?: boolean };

/** Step severities or the switch at once on screen; the server's answer follows. */
export function useAdjustRule(formKey: string) {
  const queries = useQueryClient();
  const notify = useNotify();
  const queryKey = ["form", formKey];
  const scope = `adjust-${formKey}`;
  function put(key: string, change: (view: RuleView) => RuleView) {
    queries.setQueryData<FormView>(
      queryKey,
      (form) =>
        form && { ...form, rules: form.rules.map((v) => (v.rule.key === key ? change(v) : v)) },
    );
  }
  return useMutation({
    mutationKey: [scope],
    scope: { id: scope },
    mutationFn: ({ key, severity, on }: Adjustment) => {
      const form = queries.getQueryData<FormView>(queryKey);
      const version = form?.rules.find((view) => view.rule.key === key)?.version ?? 0;
      return answer(
        client.PATCH("/api/forms/{form_key}/rules/{rule_key}", {
          params: { path: { form_key: formKey, rule_key: key } },
          // Entry never carries a block: the ladder of that moment ends at a warning.
          body: { version, severity: severity as Schemas["SeverityChange"] | undefined, on },
        }),
      );
    },
    onMutate: async ({ key, severity, on }) => {
      await queries.cancelQueries({ queryKey });
      put(key, (view) => ({
        ...view,
        rule: {
          ...view.rule,
          on: on ?? view.rule.on,
          ...(isCheck(view.rule) && { severity: { ...view.rule.severity, ...severity } }),
        } as RuleView["rule"],
      }));
    },
    onSuccess: (stored) => put(stored.rule.key, (view) => ({ ...view, version: stored.version })),
    onError: () => notify({ text: "Somebody else changed this rule; the newer one is shown now." }),
    onSettled: () => {
      if (queries.isMutating({ mutationKey: [scope] }) === 1)
        queries.invalidateQueries({ queryKey });
    },
  });
}
