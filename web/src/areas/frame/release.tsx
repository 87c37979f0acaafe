// The release of a form: which is in use, and making the next, at once or in the background.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { isUnderWay, type Job, whileUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Problems, Trouble } from "../../ui/trouble";
import { JobProgress } from "../cases/job-progress";
import { useCaseCounts } from "../cases/queries";
import type { FormView } from "../form/form";
import { Changes } from "../releases/changes";
import { useChanges, useRelease } from "../releases/queries";

const NOTHING_OPEN = { sheet: "" };

export function ReleaseState({ form }: { form: FormView }) {
  const mayRelease = useMay("release");
  const [{ sheet }, ask] = useAddress(NOTHING_OPEN);
  const work = useReleaseWork(form.key, mayRelease);
  const open = sheet === "release" && mayRelease && form.draft_changed;
  const state = form.release
    ? `Release ${form.release.number} is in use${form.draft_changed ? "; the draft differs" : ""}.`
    : "Not released yet.";
  return (
    <div className="flex items-center gap-3">
      {isUnderWay(work) ? (
        <JobProgress formKey={form.key} job={work} what="record" />
      ) : (
        <span className="text-muted">{state}</span>
      )}
      {mayRelease && form.draft_changed && !isUnderWay(work) && (
        <Button look="solid" onClick={() => ask({ sheet: "release" })}>
          Release the draft…
        </Button>
      )}
      <ReleaseSheet
        form={form}
        work={work}
        open={open}
        onOpenChange={(next) => !next && ask(NOTHING_OPEN)}
      />
    </div>
  );
}

/** The release that is being prepared, or the last one that did not come about. */
function useReleaseWork(formKey: string, mayRelease: boolean) {
  const queries = useQueryClient();
  const notify = useNotify();
  const wasUnderWay = useRef(false);
  const work = useQuery({
    enabled: mayRelease,
    queryKey: ["release-work", formKey],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/release-work", {
          params: { path: { form_key: formKey } },
        }),
      ),
    refetchInterval: ({ state }) => whileUnderWay(state.data),
  }).data;
  useEffect(() => {
    if (isUnderWay(work)) wasUnderWay.current = true;
    else if (wasUnderWay.current) {
      wasUnderWay.current = false;
      const released = work === null;
      queries.invalidateQueries();
      notify({ text: released ? "The release is in use from now on." : "It was not released." });
    }
  }, [work, queries, notify]);
  return work ?? null;
}

type SheetProps = {
  form: FormView;
  work: Job | null;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

function ReleaseSheet({ form, work, open, onOpenChange }: SheetProps) {
  const [note, setNote] = useState("");
  const counts = useCaseCounts(form.key, form.revision).data;
  const changes = useChanges(
    form.key,
    form.revision,
    form.release?.number ?? null,
    null,
    open && form.release !== null,
  );
  const amiss = counts ? counts.disagreeing + counts.cannot_run : 0;
  const release = useRelease(form.key, () => {
    setNote("");
    onOpenChange(false);
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    release.mutate({ note });
  }
  return (
    <Sheet title="Release the draft" wide open={open} onOpenChange={onOpenChange}>
      <form onSubmit={submit}>
        <p>
          From then on every record is judged by{" "}
          {counted(form.rules.filter((r) => r.rule.on).length, "rule")}. Records already stored stay
          as they are.
        </p>
        {form.release && changes.data && (
          <details className="mt-3">
            <summary className="cursor-pointer text-thistle">
              What changes from release {form.release.number}:{" "}
              {counted(changes.data.length, "part")} of the form
            </summary>
            <Changes changes={changes.data} />
          </details>
        )}
        {amiss > 0 && (
          <p className="mt-2 flex items-center gap-1.5 text-madder">
            <Facet level="block" size={14} />
            {amiss} of {counts?.cases} cases {amiss === 1 ? "does" : "do"} not agree with the draft.
          </p>
        )}
        {work?.state === "failed" && !release.error && (
          <div className="mt-4">
            <Problems
              title="The last try to release it:"
              detail={work.trouble}
              errors={work.errors}
            />
          </div>
        )}
        <label className="mt-4 block">
          What changed, and why
          <textarea
            className="line-input mt-1 block w-full"
            rows={3}
            required
            minLength={3}
            spellCheck
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        <div className="mt-4">
          <Trouble error={release.error} />
        </div>
        <Button look="solid" type="submit" className="mt-3" busy={release.isPending}>
          Release
        </Button>
      </form>
    </Sheet>
  );
}
