// The desk: one record filled in, saved and submitted. The server judges every time.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Printer } from "lucide-react";
import { type KeyboardEvent, useEffect } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { answer, client, mayRetry, Refused, type Schemas } from "../../api/client";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { focusSoon, useFocusedFirst } from "../../ui/focus";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { newIdempotencyKey } from "../../ui/marks";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { FormSheet } from "../form-sheet/form-sheet";
import {
  changesOf,
  type Entries,
  entriesWith,
  useJudgement,
  useTouched,
  type Values,
} from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { RefusalSummary } from "../form-sheet/refusal-summary";
import { Starters } from "../form-sheet/starters";
import { STATE_WORDS } from "./asking";
import { Decisions } from "./decisions";
import { type Desk, deskQuery, type RecordView, recordQuery, useRefreshLists } from "./queries";
import { Standing } from "./standing";
import { type Settled, Stranded, TwoVersions } from "./two-versions";

const t = words("records");

type Record_ = RecordView;
const NEW = "new";
const LONG_FORM = 8; // fields, from which on the controls stand at the end too

export function RecordPage() {
  const { formKey = "", number = NEW } = useParams();
  const desk = useQuery(deskQuery(formKey));
  const record = useQuery({ ...recordQuery(formKey, number), enabled: number !== NEW });
  const error = desk.error ?? record.error;
  if (error)
    return (
      <Page title={t("record")} className="p-6">
        <Trouble error={error} />
      </Page>
    );
  if (!desk.data || (number !== NEW && !record.data)) return null;
  return <Filling key={`${formKey}-${number}`} desk={desk.data} record={record.data ?? null} />;
}

type Kept = Entries & {
  revision: number | null;
  /** What the record held when it was opened here. */
  opened?: Values;
};

function keptOf(record: Record_ | null, desk: Desk): Kept {
  if (!record) return { ...entriesWith(desk.sheet.starting), revision: null };
  const reasons = Object.fromEntries(
    Object.entries(record.reasons).map(([rule, { text, basis }]) => [rule, { text, basis }]),
  );
  const { values, revision, proposals_applied: applied } = record;
  return { values, reasons, applied, revision, opened: values };
}

