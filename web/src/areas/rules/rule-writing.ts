// A rule while it is written: what is kept of it, how it reads, and what becomes of it.
import { useState } from "react";
import { Refused } from "../../api/client";
import { useKept } from "../../ui/kept";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { Kind, Rule, RuleDraft, RuleView } from "../form/rule";
import { newRule, withKind } from "./beginning";
import { FIRST_KIND } from "./kinds";
import { useReading, useRemoveRules, useStoreRule } from "./queries";

const t = words("rules");

export type Writing = {
  form: FormView;
  view: RuleView | null;
  /** It is closed: nothing is written here any more. */
  onClose: () => void;
  /** A new rule has been added, or a copy made, which is to be rewritten. */
  onAdded?: (key: string, rewrite: boolean) => void;
  /** What a new rule begins as. */
  begun?: Begun;
};
type Kept = { draft: RuleDraft; revision: number | null };
export type Begun = { target?: string; kind?: Kind; name?: string };

function begin(form: FormView, view: RuleView | null, begun: Begun = {}): Kept {
  if (view) return { draft: { rule: view.rule, clauses: view.clauses }, revision: view.revision };
  const { target, kind = FIRST_KIND, name = "" } = begun;
  const draft = withKind(newRule(target), kind, form.fields);
  return { draft: { ...draft, rule: { ...draft.rule, name } }, revision: null };
}

/** The same rule, to be changed from there; under another name, where it has one. */
function copyOf(draft: RuleDraft): RuleDraft {
  const { name } = draft.rule;
  return { ...draft, rule: { ...draft.rule, name: name && t("name_copy", { name }) } };
}

export function useRuleWriting({ form, view, onClose, onAdded, begun }: Writing) {
  const start = begin(form, view, begun);
  const place = view?.rule.key ?? ["new", ...Object.values(begun ?? {})].join(":");
  const kept = useKept<Kept>(`rule:${form.key}:${place}`, start);
  // While nothing was changed here, it follows what is stored.
  const { draft, revision } = kept.dirty || !view ? kept.value : start;
  const { rule } = draft;
  const replaces = view?.rule.key ?? null;
  const reading = useReading(form.key, draft, replaces);
  const store = useStoreRule(form.key, () => kept.forget(start));
  const removal = useRemoveRules(form.key, close);
  /** Whether it was to be stored already: then what is still to be said is told too. */
  const [tried, setTried] = useState(false);
  function change(next: RuleDraft) {
    kept.change({ draft: next, revision });
  }
  function set(part: Partial<Rule>) {
    change({ ...draft, rule: { ...rule, ...part } as Rule });
  }
  function close() {
    kept.close(start);
    onClose();
  }
  function save(unfinished = false, onTopOf = revision) {
    setTried(true);
    store.mutate(
      { draft, revision: onTopOf, unfinished },
      {
        onSuccess: (stored) => {
          close();
          if (revision === null) onAdded?.(stored.rule.key, false);
        },
      },
    );
  }
  return {
    ...{ draft, rule, store, reading, tried, dirty: kept.dirty },
    ...{ change, set, save, close },
    trouble: removal.error ?? (isHalfTyped(reading.error) ? null : reading.error),
    remove: () => view && removal.mutate([view]),
    /** Somebody has stored a newer version meanwhile: this one goes on top of it. */
    keepMine: (newer: number) => {
      kept.change({ draft, revision: newer });
      save(false, newer);
    },
    copy: () =>
      store.mutate(
        { draft: copyOf(draft), revision: null, unfinished: true },
        { onSuccess: (copied) => onAdded?.(copied.rule.key, true) },
      ),
  };
}

/** Whether the server could not read a day that is still being typed: the day tells it itself. */
function isHalfTyped(error: unknown) {
  return (
    error instanceof Refused &&
    error.problem.errors?.every(({ place }) => place.includes("in_force_")) === true
  );
}
