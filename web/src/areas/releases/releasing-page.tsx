// Releasing: first what is known of it, on one page; then on, knowingly, at once or from a moment on.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { Page } from "../../ui/page";
import { Problems, Trouble } from "../../ui/trouble";
import { JobProgress } from "../cases/job-progress";
import { useRunAll } from "../cases/queries";
import { useLook } from "../findings/queries";
import { type FormView, useForm } from "../form/form";
import { Changes } from "./changes";
import { useImpact } from "./impact";
import { isGrave, Known } from "./known";
import { useChanges, useRelease, useReleaseWork } from "./queries";

type Outlook = Schemas["ReleaseOutlookView"];

export function ReleasingPage() {
  const form = useForm().data;
  const mayRelease = useMay("release");
  const [asked] = useSearchParams();
  const number = Number(asked.get("again"));
  const again = Number.isInteger(number) && number > 0 ? number : null;
  const what = again === null ? "Release the draft" : `Go back to release ${again}`;
  return (
    <Page
      title={what}
      of={form?.name}
      heading={<h2 className="text-2xl">{what}</h2>}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      {!mayRelease && <p className="mt-3 text-muted">Releasing is for stewards.</p>}
      {form && mayRelease && <Releasing key={again} form={form} again={again} />}
    </Page>
  );
}

function Releasing({ form, again }: { form: FormView; again: number | null }) {
  const impact = useCurrentImpact(form, again);
  const outlook = useOutlook(form, again, impact.stands);
  const run = useRun(form, impact.begin);
  const work = useReleaseWork(form.key, true);
  const before = form.release?.number ?? null;
  const changes = useChanges(form.key, form.revision, before, again, before !== null);
  // What changes is told in words below.
  const known = (outlook.data?.known ?? []).filter(
    ({ about }) => about !== "changes" || !changes.data,
  );
  return (
    <div className="mt-3 grid grid-cols-1 gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div>
        <section aria-labelledby="known-title">
          <div className="flex flex-wrap items-baseline gap-x-3 pb-1">
            <h3 id="known-title" className="text-xl">
              What is known of it
            </h3>
            <JobProgress formKey={form.key} job={impact.job} what="record" />
          </div>
          <Trouble error={outlook.error ?? impact.error} />
          {outlook.data && <Known formKey={form.key} known={known} onRun={run} />}
        </section>
        {changes.data && (
          <section aria-labelledby="changes-title" className="mt-6">
            <h3 id="changes-title" className="text-xl">
              What changes from release {before}
            </h3>
            <Changes changes={changes.data} />
          </section>
        )}
      </div>
      <div className="lg:sticky lg:top-4 lg:self-start">
        {isUnderWay(work) ? (
          <JobProgress formKey={form.key} job={work} what="record" />
        ) : (
          <>
            {work?.state === "failed" && (
              <Problems
                title="The last try to release it:"
                detail={work.trouble}
                errors={work.errors}
              />
            )}
            {outlook.data && <Wish form={form} again={again} outlook={outlook.data} />}
          </>
        )}
      </div>
    </div>
  );
}

/** The impact on stored records; the analysis is begun where its result is not known or stale. */
function useCurrentImpact(form: FormView, again: number | null) {
  const { job, impact, stale, known, mayBegin, begin, error } = useImpact(form.key, form, again);
  const begun = useRef(false);
  const lacking = form.release !== null && known && (stale || impact === null);
  useEffect(() => {
    if (!lacking || !mayBegin || begun.current) return;
    begun.current = true;
    begin();
  }, [lacking, mayBegin, begin]);
  // An analysis may be over before it was seen under way.
  const stands = known ? `${job?.id} ${job?.state} ${stale} ${impact !== null}` : undefined;
  return { job, stands, begin, error };
}

/** Have worked out what is not known of the draft as it is. */
function useRun(form: FormView, analyse: () => void) {
  const queries = useQueryClient();
  const settled = {
    onSettled: () => queries.invalidateQueries({ queryKey: ["releasing", form.key] }),
  };
  const cases = useRunAll(form.key);
  const search = useLook(form.key, form.revision);
  return (about: Outlook["known"][number]["about"]) => {
    if (about === "records") analyse();
    else if (about === "cases") cases.mutate(undefined, settled);
    else search.mutate(undefined, settled);
  };
}

function useOutlook(form: FormView, again: number | null, impact: string | undefined) {
  const outlook = useQuery({
    queryKey: ["releasing", form.key, form.revision, form.release?.number, again],
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/releasing", {
          params: { path: { form_key: form.key }, query: again === null ? {} : { again } },
        }),
      ),
    placeholderData: (before) => before,
    refetchInterval: ({ state }) =>
      state.data?.known.every(({ settled }) => settled) === false ? LOOKED_AGAIN_AFTER : false,
  });
  // As the impact comes to stand otherwise, something else is known; what is known now stays until
  // then.
  const { refetch } = outlook;
  const before = useRef(impact);
  useEffect(() => {
    const stood = before.current;
    before.current = impact;
    if (stood !== undefined && stood !== impact) refetch();
  }, [impact, refetch]);
  return outlook;
}

const SHORTEST_NOTE = 3; // characters
const LOOKED_AGAIN_AFTER = 1_000; // milliseconds, while cases run or impact is worked out

const LACKING = "still-to-say";

