// The release of a form: which is in force, which waits, and the way to the next.
import { Link, useLocation } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { writtenMoment } from "../../ui/written";
import { JobProgress } from "../cases/job-progress";
import type { FormView } from "../form/form";
import { useReleaseWork } from "../releases/queries";

export function ReleaseState({ form }: { form: FormView }) {
  const mayRelease = useMay("release");
  const work = useReleaseWork(form.key, mayRelease);
  const there = useLocation().pathname.endsWith("/releases/draft");
  return (
    <div className="flex min-w-0 items-center gap-3">
      {isUnderWay(work) ? (
        <JobProgress formKey={form.key} job={work} what="record" />
      ) : (
        <span className="truncate text-muted" title={inWords(form)}>
          {inWords(form)}
        </span>
      )}
      {mayRelease && form.draft_changed && !form.waiting && !isUnderWay(work) && !there && (
        <Link
          to={`/forms/${form.key}/releases/draft`}
          className="inline-flex min-h-8 items-center whitespace-nowrap rounded-xs border border-thistle bg-thistle px-3 py-1 text-[0.95rem] text-on-thistle hover:opacity-90"
        >
          Release the draft…
        </Link>
      )}
    </div>
  );
}

function inWords({ release, waiting, draft_changed }: FormView) {
  const changes = draft_changed ? " · unreleased changes" : "";
  if (waiting) {
    const now = release ? `Release ${release.number} in force · ` : "";
    return `${now}Release ${waiting.number} from ${writtenMoment(waiting.in_force_from)}${changes}`;
  }
  return release ? `Release ${release.number} in force${changes}` : "Not released yet.";
}
