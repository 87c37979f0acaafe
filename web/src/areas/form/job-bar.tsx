// How far a long job is, with a way to stop it. It goes on when the screen is left.
import { Square } from "lucide-react";
import { isUnderWay, type Job } from "../../api/jobs";
import { Button } from "../../ui/button";
import { type Counted, counted } from "../../ui/counts";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";

const t = words("form");

type Props = {
  job: Job | null;
  what: Counted;
  /** Without it nobody here may stop it. */
  onStop?: (job: Job) => void;
  stopping?: boolean;
};

export function JobBar({ job, what, onStop, stopping }: Props) {
  if (!job) return null;
  if (!isUnderWay(job))
    return job.state === "failed" || job.state === "stopped" ? (
      <span role="status" className="ml-3 text-muted">
        {job.trouble || t("stopped_what_was_done_so_far_is")}
      </span>
    ) : null;
  return (
    <span role="status" className="ml-3 flex items-center gap-2">
      <progress
        aria-label={t("progress")}
        className="h-2 w-32 appearance-none border border-edge bg-ground [&::-moz-progress-bar]:bg-thistle [&::-webkit-progress-bar]:bg-ground [&::-webkit-progress-value]:bg-thistle"
        max={Math.max(job.total, 1)}
        value={job.done}
      />
      <span className="whitespace-nowrap text-muted">
        {job.total > 0
          ? t("done_of_total", { done: writtenNumber(job.done), total: counted(job.total, what) })
          : t("beginning")}
      </span>
      {onStop && (
        <Button look="quiet" onClick={() => onStop(job)} busy={stopping ?? false}>
          <Square size={13} aria-hidden="true" /> {t("stop")}
        </Button>
      )}
    </span>
  );
}
