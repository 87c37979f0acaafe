// What the rules' screen asks of the server.
import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useNotify } from "../../ui/notices";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { type FormView, oneByOne, useRefresh, useTurn } from "../form/form";
import {
  eninputOf,
  isCheck,
  type Moment,
  type Rule,
  type RuleDraft,
  type RuleView,
  type Severity,
} from "../form/rule";

const t = words("rules");

function readingOf(formKey: string, draft: RuleDraft, replaces: string | null) {
  const body = eninputOf(draft);
  return queryOptions({
    queryKey: ["reading", formKey, replaces, body],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/rules/read", {
          params: { path: { form_key: formKey }, query: { replaces } },
          body,
          signal,
        }),
      ),
    gcTime: 10_000,
  });
}

/**
 * How the rule being written reads, and what is to be corrected in it.
 *
 * Until the answer comes, it is that of the draft as it was: good to show, not to act upon.
 */
export function useReading(formKey: string, draft: RuleDraft, replaces: string | null = null) {
  return useQuery({
    ...readingOf(formKey, draft, replaces),
    placeholderData: (before) => before,
  });
}

/** Asks how a draft reads and waits for the answer: for whatever acts upon it. */
export function useRead(formKey: string) {
  const queries = useQueryClient();
  return (draft: RuleDraft) => queries.fetchQuery(readingOf(formKey, draft, null));
}

type Storing = { draft: RuleDraft; revision: number | null; unfinished: boolean };

/** `onStored` is called even when whoever stored it has gone elsewhere meanwhile. */
export function useStoreRule(formKey: string, onStored: () => void) {
  const refresh = useRefresh(formKey);
  return useMutation({
    scope: oneByOne(formKey),
    mutationFn: ({ draft, revision, unfinished }: Storing) =>
      revision === null
        ? answer(
            client.POST("/api/v1/forms/{form_key}/rules", {
              params: { path: { form_key: formKey } },
              body: { ...eninputOf(draft), unfinished, draw_key: true },
            }),
          )
        : answer(
            client.PUT("/api/v1/forms/{form_key}/rules/{rule_key}", {
              params: { path: { form_key: formKey, rule_key: draft.rule.key } },
              body: { ...eninputOf(draft), unfinished, revision },
            }),
          ),
    onSuccess: async () => {
      await refresh();
      onStored();
    },
  });
}

function versionsOf(views: readonly RuleView[]) {
  return views.map(({ rule, revision }) => ({ key: rule.key, revision }));
}

/**
 * Take rules out; the notice offers to put them back where they were. `onRemoved` is called even
 * when their place on screen has gone before the server answered.
 */
export function useRemoveRules(formKey: string, onRemoved: () => void) {
  const refresh = useRefresh(formKey);
  const notify = useNotify();
  const undo = useTurn(formKey, "undo");
  return useMutation({
    scope: oneByOne(formKey),
    mutationFn: (views: readonly RuleView[]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/rule-removal", {
          params: { path: { form_key: formKey } },
          body: { rules: versionsOf(views) },
        }),
      ),
    onSuccess: (_, views) => {
      onRemoved();
      const what =
        views.length === 1
          ? t("called_was", { called: views[0]?.called ?? "" })
          : t("count_rules_were", { count: views.length, countShown: writtenNumber(views.length) });
      notify({ text: t("what_removed", { what }), undo: () => undo.mutate() });
    },
    // Not waited for: the editor closes as soon as the server has answered.
    onSettled: () => {
      refresh();
    },
  });
}

export type Adjustment = {
  keys: string[];
  severity?: Partial<Record<Moment, Severity>>;
  hold?: boolean;
  enabled?: boolean;
};

/** Step severities, holds or switches at once on screen; the server's answer follows. */
export function useAdjustRules(formKey: string) {
  const queries = useQueryClient();
  const refresh = useRefresh(formKey);
  const notify = useNotify();
  const queryKey = ["form", formKey];
  const steps = `adjust-${formKey}`;
  function put(keys: readonly string[], change: (view: RuleView) => RuleView) {
    const wanted = new Set(keys);
    queries.setQueryData<FormView>(
      queryKey,
      (form) =>
        form && { ...form, rules: form.rules.map((v) => (wanted.has(v.rule.key) ? change(v) : v)) },
    );
  }
  return useMutation({
    mutationKey: [steps],
    scope: oneByOne(formKey),
    mutationFn: ({ keys, severity, hold, enabled }: Adjustment) => {
      const form = queries.getQueryData<FormView>(queryKey);
      const wanted = new Set(keys);
      const views = form?.rules.filter((view) => wanted.has(view.rule.key)) ?? [];
      // Entry never carries a block: the ladder of that moment ends at a warning.
      const change = { severity: severity as Schemas["SeverityChange"] | undefined, hold, enabled };
      return answer(
        client.PATCH("/api/v1/forms/{form_key}/rules", {
          params: { path: { form_key: formKey } },
          body: { rules: versionsOf(views).map((one) => ({ ...one, ...change })) },
        }),
      );
    },
    onMutate: async ({ keys, severity, hold, enabled }) => {
      await queries.cancelQueries({ queryKey });
      put(keys, (view) => ({
        ...view,
        rule: {
          ...view.rule,
          enabled: enabled ?? view.rule.enabled,
          ...(isCheck(view.rule) && {
            severity: { ...view.rule.severity, ...severity },
            hold: hold ?? view.rule.hold,
          }),
        } as Rule,
      }));
    },
    onSuccess: (stored) => {
      const versions = new Map(stored.map(({ key, revision }) => [key, revision]));
      put([...versions.keys()], (view) => ({
        ...view,
        revision: versions.get(view.rule.key) ?? view.revision,
      }));
    },
    onError: () => notify({ text: t("somebody_else_changed_this_rule_the_newer") }),
    onSettled: () => {
      // Only after the last of several steps, so that none of them is taken back on screen.
      if (queries.isMutating({ mutationKey: [steps] }) === 1) refresh();
    },
  });
}

/** Put the rules in another order, at once on screen; the server's answer follows. */
export function useOrderRules(formKey: string) {
  const queries = useQueryClient();
  const refresh = useRefresh(formKey);
  const notify = useNotify();
  const queryKey = ["form", formKey];
  const steps = `order-rules-${formKey}`;
  return useMutation({
    mutationKey: [steps],
    scope: oneByOne(formKey),
    mutationFn: (keys: string[]) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/rule-order", {
          params: { path: { form_key: formKey } },
          body: { keys },
        }),
      ),
    onMutate: async (keys) => {
      await queries.cancelQueries({ queryKey });
      queries.setQueryData<FormView>(queryKey, (form) => {
        if (!form) return form;
        const views = new Map(form.rules.map((view) => [view.rule.key, view]));
        return { ...form, rules: keys.flatMap((key) => views.get(key) ?? []) };
      });
    },
    onError: () => notify({ text: t("somebody_else_changed_the_rules_the_newer") }),
    onSettled: () => {
      if (queries.isMutating({ mutationKey: [steps] }) === 1) refresh();
    },
  });
}

/** The functions that formulas can call, with what each says. */
export function useFunctions() {
  return useQuery({
    queryKey: ["functions"],
    queryFn: () => answer(client.GET("/api/v1/functions")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
