// Impact on stored records: what releasing the draft would newly refuse or warn of.
import { Scale } from "lucide-react";
import { useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { JobProgress } from "../cases/job-progress";
import { useForm } from "../form/form";
import { useImpact } from "./impact";
import { ImpactResult } from "./impact-result";

const t = words("releases");

export function ImpactPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const { job, impact, stale, saved_since: saved, ...analysis } = useImpact(formKey, form);
  return (
    <Page
      title={t("impact_on_stored_records")}
      of={form?.name}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-2xl">{t("impact_of_the_draft_on_stored_records")}</h2>
        <JobProgress formKey={formKey} job={job} what="record" />
        {analysis.mayBegin && (
          <Button look={impact && !stale ? "line" : "solid"} onClick={() => analysis.begin()}>
            <Scale size={16} aria-hidden="true" />{" "}
            {job ? t("work_out_again") : t("work_out_impact")}
          </Button>
        )}
      </div>
      <Trouble error={analysis.error} />
      {analysis.known && !impact && !isUnderWay(job) && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {t("every_stored_record_is_judged_by_the")}
        </p>
      )}
      {stale && impact && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          {t("the_draft_or_the_release_has_changed")}
        </p>
      )}
      {!stale && impact && saved > 0 && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          {t("saved2_records_were_saved_since_what_follows", {
            saved,
            saved2: writtenNumber(saved),
          })}
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
