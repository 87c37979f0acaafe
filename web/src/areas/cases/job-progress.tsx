// How far a long job on a draft is; who may change the draft may stop it.

import type { Job } from "../../api/jobs";
import { useMay } from "../../api/session";
import type { Counted } from "../../ui/counts";
import { JobBar } from "../form/job-bar";
import { useStop } from "./queries";

type Props = { formKey: string; job: Job | null; what: Counted };

export function JobProgress({ formKey, job, what }: Props) {
  const stop = useStop(formKey);
  const mayEdit = useMay("edit_draft");
  return (
    <JobBar
      job={job}
      what={what}
      stopping={stop.isPending}
      {...(mayEdit && { onStop: ({ id }: Job) => stop.mutate(id) })}
    />
  );
}
