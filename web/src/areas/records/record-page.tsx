// The desk: one record filled in, saved and submitted. The server judges every time.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { useKept } from "../../ui/kept";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { FormSheet } from "../form-sheet/form-sheet";
import { useJudgement, useTouched, type Values } from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";

type Record_ = Schemas["RecordView"];
type Desk = Schemas["DeskForm"];
const NEW = "new";

export function RecordPage() {
  const { formKey = "", number = NEW } = useParams();
  const desk = useQuery({
    queryKey: ["desk", formKey],
    queryFn: () =>
      answer(client.GET("/api/forms/{form_key}/desk", { params: { path: { form_key: formKey } } })),
  });
  const record = useQuery({
    queryKey: ["record", formKey, number],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/records/{number}", {
          params: { path: { form_key: formKey, number: Number(number) } },
        }),
      ),
    enabled: number !== NEW,
  });
  const error = desk.error ?? record.error;
  if (error)
    return (
      <main className="p-6">
        <Trouble error={error} />
      </main>
    );
  if (!desk.data || (number !== NEW && !record.data)) return null;
  return <Filling key={`${formKey}-${number}`} desk={desk.data} record={record.data ?? null} />;
}

type Kept = { values: Values; version: number | null };

function Filling({ desk, record }: { desk: Desk; record: Record_ | null }) {
  const start: Kept = { values: record?.values ?? {}, version: record?.version ?? null };
  const kept = useKept<Kept>(`record:${desk.key}:${record?.number ?? NEW}`, start);
  const { values, version } = kept.value;
  // A record that was just saved for the first time keeps showing what was told on saving.
  const state = useTouched(useLocation().state?.pressed ?? null);
  const mayWrite = useMay("write_records");
  const readOnly = !mayWrite || record?.state === "submitted";
  const judgement = useJudgement(
    "desk",
    desk.key,
    desk.release,
    values,
    state.touched,
    record ? "update" : "create",
  );
  const store = useStore(desk, record, kept.forget);

  function press(moment: "save" | "submit") {
    state.press(moment);
    store.mutate({ values, version, submit: moment === "submit" });
  }
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && !readOnly) press("save");
  }
  const conflict = store.error instanceof Refused ? store.error.problem : null;
  return (
    <main id="main" className="mx-auto w-full max-w-4xl px-6 py-4" onKeyDown={onKeyDown}>
      <div className="flex items-baseline gap-4">
        <h2 className="text-2xl">{record ? `Record ${record.number}` : "New record"}</h2>
        <span className="text-muted">
          {record ? `${record.state}, ` : ""}judged by release {desk.release}
        </span>
        {kept.dirty && !readOnly && (
          <Button look="quiet" className="ml-auto" onClick={() => kept.forget(start)}>
            Drop my changes
          </Button>
        )}
      </div>
      {!readOnly && (
        <PassingBar judgement={judgement.data} onPress={press} busy={store.isPending} />
      )}
      {readOnly && record?.state === "submitted" && (
        <p className="my-2 text-muted">It has been submitted and can no longer be changed.</p>
      )}
      <Trouble error={store.error ?? judgement.error} />
      {conflict?.version && (
        <div className="my-2 flex gap-2">
          <Button
            onClick={() => {
              kept.change((before) => ({ ...before, version: conflict.version ?? null }));
              store.reset();
            }}
          >
            Keep my entries and put them on top
          </Button>
          <Button
            onClick={() => {
              kept.forget({
                values: (conflict.current ?? {}) as Values,
                version: conflict.version ?? null,
              });
              store.reset();
            }}
          >
            Take the newer version
          </Button>
        </div>
      )}
      <FormSheet
        fields={desk.fields}
        values={values}
        judgement={readOnly ? undefined : judgement.data}
        pressed={state.pressed}
        readOnly={readOnly}
        onChange={(key, value) =>
          kept.change((before) => ({ ...before, values: { ...before.values, [key]: value } }))
        }
        onTouch={state.touch}
      />
    </main>
  );
}

function useStore(desk: Desk, record: Record_ | null, forget: (next: Kept) => void) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const notify = useNotify();
  const path = { form_key: desk.key };
  return useMutation({
    mutationFn: (body: Schemas["Entry"]) =>
      record
        ? answer(
            client.PUT("/api/forms/{form_key}/records/{number}", {
              params: { path: { ...path, number: record.number } },
              body,
            }),
          )
        : answer(client.POST("/api/forms/{form_key}/records", { params: { path }, body })),
    onSuccess: (stored) => {
      forget({ values: stored.values, version: stored.version });
      queries.setQueryData(["record", desk.key, String(stored.number)], stored);
      queries.invalidateQueries({ queryKey: ["records", desk.key] });
      const broken = stored.breaches.length;
      const breaks = broken > 0 ? ` It breaks ${broken} rule${broken > 1 ? "s" : ""}.` : "";
      notify({ text: `Record ${stored.number} is ${stored.state}.${breaks}` });
      if (!record)
        navigate(`../records/${stored.number}`, { replace: true, state: { pressed: "save" } });
    },
  });
}
