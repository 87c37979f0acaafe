// What is tried on the bench now: its values and circumstances, what the server says of it, and the
// ways to change it.
import { useCallback, useEffect, useMemo, useRef } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "../../api/client";
import type { FormView } from "../form/form";
import {
  type Entered,
  type Entries,
  type Judgement,
  useTouched,
  type Values,
} from "../form-sheet/judging";
import { useSteps } from "./steps";
import {
  type BenchInput,
  bodyOf,
  type Circumstances,
  flipped,
  inputOf,
  inputOfRecord,
  inputWith,
  useBenchForm,
  useStoredRecord,
  useVerdicts,
} from "./trying";

export type BenchState = ReturnType<typeof useBenchState>;

/** A case, or a stored record as a change to itself, that another screen sends here. */
type Sent = { case?: Schemas["Case"]; record?: number } | null;

export function useBenchState(form: FormView) {
  const steps = useSteps(form.key, inputWith({}));
  const { now, change } = steps;
  const touched = useTouched();
  const bench = useBenchForm(form.key, form.revision, now.circumstances.release).data;
  useSent(form.key, change);
  const body = bench ? bodyOf(now, bench, touched.touched) : null;
  const verdicts = useVerdicts(form, body);
  const shown = { ...begunWith(verdicts.data, now, form), ...now.entries.values };
  const request = useMemo(() => (bench ? bodyOf(now, bench) : null), [bench, now]);
  const before = steps.before && bench ? bodyOf(steps.before, bench) : null;
  const changeEntries = useCallback(
    (update: (entries: Entries) => Entries) =>
      change((one: BenchInput) => ({ ...one, entries: update(one.entries) })),
    [change],
  );
  function setCircumstances(next: Partial<Circumstances>) {
    change((one) => ({ ...one, circumstances: { ...one.circumstances, ...next } }));
  }
  /** Values as if they had been typed. */
  function enter(values: Values) {
    changeEntries((one) => ({ ...one, values: { ...one.values, ...values } }));
    touched.touch(...Object.keys(values));
  }
  /** Values that nobody has touched. */
  function fill(values: Values) {
    changeEntries((one) => ({ ...one, values: { ...one.values, ...values } }));
  }
  /** Put the earlier answer of a field back, and with the next call this one. */
  function flip(key: string | null) {
    const field = bench?.fields.find((one) => one.key === (key ?? steps.lastChanged()));
    if (!field) return;
    enter({ [field.key]: flipped(field, shown[field.key] ?? null, steps.earlier(field.key)) });
  }
  return {
    ...{ form, bench, steps, now, change, touched, shown, before },
    /** What is sent of it, without what was touched. */
    request,
    judgement: verdicts.data,
    error: verdicts.error,
    ...{ changeEntries, setCircumstances, enter, fill, flip },
  };
}

function useSent(formKey: string, change: (update: () => BenchInput) => void) {
  const sent = useLocation().state as Sent;
  const taken = useRef<Sent>(null);
  const stored = useStoredRecord(formKey, sent?.record ?? null).data;
  useEffect(() => {
    if (taken.current === sent) return;
    const begun = sent?.case ? inputOf(sent.case) : stored ? inputOfRecord(stored) : null;
    if (!begun) return;
    taken.current = sent;
    change(() => begun);
  }, [sent, stored, change]);
}

/** What starting values fill of a new record where the try leaves it to them: by its own day. */
function begunWith(
  judgement: Judgement | undefined,
  { entries, circumstances }: BenchInput,
  form: FormView,
): Values {
  if (circumstances.event === "update") return {};
  // Until the first answer is there, what a record of today begins with.
  if (!judgement) return circumstances.asOf || circumstances.release ? {} : form.sheet.starting;
  const filled = Object.entries(judgement.save.fields).filter(
    ([key, state]) => !(key in entries.values) && !state.derived && !state.read_only && state.value,
  );
  return Object.fromEntries(filled.map(([key, state]) => [key, state.value as Entered]));
}