type WishProps = { form: FormView; again: number | null; outlook: Outlook };

function Wish({ form, again, outlook }: WishProps) {
  const kept = useKept(`release-note:${form.key}`, "");
  const note = kept.value;
  const [since, setSince] = useState<Since>({ later: false, day: "", clock: "08:00" });
  const [acknowledged, setAcknowledged] = useState<readonly string[]>([]);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const release = useRelease(form.key, () => {
    kept.close("");
    navigate(`/forms/${form.key}/releases`);
  });
  const grave = outlook.known.filter(isGrave);
  const knows = grave.every(({ fingerprint }) => acknowledged.includes(fingerprint ?? ""));
  const unsettled = outlook.known.some(({ settled }) => settled === false);
  const lacking = [
    note.trim().length < SHORTEST_NOTE && "what changed, and why",
    since.later && since.day.trim() === "" && "from which day on",
    !knows && "that you acknowledge each concern",
  ].filter((one) => one !== false);
  const waits = unsettled && "It waits until everything above is worked out.";
  const complete = lacking.length === 0 && !unsettled;
  function submit(event: FormEvent) {
    event.preventDefault();
    if (!complete || release.isPending) return;
    const from = since.later ? `${since.day} ${since.clock}` : null;
    release.mutate(
      { note, again, since: from, knowing: outlook.fingerprint },
      {
        onError: (error) => {
          if (error instanceof Refused) queries.invalidateQueries({ queryKey: ["releasing"] });
        },
      },
    );
  }
  if (outlook.refused)
    return (
      <Problems
        title="It cannot be released yet."
        detail={outlook.refused}
        errors={outlook.errors}
      />
    );
  return (
    <form
      onSubmit={submit}
      aria-label="Release it"
      className="border border-edge bg-leaf px-4 py-3"
    >
      <label className="block">
        What changed, and why
        <textarea
          className="line-input mt-1 block w-full"
          rows={3}
          spellCheck
          value={note}
          onChange={({ target }) => (target.value ? kept.change(target.value) : kept.forget(""))}
        />
      </label>
      <InForce since={since} onChange={setSince} zone={outlook.zone} />
      <Acknowledge concerns={grave} acknowledged={acknowledged} onChange={setAcknowledged} />
      <div className="mt-3">
        <Trouble error={release.error} />
      </div>
      <Button
        look="solid"
        type="submit"
        className="mt-2"
        busy={!complete || release.isPending}
        aria-describedby={complete ? undefined : LACKING}
      >
        Release
      </Button>
      {!complete && (
        <p className="mt-2 text-sm" id={LACKING}>
          {lacking.length > 0 && `Still to say: ${lacking.join("; ")}. `}
          {waits}
        </p>
      )}
      <p className="mt-2 text-sm text-muted">
        Records already stored stay as they are. What is known now is kept with the release.{" "}
        <Link to={`/forms/${form.key}/releases`} className="underline">
          Not now
        </Link>
      </p>
    </form>
  );
}

type Since = { later: boolean; day: string; clock: string };
type InForceProps = { since: Since; onChange: (since: Since) => void; zone: string };

/** From when on the release is in force: at once, or from a day and time of the form's zone. */
function InForce({ since, onChange, zone }: InForceProps) {
  return (
    <fieldset className="mt-3">
      <legend className="text-muted">In force</legend>
      <label className="flex items-center gap-1.5">
        <input
          type="radio"
          name="since"
          className="size-4 accent-thistle"
          checked={!since.later}
          onChange={() => onChange({ ...since, later: false })}
        />
        at once
      </label>
      <label className="mt-1 flex items-center gap-1.5">
        <input
          type="radio"
          name="since"
          className="size-4 accent-thistle"
          checked={since.later}
          onChange={() => onChange({ ...since, later: true })}
        />
        from a moment on
      </label>
      {since.later && (
        <div className="mt-1 ml-6">
          <DayInput
            label="From the day"
            value={since.day}
            onChange={(day) => onChange({ ...since, day })}
            className="line-input w-36"
          />
          <label className="mt-1 block">
            at{" "}
            <input
              aria-label="At what time"
              className="line-input w-24"
              autoComplete="off"
              value={since.clock}
              onChange={(event) => onChange({ ...since, clock: event.target.value })}
            />
          </label>
          <p className="text-sm text-muted">By the clock of {zone}.</p>
        </div>
      )}
    </fieldset>
  );
}

type AcknowledgeProps = {
  concerns: Outlook["known"];
  acknowledged: readonly string[];
  onChange: (acknowledged: string[]) => void;
};

/** Each concern acknowledged by name; one that is new or says something else has to be again. */
function Acknowledge({ concerns, acknowledged, onChange }: AcknowledgeProps) {
  if (concerns.length === 0) return null;
  return (
    <fieldset className="mt-3 border-l-4 border-ochre pl-3">
      <legend className="sr-only">Concerns to acknowledge</legend>
      {concerns.map(({ fingerprint = "", says }) => (
        <Tick
          key={fingerprint}
          checked={acknowledged.includes(fingerprint)}
          onChange={(next) =>
            onChange(
              next
                ? [...acknowledged, fingerprint]
                : acknowledged.filter((one) => one !== fingerprint),
            )
          }
        >
          I acknowledge: {says}
        </Tick>
      ))}
    </fieldset>
  );
}
