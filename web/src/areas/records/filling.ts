// A record while it is filled in: what stands on the screen, what the server says of it, and what
// becomes of it.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { answer, client, mayRetry, Refused, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";
import { useKept } from "../../ui/kept";
import { newIdempotencyKey } from "../../ui/marks";
import { useNotify } from "../../ui/notices";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import {
  type Entries,
  entriesWith,
  useJudgement,
  useTouched,
  type Values,
} from "../form-sheet/judging";
import { type Desk, type RecordView, recordQuery, useRefreshLists } from "./queries";
import type { Settled } from "./two-versions";

const t = words("records");

export const NEW = "new";

type Kept = Entries & {
  revision: number | null;
  /** What the record held when it was opened here. */
  opened?: Values;
};

function keptOf(record: RecordView | null, desk: Desk): Kept {
  if (!record) return { ...entriesWith(desk.sheet.starting), revision: null };
  const reasons = Object.fromEntries(
    Object.entries(record.reasons).map(([rule, { text, basis }]) => [rule, { text, basis }]),
  );
  const { values, revision, proposals_applied: applied } = record;
  return { values, reasons, applied, revision, opened: values };
}

export type FillingState = ReturnType<typeof useFilling>;

export function useFilling(desk: Desk, record: RecordView | null) {
  const start = keptOf(record, desk);
  const kept = useKept<Kept>(`entry:${desk.key}:${record?.number ?? NEW}`, start);
  const mayWrite = useMay("write_records");
  const readOnly = !mayWrite || record?.state === "submitted" || record?.state === "approved";
  const { revision, opened, ...typed } = kept.value;
  // A record at rest shows what is stored, whatever was being typed when it came to rest.
  const stranded = readOnly && kept.dirty;
  const { revision: _revision, opened: _opened, ...asStored } = start;
  const entries = stranded ? asStored : typed;
  const newer = record !== null && !kept.dirty && record.revision > (revision ?? 0);
  useEffect(() => {
    // While nothing was changed here, it follows what is stored.
    if (newer) kept.forget(start);
  });
  // A record that was just saved for the first time keeps showing what was told on saving.
  const touched = useTouched(useLocation().state?.pressed ?? null);
  const judgement = useJudgement(desk.key, desk.release, entries, touched.touched, record);
  const store = useStore(desk, record, kept.forget);
  const lift = useLift(desk, record, kept.forget);
  const queries = useQueryClient();
  function press(moment: "save" | "submit", approve = false) {
    touched.press(moment);
    const { values, reasons, applied: proposals_applied } = entries;
    store.mutate({
      ...{ values, reasons, proposals_applied, revision },
      submit: moment === "submit",
      approve,
      idempotency_key: newIdempotencyKey(),
    });
  }
  async function settle({ values, revision, allTheirs }: Settled) {
    store.reset();
    const newest = await queries.fetchQuery({
      ...recordQuery(desk.key, String(record?.number)),
      staleTime: 0,
    });
    if (allTheirs) kept.forget(keptOf(newest, desk));
    else kept.change((before) => ({ ...before, values, revision, opened: newest.values }));
  }
  const problem = store.error instanceof Refused ? store.error.problem : null;
  const refused = problem?.type.endsWith("blocked") ?? false;
  const corrected =
    refused &&
    touched.pressed !== null &&
    !judgement.isPlaceholderData &&
    (judgement.data?.[touched.pressed].may_pass ?? false);
  return {
    ...{ desk, record, readOnly, mayWrite, entries, typed, opened, touched, judgement, lift },
    ...{ refused: refused && !corrected, corrected, stranded, press, settle },
    dirty: kept.dirty,
    isStoring: store.isPending,
    refusal: store.error,
    // Told on saving, or before, where what is stored is asked for again.
    overtaken:
      record !== null &&
      !readOnly &&
      kept.dirty &&
      (problem?.type.endsWith("changed-meanwhile") || record.values_revision > (revision ?? 0)),
    change: (update: (before: Entries) => Entries) =>
      kept.change((before) => ({ ...before, ...update(before) })),
    begin: (values: Values) => kept.change({ ...entriesWith(values), revision: null }),
    discard: () => {
      kept.forget(start);
      store.reset();
    },
    /** The record as it is stored by now is shown, and nothing of what was typed. */
    follow: (next: RecordView) => {
      kept.forget(keptOf(next, desk));
      takeOver(recordQuery(desk.key, String(next.number)).queryKey, next);
    },
  };
}

function useStore(desk: Desk, record: RecordView | null, forget: (next: Kept) => void) {
  const refresh = useRefreshLists();
  const navigate = useNavigate();
  const notify = useNotify();
  const path = { form_key: desk.key };
  return useMutation({
    mutationFn: (body: Schemas["SaveBody"]) =>
      record
        ? answer(
            client.PUT("/api/v1/forms/{form_key}/records/{number}", {
              params: { path: { ...path, number: record.number } },
              body,
            }),
          )
        : answer(client.POST("/api/v1/forms/{form_key}/records", { params: { path }, body })),
    // Sent again with its mark, what had arrived already is not stored twice.
    retry: mayRetry,
    retryDelay: 1500,
    onSuccess: async (stored) => {
      forget(keptOf(stored, desk));
      await takeOver(keys.record(desk.key, stored.number), stored);
      refresh();
      const violated = stored.violations.length;
      notify({
        text: t("record_stored", {
          number: stored.number,
          state: stored.state,
          on_hold: String(stored.on_hold),
          violated,
          violatedShown: writtenNumber(violated),
        }),
      });
      if (!record)
        navigate(`../records/${stored.number}`, { replace: true, state: { pressed: "save" } });
    },
  });
}

function useLift(desk: Desk, record: RecordView | null, forget: (next: Kept) => void) {
  const refresh = useRefreshLists();
  const notify = useNotify();
  return useMutation({
    mutationFn: ({ number, revision }: RecordView) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/records/{number}/lift-hold", {
          params: { path: { form_key: desk.key, number } },
          body: { revision },
        }),
      ),
    onSuccess: async (stored) => {
      forget(keptOf(stored, desk));
      await takeOver(keys.record(desk.key, stored.number), stored);
      refresh();
      notify({ text: t("the_hold_of_record_number_is_lifted", { number: record?.number ?? 0 }) });
    },
  });
}
