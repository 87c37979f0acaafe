// The stored records weighed against the draft: what releasing it would newly stop or warn of.
import { useMutation, useQuery } from "@tanstack/react-query";
import { Scale } from "lucide-react";
import { useParams } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { isUnderWay, whileUnderWay } from "../../api/jobs";
import { takeOver } from "../../api/queries";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { JobProgress } from "../cases/job-progress";
import { useForm } from "../form/form";
import { Weighed } from "./weighed";

export function WeighingPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const mayWeigh = useMay("edit_draft");
  const queryKey = ["weighing", formKey, form?.revision, form?.release?.number ?? 0];
  const path = { form_key: formKey };
  const weighing = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/impact", { params: { path } })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
    placeholderData: (before) => before,
  });
  const weigh = useMutation({
    mutationFn: () => answer(client.POST("/api/v1/forms/{form_key}/impact", { params: { path } })),
    // Known at once to be under way: from then on it is asked for until it is done.
    onSuccess: (job) =>
      takeOver<Schemas["ImpactStateView"]>(queryKey, (before) => ({
        weight: before?.weight ?? null,
        stale: before?.stale ?? false,
        saved_since: 0,
        job,
      })),
  });
  const { job, weight, stale } = weighing.data ?? { job: null, weight: null, stale: false };
  const saved = weighing.data?.saved_since ?? 0;
  return (
    <Page
      title="Impact on stored records"
      of={form?.name}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-2xl">Impact of the draft on stored records</h2>
        <JobProgress formKey={formKey} job={job} what="record" />
        {mayWeigh && !isUnderWay(job) && (
          <Button look={weight && !stale ? "line" : "solid"} onClick={() => weigh.mutate()}>
            <Scale size={16} aria-hidden="true" /> {job ? "Work out again" : "Work out impact"}
          </Button>
        )}
      </div>
      <Trouble error={weighing.error ?? weigh.error} />
      {weighing.data && !weight && !isUnderWay(job) && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          Every stored record is judged by the draft and by the release in force, as it is. Then you
          see how many the draft would newly refuse or warn of, by which rule, and which.
        </p>
      )}
      {stale && weight && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          The draft or the release has changed since: what follows is of before.
        </p>
      )}
      {!stale && weight && saved > 0 && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          {saved === 1 ? "1 record was" : `${writtenNumber(saved)} records were`} saved since: what
          follows does not count {saved === 1 ? "it" : "them"} as{" "}
          {saved === 1 ? "it is" : "they are"} now.
        </p>
      )}
      {weight && job && (
        <Weighed
          formKey={formKey}
          weight={weight}
          at={job.ended_at ?? job.created_at}
          stale={stale}
        />
      )}
    </Page>
  );
}
