// Which rules the register shows, and in which groups. Orders and filters what the server told.

import { words } from "../../words";
import type { FormView } from "../form/form";
import { MOMENTS, type RuleView } from "../form/rule";
import { ALL_KINDS } from "./kinds";

const t = words("rules");

export type Grouping = "order" | "section" | "field" | "kind";
export type Filter =
  | "all"
  | "stops_save"
  | "stops_submit"
  | "warns"
  | "never_tried"
  | "changed_this_week"
  | "unfinished"
  | "off";

export const GROUPINGS: { value: Grouping; label: string }[] = [
  { value: "order", label: t("in_their_order") },
  { value: "section", label: t("by_section") },
  { value: "field", label: t("by_field") },
  { value: "kind", label: t("by_what_they_say") },
];
export const FILTERS: { value: Filter; label: string }[] = [
  { value: "all", label: t("all_rules") },
  { value: "stops_save", label: t("those_that_can_stop_a_save") },
  { value: "stops_submit", label: t("those_that_can_stop_a_submit") },
  { value: "warns", label: t("those_that_can_warn") },
  { value: "never_tried", label: t("those_never_tried") },
  { value: "changed_this_week", label: t("those_changed_this_week") },
  { value: "unfinished", label: t("those_unfinished") },
  { value: "off", label: t("those_switched_off") },
];

const A_WEEK = 7 * 24 * 60 * 60 * 1000;

function fits(view: RuleView, filter: Filter, now: number) {
  const { rule } = view;
  switch (filter) {
    case "all":
      return true;
    case "stops_save":
      return rule.enabled && view.speaks.save === "block";
    case "stops_submit":
      return rule.enabled && view.speaks.submit === "block";
    case "warns":
      return rule.enabled && MOMENTS.some((moment) => view.speaks[moment] === "warn");
    case "never_tried":
      return view.tried === "never";
    case "changed_this_week":
      return now - Date.parse(view.changed_at) < A_WEEK;
    case "unfinished":
      return view.problems.length > 0;
    case "off":
      return !rule.enabled;
  }
}

/** The rules that fit a search and a filter, in the order of the form. */
export function shownOf(form: FormView, search: string, filter: Filter, now = Date.now()) {
  const wanted = search.trim().toLowerCase();
  return form.rules.filter((view) => {
    if (!fits(view, filter, now)) return false;
    if (!wanted) return true;
    const message = "message" in view.rule ? (view.rule.message ?? "") : "";
    const sentence = view.sentence.map((segment) => segment.text).join("");
    return `${view.called} ${sentence} ${message}`.toLowerCase().includes(wanted);
  });
}

export type Line = { kind: "head"; key: string; label: string } | { kind: "rule"; view: RuleView };

/** The lines of the register: a heading for each group, and its rules. */
export function linesOf(form: FormView, shown: RuleView[], grouping: Grouping): Line[] {
  if (grouping === "order") return shown.map((view) => ({ kind: "rule", view }));
  const groups = new Map<string, { label: string; views: RuleView[] }>();
  for (const { key, label } of headsOf(form, grouping)) groups.set(key, { label, views: [] });
  for (const view of shown) {
    const group = groups.get(groupOf(form, view, grouping)) ?? groups.get("");
    group?.views.push(view);
  }
  return [...groups.entries()].flatMap(([key, { label, views }]) =>
    views.length === 0
      ? []
      : [
          { kind: "head" as const, key, label },
          ...views.map((view) => ({ kind: "rule" as const, view })),
        ],
  );
}

function headsOf(form: FormView, grouping: Grouping) {
  const rest = { key: "", label: t("others") };
  switch (grouping) {
    case "section":
      return [...form.sheet.sections, { key: "", label: t("without_a_section") }];
    case "field":
      return [...form.fields.map(({ field }) => ({ key: field.key, label: field.label })), rest];
    default:
      return [...ALL_KINDS.map(({ kind, together }) => ({ key: kind, label: together })), rest];
  }
}

function groupOf(form: FormView, { rule }: RuleView, grouping: Grouping): string {
  if (grouping === "kind") return rule.kind;
  const first = rule.targets[0] ?? "";
  if (grouping === "field") return first;
  return form.fields.find(({ field }) => field.key === first)?.field.section ?? "";
}
