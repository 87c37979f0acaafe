// A try on the bench: what was entered and under which circumstances, and what the server says of it.

import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { STORING_ROLES } from "../../api/lists";
import { type Entered, type Entries, entriesWith, type Values } from "../form-sheet/judging";

export type BenchForm = Schemas["BenchForm"];
export type BenchRequest = Schemas["BenchBody"];

export type Circumstances = {
  /** The release it is judged by; null: the draft. */
  release: number | null;
  event: "create" | "update";
  /** The stored record that is changed; null: none of them. */
  number: number | null;
  /** What the record held before, where it is none of those stored. */
  stored: Values;
  entryPoint: BenchRequest["entry_point"];
  layout: string | null;
  role: string;
  /** The day that counts as today; null: today. */
  asOf: string | null;
  /** Rules that are switched off for this try. */
  off: string[];
  /** A kept case that this try was begun from. */
  case: string | null;
};

export type BenchInput = { entries: Entries; circumstances: Circumstances };

export const USUAL: Circumstances = {
  release: null,
  event: "create",
  number: null,
  stored: {},
  entryPoint: "desk",
  layout: null,
  role: STORING_ROLES[0],
  asOf: null,
  off: [],
  case: null,
};

export const inputWith = (values: Values): BenchInput => ({
  entries: entriesWith(values),
  circumstances: USUAL,
});

/** A new record with nothing entered, under the same circumstances: for the same day, above all. */
export const begunAnew = ({ circumstances }: BenchInput): BenchInput => ({
  entries: entriesWith({}),
  circumstances: { ...circumstances, event: "create", number: null, stored: {}, case: null },
});

/** A kept case as a try. */
export function inputOf(kept: Schemas["Case"]): BenchInput {
  const said = kept.circumstances;
  return {
    entries: { values: kept.values ?? {}, reasons: {}, applied: kept.proposals_applied ?? [] },
    circumstances: {
      ...USUAL,
      event: said.event ?? "create",
      stored: said.stored ?? {},
      entryPoint: said.entry_point ?? "desk",
      layout: said.layout ?? null,
      role: said.role ?? STORING_ROLES[0],
      asOf: said.as_of,
      case: kept.key === "drafted" ? null : kept.key,
    },
  };
}

/** A stored record as a change to itself. */
export function inputOfRecord({ number, values }: Schemas["RecordView"]): BenchInput {
  const begun = inputWith(values);
  return { ...begun, circumstances: { ...USUAL, event: "update", number } };
}

export function useStoredRecord(formKey: string, number: number | null) {
  return useQuery({
    queryKey: keys.benchRecord(formKey, number),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/records/{number}", {
          params: { path: { form_key: formKey, number: number ?? 0 } },
        }),
      ),
    enabled: number !== null,
    gcTime: 0,
  });
}

/** What is sent of a try. What the form does not have is left on the screen and not sent. */
export function bodyOf(
  { entries, circumstances }: BenchInput,
  form: BenchForm,
  touched: string[] = [],
) {
  const known = new Set(form.fields.map((field) => field.key));
  const values = Object.fromEntries(
    Object.entries(entries.values).filter(([key]) => known.has(key.replace(/\.again$/, ""))),
  );
  const changed = circumstances.event === "update";
  const body: BenchRequest = {
    values,
    reasons: entries.reasons,
    proposals_applied: entries.applied,
    touched,
    event: circumstances.event,
    number: changed ? circumstances.number : null,
    release: circumstances.release,
    entry_point: circumstances.entryPoint,
    layout: circumstances.layout,
    role: circumstances.role,
    as_of: circumstances.asOf,
    stored: changed ? circumstances.stored : {},
    off: circumstances.off,
    case: circumstances.case,
  };
  return body;
}

export function useBenchForm(formKey: string, revision: number, release: number | null) {
  return useQuery({
    queryKey: keys.bench(formKey, revision, release),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/bench", {
          params: { path: { form_key: formKey }, query: { release } },
        }),
      ),
    placeholderData: (before) => (before?.key === formKey ? before : undefined),
  });
}

/** What is asked of the server about a try, kept while the next answer is on its way. */
function useAsked<T>(
  what: string,
  form: { key: string; revision: number },
  body: unknown,
  ask: (signal: AbortSignal) => Promise<T>,
  enabled = true,
) {
  return useQuery({
    queryKey: keys.tried(form.key, form.revision, what, body),
    queryFn: ({ signal }) => ask(signal),
    placeholderData: (before) => before,
    gcTime: 5_000,
    staleTime: 60_000,
    enabled,
  });
}

type Where = { key: string; revision: number };
const pathOf = (form: Where) => ({ path: { form_key: form.key } });

/** The verdicts on a try; the answer to the last keystroke wins. */
export function useVerdicts(form: Where, body: BenchRequest | null) {
  return useAsked(
    "verdicts",
    form,
    body,
    (signal) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/bench", {
          params: pathOf(form),
          body: body as BenchRequest,
          signal,
        }),
      ),
    body !== null,
  );
}

export function useChanges(form: Where, before: BenchRequest | null, after: BenchRequest | null) {
  return useAsked(
    "changes",
    form,
    [before, after],
    (signal) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/bench/changes", {
          params: pathOf(form),
          body: { before: before as BenchRequest, after: after as BenchRequest },
          signal,
        }),
      ),
    before !== null && after !== null,
  );
}

export function useTrace(form: Where, request: BenchRequest, rule: string) {
  return useAsked("trace", form, [rule, request], (signal) =>
    answer(
      client.POST("/api/v1/forms/{form_key}/bench/trace", {
        params: pathOf(form),
        body: { rule, request },
        signal,
      }),
    ),
  );
}

export function useBand(form: Where, request: BenchRequest, field: string) {
  return useAsked("band", form, [field, request], (signal) =>
    answer(
      client.POST("/api/v1/forms/{form_key}/bench/band", {
        params: pathOf(form),
        body: { field, request },
        signal,
      }),
    ),
  );
}

export function useMap(form: Where, request: BenchRequest, across: string, up: string) {
  return useAsked(
    "map",
    form,
    [across, up, request],
    (signal) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/bench/map", {
          params: pathOf(form),
          body: { across, up, request },
          signal,
        }),
      ),
    across !== up,
  );
}

export function useWays(form: Where, request: BenchRequest, moment: "save" | "submit") {
  return useAsked("ways", form, [moment, request], (signal) =>
    answer(
      client.POST("/api/v1/forms/{form_key}/bench/ways", {
        params: pathOf(form),
        body: { moment, request },
        signal,
      }),
    ),
  );
}

/** The other of the two answers that a field had last, or the one beside it. */
export function flipped(
  field: Schemas["BenchForm"]["fields"][number],
  now: Entered,
  earlier: Entered[],
): Entered {
  const before = earlier.find((one) => JSON.stringify(one) !== JSON.stringify(now));
  if (before !== undefined) return before;
  if (field.type === "yes_no") return now !== true;
  if (field.type === "choice") {
    const codes = field.choices?.map((choice) => choice.code) ?? [];
    return codes[(codes.indexOf(String(now)) + 1) % codes.length] ?? null;
  }
  return null;
}
