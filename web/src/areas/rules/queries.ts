// What the rules' screen asks of the server.

import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import type { FormView } from "../form/form";
import {
  isCheck,
  type Moment,
  type Rule,
  type RuleDraft,
  type RuleView,
  ruleInputOf,
  type Severity,
} from "../form/rule";

const t = words("rules");

function readingOf(formKey: string, draft: RuleDraft, replaces: string | null) {
  const body = ruleInputOf(draft);
  return queryOptions({
    queryKey: keys.ruleReading(formKey, replaces, body),
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
  return useDraftAct(formKey, {
    act: ({ draft, revision, unfinished }: Storing) =>
      revision === null
        ? answer(
            client.POST("/api/v1/forms/{form_key}/rules", {
              params: { path: { form_key: formKey } },
              body: { ...ruleInputOf(draft), unfinished, draw_key: true },
            }),
          )
        : answer(
            client.PUT("/api/v1/forms/{form_key}/rules/{rule_key}", {
              params: { path: { form_key: formKey, rule_key: draft.rule.key } },
              body: { ...ruleInputOf(draft), unfinished, revision },
            }),
          ),
    shown: onStored,
  });
}

function versionsOf(views: readonly RuleView[]) {
  return views.map(({ rule, revision }) => ({ key: rule.key, revision }));
}

/** `onRemoved` is called even when the rules' place on screen has gone before the server answered. */
export function useRemoveRules(formKey: string, onRemoved: () => void) {
  return useDraftAct(formKey, {
    act: (views: readonly RuleView[]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/rule-removal", {
          params: { path: { form_key: formKey } },
          body: { rules: versionsOf(views) },
        }),
      ),
    done: onRemoved,
    notice: (_, views) => {
      const what =
        views.length === 1
          ? t("called_was", { called: views[0]?.called ?? "" })
          : t("count_rules_were", { count: views.length, countShown: writtenNumber(views.length) });
      return t("what_removed", { what });
    },
    undo: true,
  });
}

export type Adjustment = {
  keys: string[];
  severity?: Partial<Record<Moment, Severity>>;
  hold?: boolean;
  enabled?: boolean;
};

function withRules(
  form: FormView,
  keys: readonly string[],
  change: (view: RuleView) => RuleView,
): FormView {
  const wanted = new Set(keys);
  return { ...form, rules: form.rules.map((v) => (wanted.has(v.rule.key) ? change(v) : v)) };
}

/** Step severities, holds or switches at once on screen; the server's answer follows. */
export function useAdjustRules(formKey: string) {
  const queries = useQueryClient();
  return useDraftAct(formKey, {
    act: ({ keys: rules, severity, hold, enabled }: Adjustment) => {
      const form = queries.getQueryData<FormView>(keys.form(formKey));
      const wanted = new Set(rules);
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
    expected: (form, { keys: rules, severity, hold, enabled }) =>
      withRules(form, rules, (view) => ({
        ...view,
        rule: {
          ...view.rule,
          enabled: enabled ?? view.rule.enabled,
          ...(isCheck(view.rule) && {
            severity: { ...view.rule.severity, ...severity },
            hold: hold ?? view.rule.hold,
          }),
        } as Rule,
      })),
    stored: (form, changed) => {
      const versions = new Map(changed.map(({ key, revision }) => [key, revision]));
      return withRules(form, [...versions.keys()], (view) => ({
        ...view,
        revision: versions.get(view.rule.key) ?? view.revision,
      }));
    },
    refusal: () => t("somebody_else_changed_this_rule_the_newer"),
  });
}

/** Put the rules in another order, at once on screen; the server's answer follows. */
export function useOrderRules(formKey: string) {
  return useDraftAct(formKey, {
    act: (order: string[]) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/rule-order", {
          params: { path: { form_key: formKey } },
          body: { keys: order },
        }),
      ),
    expected: (form, order) => {
      const views = new Map(form.rules.map((view) => [view.rule.key, view]));
      return { ...form, rules: order.flatMap((key) => views.get(key) ?? []) };
    },
    refusal: () => t("somebody_else_changed_the_rules_the_newer"),
  });
}

/** The functions that formulas can call, with what each says. */
export function useFunctions() {
  return useQuery({
    queryKey: keys.functions,
    queryFn: () => answer(client.GET("/api/v1/functions")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