function Filling({ desk, record }: { desk: Desk; record: Record_ | null }) {
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
  // Whoever begins a record begins to type.
  const box = useFocusedFirst<HTMLDivElement>(!record && mayWrite);
  // A record that was just saved for the first time keeps showing what was told on saving.
  const state = useTouched(useLocation().state?.pressed ?? null);
  const judgement = useJudgement(desk.key, desk.release, entries, state.touched, record);
  const store = useStore(desk, record, kept.forget);
  const lift = useLift(desk, record, kept.forget);
  const mayLift = useMay("lift_hold");
  const mayApprove = useMay("approve");
  const queries = useQueryClient();

  function press(moment: "save" | "submit", approve = false) {
    state.press(moment);
    const { values, reasons, applied: proposals_applied } = entries;
    const body = { values, reasons, proposals_applied, revision };
    store.mutate({
      ...body,
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
    focusSoon(() => document.getElementById("main"), true);
  }
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !readOnly && !store.isPending) press("save");
  }
  useEffect(() => {
    // The controls go when a record is submitted: the focus goes on to what came of it.
    if (readOnly) focusSoon(() => document.getElementById("main"), true);
  }, [readOnly]);
  const problem = store.error instanceof Refused ? store.error.problem : null;
  const refused = problem?.type.endsWith("blocked") ?? false;
  // Told on saving, or before, where what is stored is asked for again.
  const overtaken =
    record !== null &&
    !readOnly &&
    kept.dirty &&
    (problem?.type.endsWith("changed-meanwhile") || record.values_revision > (revision ?? 0));
  const corrected =
    refused &&
    state.pressed !== null &&
    !judgement.isPlaceholderData &&
    (judgement.data?.[state.pressed].may_pass ?? false);
  const title = record ? t("record_number", { number: record.number }) : t("new_record");
  const bar = (
    <PassingBar
      judgement={judgement.data}
      fields={desk.fields}
      onPress={press}
      busy={store.isPending}
    />
  );
  const next = record && mayWrite && (
    <Link to="../records/new" className="inline-block py-2 text-thistle hover:underline">
      {t("next_record")}
    </Link>
  );
  return (
    <Page
      title={title}
      of={desk.name}
      heading={null}
      className="mx-auto w-full max-w-4xl px-6 py-4"
      onKeyDown={onKeyDown}
    >
      <div className="flex items-baseline gap-4">
        <h2 className="text-2xl">{title}</h2>
        <span className="text-muted">
          {t("judged_by_release_release", {
            record: String(Boolean(record)),
            STATE_WORDS: record ? STATE_WORDS[record.state] : "",
            release: desk.release,
          })}
        </span>
        {record && (
          <Button look="quiet" className="print:hidden" onClick={() => window.print()}>
            <Printer size={16} aria-hidden="true" /> {t("print")}
          </Button>
        )}
        {kept.dirty && !readOnly && (
          <Button
            look="quiet"
            className="ml-auto"
            onClick={() => {
              kept.forget(start);
              store.reset();
              focusSoon(() => document.getElementById("main"), true);
            }}
          >
            {t("discard_my_changes")}
          </Button>
        )}
        {(!kept.dirty || readOnly) && next && <span className="ml-auto">{next}</span>}
      </div>
      {!record && !readOnly && (
        <Starters
          starters={desk.sheet.starters}
          onBegin={(values) => kept.change({ ...entriesWith(values), revision: null })}
        />
      )}
      {!readOnly && bar}
      {!readOnly && mayApprove && (
        <Button busy={store.isPending} onClick={() => press("submit", true)}>
          {t("submit_and_approve_at_once")}
        </Button>
      )}
      {record && <Standing record={record} desk={desk} judgement={judgement.data} />}
      {record && readOnly && (
        <Decisions
          formKey={desk.key}
          record={record}
          onTakenBack={(next) => {
            kept.forget(keptOf(next, desk));
            takeOver(recordQuery(desk.key, String(next.number)).queryKey, next);
          }}
        />
      )}
      {refused && !corrected && store.error instanceof Refused && state.pressed ? (
        <RefusalSummary
          refused={store.error}
          judgement={judgement.isPlaceholderData ? undefined : judgement.data}
          pressed={state.pressed}
          fields={desk.fields}
        />
      ) : (
        <Trouble
          error={corrected || overtaken ? null : (store.error ?? lift.error ?? judgement.error)}
        />
      )}
      {record?.on_hold && mayLift && !kept.dirty && (
        <Button className="my-2" busy={lift.isPending} onClick={() => lift.mutate(record)}>
          {t("lift_the_hold")}
        </Button>
      )}
      {stranded && record && (
        <Stranded
          formKey={desk.key}
          number={record.number}
          values={typed.values}
          onDrop={() => {
            kept.forget(start);
            focusSoon(() => document.getElementById("main"), true);
          }}
        />
      )}
      {overtaken && (
        <TwoVersions
          formKey={desk.key}
          number={record.number}
          values={entries.values}
          opened={opened}
          onSettled={settle}
        />
      )}
      <div ref={box}>
        <FormSheet
          fields={desk.fields}
          sheet={desk.sheet}
          entries={entries}
          judgement={judgement.data}
          pressed={readOnly ? null : state.pressed}
          readOnly={readOnly}
          passed={record?.reasons}
          held={record?.on_hold ?? false}
          {...changesOf(
            (update) => kept.change((before) => ({ ...before, ...update(before) })),
            state.touch,
          )}
        />
      </div>
      {!readOnly && desk.fields.length > LONG_FORM && (
        <section aria-label={t("at_the_end_of_the_form")}>{bar}</section>
      )}
    </Page>
  );
}

function useStore(desk: Desk, record: Record_ | null, forget: (next: Kept) => void) {
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
      await takeOver(["record", desk.key, String(stored.number)], stored);
      refresh();
      const violated = stored.breaches.length;
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

function useLift(desk: Desk, record: Record_ | null, forget: (next: Kept) => void) {
  const refresh = useRefreshLists();
  const notify = useNotify();
  return useMutation({
    mutationFn: ({ number, revision }: Record_) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/records/{number}/lift-hold", {
          params: { path: { form_key: desk.key, number } },
          body: { revision },
        }),
      ),
    onSuccess: async (stored) => {
      forget(keptOf(stored, desk));
      await takeOver(["record", desk.key, String(stored.number)], stored);
      refresh();
      notify({ text: t("the_hold_of_record_number_is_lifted", { number: record?.number ?? 0 }) });
    },
  });
}
