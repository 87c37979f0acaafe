// Impact on stored records: what releasing the draft would newly refuse or warn of.
import { Scale } from "lucide-react";
import { useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { JobProgress } from "../cases/job-progress";
import { useForm } from "../form/form";
import { useImpact } from "./impact";
import { ImpactResult } from "./impact-result";

export function ImpactPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const { job, impact, stale, saved_since: saved, ...analysis } = useImpact(formKey, form);
  return (
    <Page
      title="Impact on stored records"
      of={form?.name}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-2xl">Impact of the draft on stored records</h2>
        <JobProgress formKey={formKey} job={job} what="record" />
        {analysis.mayBegin && (
          <Button look={impact && !stale ? "line" : "solid"} onClick={() => analysis.begin()}>
            <Scale size={16} aria-hidden="true" /> {job ? "Work out again" : "Work out impact"}
          </Button>
        )}
      </div>
      <Trouble error={analysis.error} />
      {analysis.known && !impact && !isUnderWay(job) && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          Every stored record is judged by the draft and by the release in force, as it is. Then you
          see how many the draft would newly refuse or warn of, by which rule, and which.
        </p>
      )}
      {stale && impact && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          The draft or the release has changed since: what follows is of before.
        </p>
      )}
      {!stale && impact && saved > 0 && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          {saved === 1 ? "1 record was" : `${writtenNumber(saved)} records were`} saved since: what
          follows does not count {saved === 1 ? "it" : "them"} as{" "}
          {saved === 1 ? "it is" : "they are"} now.
        </p>
      )}
      {impact && job && (
        <ImpactResult
          formKey={formKey}
          impact={impact}
          at={job.ended_at ?? job.created_at}
          stale={stale}
        />
      )}
    </Page>
  );
}
