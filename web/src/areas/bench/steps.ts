// The steps of a try: back and forth through what was tried. Typing in one field is one step.
import { useCallback } from "react";
import { useKept } from "../../ui/kept";
import type { Entered } from "../form-sheet/judging";
import type { BenchInput } from "./trying";

const MOST_STEPS = 60;

type Step = { tried: BenchInput; typing: string | null };
export type Steps = { steps: Step[]; at: number };

export const begun = (tried: BenchInput): Steps => ({ steps: [{ tried, typing: null }], at: 0 });

/** The steps with one more; what is typed on in the same field stays the same step. */
export function stepped({ steps, at }: Steps, tried: BenchInput, typing: string | null): Steps {
  const same = typing !== null && steps[at]?.typing === typing && at > 0;
  const kept = steps.slice(0, same ? at : at + 1);
  const next = [...kept, { tried, typing }].slice(-MOST_STEPS);
  return { steps: next, at: next.length - 1 };
}

/** The typing of a field is over: what comes next is a step of its own. */
export function settled({ steps, at }: Steps): Steps {
  return {
    steps: steps.map((step, place) => (place === at ? { ...step, typing: null } : step)),
    at,
  };
}

export function useSteps(formKey: string, first: BenchInput) {
  const kept = useKept<Steps>(`bench:${formKey}`, begun(first));
  const { value, change, forget } = kept;
  const now = (value.steps[value.at] ?? value.steps[0]) as Step;
  return {
    now: now.tried,
    before: value.at > 0 ? (value.steps[value.at - 1]?.tried ?? null) : null,
    at: value.at,
    count: value.steps.length,
    change: useCallback(
      (update: (before: BenchInput) => BenchInput, typing: string | null = null) =>
        change((steps) => stepped(steps, update((steps.steps[steps.at] as Step).tried), typing)),
      [change],
    ),
    settle: useCallback(() => change(settled), [change]),
    go: useCallback(
      (by: number) =>
        change(({ steps, at }) => ({
          steps,
          at: Math.min(Math.max(at + by, 0), steps.length - 1),
        })),
      [change],
    ),
    begin: (tried: BenchInput) => forget(begun(tried)),
    /** What a field held in the steps before, the newest first. */
    earlier: (key: string): Entered[] =>
      value.steps
        .slice(0, value.at)
        .reverse()
        .map((step) => step.tried.entries.values[key] ?? null),
    /** The field that was changed last. */
    lastChanged: (): string | null => {
      for (let place = value.at; place > 0; place--) {
        const after = value.steps[place]?.tried.entries.values ?? {};
        const before = value.steps[place - 1]?.tried.entries.values ?? {};
        const keys = new Set([...Object.keys(after), ...Object.keys(before)]);
        for (const key of keys)
          if (JSON.stringify(after[key] ?? null) !== JSON.stringify(before[key] ?? null))
            return key;
      }
      return null;
    },
  };
}
