// Releasing: first what is known of it, on one page; then on, knowingly, at once or from a moment on.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { answer, client, Refused, type Schemas } from "../../api/client";
import { isUnderWay } from "../../api/jobs";
import { keys } from "../../api/keys";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { Page } from "../../ui/page";
import { Problems, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { JobProgress } from "../cases/job-progress";
import { useRunAll } from "../cases/queries";
import { useLook } from "../findings/queries";
import { type FormView, useForm } from "../form/form";
import { Changes } from "./changes";
import { useImpact } from "./impact";
import { isGrave, Known } from "./known";
import { useChanges, useRelease, useReleaseWork } from "./queries";

const t = words("releases");

type Outlook = Schemas["ReleaseOutlookView"];

export function ReleasingPage() {
  const form = useForm().data;
  const mayRelease = useMay("release");
  const [asked] = useSearchParams();
  const number = Number(asked.get("again"));
  const again = Number.isInteger(number) && number > 0 ? number : null;
  const what = again === null ? t("release_the_draft") : t("go_back_to_release_again", { again });
  return (
    <Page
      title={what}
      of={form?.name}
      heading={<h2 className="text-2xl">{what}</h2>}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      {!mayRelease && <p className="mt-3 text-muted">{t("releasing_is_for_stewards")}</p>}
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
              {t("what_is_known_of_it")}
            </h3>
            <JobProgress formKey={form.key} job={impact.job} what="record" />
          </div>
          <Trouble error={outlook.error ?? impact.error} />
          {outlook.data && <Known formKey={form.key} known={known} onRun={run} />}
        </section>
        {changes.data && (
          <section aria-labelledby="changes-title" className="mt-6">
            <h3 id="changes-title" className="text-xl">
              {t("what_changes_from_release_before", { before: before ?? 0 })}
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
                title={t("the_last_try_to_release_it")}
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
    onSettled: () => queries.invalidateQueries({ queryKey: keys.releasing(form.key) }),
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
    queryKey: keys.releasing(form.key, form.revision, form.release?.number, again),
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
    note.trim().length < SHORTEST_NOTE && t("what_changed_and_why_2"),
    since.later && since.day.trim() === "" && t("from_which_day_on"),
    !knows && t("that_you_acknowledge_each_concern"),
  ].filter((one) => one !== false);
  const waits = unsettled && t("it_waits_until_everything_above_is_worked");
  const complete = lacking.length === 0 && !unsettled;
  function submit(event: FormEvent) {
    event.preventDefault();
    if (!complete || release.isPending) return;
    const from = since.later ? `${since.day} ${since.clock}` : null;
    release.mutate(
      { note, again, since: from, knowing: outlook.fingerprint },
      {
        onError: (error) => {
          if (error instanceof Refused)
            queries.invalidateQueries({ queryKey: keys.releasing(form.key) });
        },
      },
    );
  }
  if (outlook.refused)
    return (
      <Problems
        title={t("it_cannot_be_released_yet")}
        detail={outlook.refused}
        errors={outlook.errors}
      />
    );
  return (
    <form
      onSubmit={submit}
      aria-label={t("release_it")}
      className="border border-edge bg-leaf px-4 py-3"
    >
      <label className="block">
        {t("what_changed_and_why")}
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
        {t("release")}
      </Button>
      {!complete && (
        <p className="mt-2 text-sm" id={LACKING}>
          {lacking.length > 0 && <>{t("still_to_say_join", { join: lacking.join("; ") })} </>}
          {waits}
        </p>
      )}
      <p className="mt-2 text-sm text-muted">
        {t("records_already_stored_stay_as_they_are")}{" "}
        <Link to={`/forms/${form.key}/releases`} className="underline">
          {t("not_now")}
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
      <legend className="text-muted">{t("in_force_2")}</legend>
      <label className="flex items-center gap-1.5">
        <input
          type="radio"
          name="since"
          className="size-4 accent-thistle"
          checked={!since.later}
          onChange={() => onChange({ ...since, later: false })}
        />
        {t("at_once")}
      </label>
      <label className="mt-1 flex items-center gap-1.5">
        <input
          type="radio"
          name="since"
          className="size-4 accent-thistle"
          checked={since.later}
          onChange={() => onChange({ ...since, later: true })}
        />
        {t("from_a_moment_on")}
      </label>
      {since.later && (
        <div className="mt-1 ml-6">
          <DayInput
            label={t("from_the_day")}
            value={since.day}
            onChange={(day) => onChange({ ...since, day })}
            className="line-input w-36"
          />
          <label className="mt-1 block">
            {t("at")}{" "}
            <input
              aria-label={t("at_what_time")}
              className="line-input w-24"
              autoComplete="off"
              value={since.clock}
              onChange={(event) => onChange({ ...since, clock: event.target.value })}
            />
          </label>
          <p className="text-sm text-muted">{t("by_the_clock_of_zone", { zone })}</p>
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
      <legend className="sr-only">{t("concerns_to_acknowledge")}</legend>
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
          {t("i_acknowledge_says", { says })}
        </Tick>
      ))}
    </fieldset>
  );
}
