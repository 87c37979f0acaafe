// The release of a form: which is in force, which waits, and the way to the next.
import { Link, useLocation } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { JobProgress } from "../cases/job-progress";
import type { FormView } from "../form/form";
import { useReleaseWork } from "../releases/queries";

const t = words("frame");

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
          {t("release_the_draft_2")}
        </Link>
      )}
    </div>
  );
}

function inWords({ release, waiting, draft_changed }: FormView) {
  const changes = String(draft_changed);
  const number = release?.number ?? 0;
  if (waiting)
    return t("release_scheduled", {
      in_force: String(release !== null),
      number,
      next: waiting.number,
      from: writtenMoment(waiting.in_force_from),
      changes,
    });
  return release ? t("release_in_force", { number, changes }) : t("not_released_yet");
}
